import { json, type Operation } from './operation.ts';

export const KEYS: readonly Operation[] = [
  {
    id: 'listKeys',
    method: 'get',
    path: '/keys',
    right: 'admin',
    group: 'Keys',
    summary: 'All keys, without their secrets',
    answers: { 200: [json('KeyList')] },
  },
  {
    id: 'createKey',
    method: 'post',
    path: '/keys',
    right: 'admin',
    group: 'Keys',
    summary: 'Make a key; its secret is in this answer alone',
    body: [
      json('NewKey', {
        label: 'Shop page',
        rights: ['search'],
        collections: ['plants'],
        origins: ['https://shop.example'],
        perMinute: 600,
        filter: 'stock > 0',
      }),
    ],
    answers: { 201: [json('MadeKey')] },
  },
  {
    id: 'deleteKey',
    method: 'delete',
    path: '/keys/{id}',
    right: 'admin',
    group: 'Keys',
    summary: 'Make a key worthless',
    answers: { 204: null },
  },
];
