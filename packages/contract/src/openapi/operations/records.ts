import { json, flag, wait, page, size, filter, fields, C, type Operation } from './operation.ts';

const plant = { id: 'P-0042', name: 'Agave americana', price: 34.5, colours: ['green', 'yellow'] };

export const RECORDS: readonly Operation[] = [
  {
    id: 'load',
    method: 'post',
    path: `${C}/records`,
    right: 'write',
    group: 'Records',
    summary: 'Load records',
    more: 'Streamed, gzip accepted. A bad line never stops the good ones: it is counted in failed and named in errors.',
    query: [
      {
        name: 'mode',
        description: 'replace: the same key replaces; merge: RFC 7396; insert: the same key is an error.',
        schema: { enum: ['replace', 'merge', 'insert'], default: 'replace' },
      },
      wait,
      flag('assignKeys', 'Give records without the key one made from their content.'),
      flag('nest', 'Open dotted names (of a CSV header) into objects.'),
      {
        name: 'task',
        description: 'A UUID for the task, so that it can be watched while the body is still sent.',
        schema: { type: 'string', format: 'uuid' },
      },
      {
        name: 'file',
        description: 'A file of the server’s own machine instead of a body (right admin).',
        schema: { type: 'string' },
      },
    ],
    body: [
      json('Record', [plant]),
      { type: 'application/x-ndjson', schema: 'Record' },
      { type: 'application/jsonl', schema: 'Record' },
      { type: 'text/csv', schema: 'Record' },
    ],
    answers: { 200: [json('TaskAnswer')], 202: [json('TaskAnswer')] },
  },
  {
    id: 'listRecords',
    method: 'get',
    path: `${C}/records`,
    right: 'read',
    group: 'Records',
    summary: 'Page through records, or stream all of them',
    query: [
      page,
      size,
      fields,
      filter,
      {
        name: 'format',
        description: 'ndjson and csv stream all records.',
        schema: { enum: ['json', 'ndjson', 'csv'], default: 'json' },
      },
    ],
    answers: {
      200: [
        json('RecordList'),
        { type: 'application/x-ndjson', schema: 'Record' },
        { type: 'text/csv', schema: 'Record' },
      ],
    },
  },
  {
    id: 'getRecord',
    method: 'get',
    path: `${C}/records/{id}`,
    right: 'read',
    group: 'Records',
    summary: 'One record',
    answers: { 200: [json('RecordAnswer', { record: plant })] },
  },
  {
    id: 'putRecord',
    method: 'put',
    path: `${C}/records/{id}`,
    right: 'write',
    group: 'Records',
    summary: 'Write one record; it can be searched when this answers',
    body: [json('Record', plant)],
    answers: { 200: [json('RecordAnswer')], 201: [json('RecordAnswer')] },
  },
  {
    id: 'patchRecord',
    method: 'patch',
    path: `${C}/records/{id}`,
    right: 'write',
    group: 'Records',
    summary: 'Change parts of a record (JSON Merge Patch)',
    body: [
      { type: 'application/merge-patch+json', schema: 'Record', example: { price: 29 } },
      json('Record', { price: 29 }),
    ],
    answers: { 200: [json('RecordAnswer')] },
  },
  {
    id: 'deleteRecord',
    method: 'delete',
    path: `${C}/records/{id}`,
    right: 'write',
    group: 'Records',
    summary: 'Delete one record',
    answers: { 204: null },
  },
  {
    id: 'deleteRecords',
    method: 'post',
    path: `${C}/records/delete`,
    right: 'write',
    group: 'Records',
    summary: 'Delete records by their keys or by a condition',
    body: [json('RecordsToDelete', { ids: ['P-0042'] })],
    answers: { 200: [json('Deleted', { deleted: 1 })] },
  },
];
