import { json, page, type Operation } from './operation.ts';

const search = { q: 'agve', facets: ['colour'], size: 5 };

export const INTERFACES: readonly Operation[] = [
  {
    id: 'listInterfaces',
    method: 'get',
    path: '/interfaces',
    right: 'admin',
    group: 'Interfaces',
    summary: 'All search pages that were made',
    answers: { 200: [json('InterfaceList')] },
  },
  {
    id: 'createInterface',
    method: 'post',
    path: '/interfaces',
    right: 'admin',
    group: 'Interfaces',
    summary: 'Make a search page; it stands at /s/{slug}',
    body: [
      json('NewInterface', {
        slug: 'nursery',
        title: 'Quillbrook Nursery',
        collection: 'plants',
        paging: 'more',
        currency: 'GBP',
        autocomplete: [
          { from: 'records', label: 'Plants', size: 5 },
          { from: 'records', label: 'Guides', collection: 'guides', size: 3 },
        ],
      }),
    ],
    answers: { 201: [json('StoredInterface')] },
  },
  {
    id: 'getInterface',
    method: 'get',
    path: '/interfaces/{slug}',
    right: 'admin',
    group: 'Interfaces',
    summary: 'How a search page is made up',
    answers: { 200: [json('StoredInterface')] },
  },
  {
    id: 'putInterface',
    method: 'put',
    path: '/interfaces/{slug}',
    right: 'admin',
    group: 'Interfaces',
    summary: 'Make up a search page anew',
    body: [json('Interface', { collection: 'plants', layout: 'cards', pageSize: 24 })],
    answers: { 200: [json('StoredInterface')] },
  },
  {
    id: 'deleteInterface',
    method: 'delete',
    path: '/interfaces/{slug}',
    right: 'admin',
    group: 'Interfaces',
    summary: 'Take a search page away; its collection stays',
    answers: { 204: null },
  },
  {
    id: 'getInterfacePage',
    method: 'get',
    path: '/interfaces/{slug}/page',
    right: 'search',
    group: 'Interfaces',
    summary: 'What a search page needs to know beforehand',
    more: 'Facets, sorts, the parts of a card and of the autocomplete. The name of a collection stands for the page it has without an interface.',
    answers: { 200: [json('InterfacePage')] },
  },
];
