import { json, C, type Operation } from './operation.ts';

export const COLLECTIONS: readonly Operation[] = [
  {
    id: 'listCollections',
    method: 'get',
    path: '/collections',
    right: 'admin',
    group: 'Collections',
    summary: 'All collections',
    answers: { 200: [json('CollectionList')] },
  },
  {
    id: 'createCollection',
    method: 'post',
    path: '/collections',
    right: 'admin',
    group: 'Collections',
    summary: 'Make a collection',
    body: [json('NewCollection', { name: 'bulbs', title: 'Bulbs', key: 'id' })],
    answers: { 201: [json('Collection')] },
  },
  {
    id: 'getCollection',
    method: 'get',
    path: C,
    right: 'admin',
    group: 'Collections',
    summary: 'One collection',
    answers: { 200: [json('Collection')] },
  },
  {
    id: 'patchCollection',
    method: 'patch',
    path: C,
    right: 'admin',
    group: 'Collections',
    summary: 'Rename a collection',
    body: [
      { type: 'application/merge-patch+json', schema: 'CollectionPatch', example: { title: 'Bulbs and tubers' } },
      json('CollectionPatch', { title: 'Bulbs and tubers' }),
    ],
    answers: { 200: [json('Collection')] },
  },
  {
    id: 'deleteCollection',
    method: 'delete',
    path: C,
    right: 'admin',
    group: 'Collections',
    summary: 'Delete a collection with all its records',
    answers: { 204: null },
  },
];
