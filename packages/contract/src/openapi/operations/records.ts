import { WHOLE_FORMATS } from '../../whole-formats.ts';
import { json, flag, wait, task, page, size, filter, fields, C, type Operation } from './operation.ts';

const plant = { id: 'P-0042', name: 'Agave americana', price: 34.5, colours: ['green', 'yellow'] };

/**
 * A record by a key in the query string: `.` and `..` cannot stand in a path, where browsers and proxies resolve them.
 */
const key = {
  name: 'key',
  description: 'The key of the record, any text; the only way to reach the keys . and ..',
  schema: { type: 'string', minLength: 1 },
  example: '..',
};

export const RECORDS: readonly Operation[] = [
  {
    id: 'load',
    method: 'post',
    path: `${C}/records`,
    right: 'write',
    group: 'Records',
    summary: 'Load records',
    more: 'Streamed, gzip accepted. A bad line never stops the good ones: it is counted in failed and named in errors. YAML, XML, Excel, Parquet and pages (Markdown, HTML, an archive of them) are read as a whole, up to 64 MB.',
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
        name: 'at',
        description:
          'JSON: where in the document the records are, a JSON Pointer (RFC 6901) such as /features; auto: where most of them are. Objects by their keys get the field key, lists by the names of their groups the field group; features of GeoJSON give their properties and a position.',
        schema: { type: 'string' },
        example: '/features',
      },
      {
        name: 'header',
        description:
          'CSV: the line that holds the header, from 1. Left out, it is told by the first rows: lines above it that have not as many cells (a title, comments, sep=;) are skipped.',
        schema: { type: 'integer', minimum: 1, maximum: 9999 },
      },
      task,
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
      ...Object.values(WHOLE_FORMATS).map((type) => ({ type, schema: 'Record' as const })),
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
    id: 'getRecordByKey',
    method: 'get',
    path: `${C}/record`,
    right: 'read',
    group: 'Records',
    summary: 'One record, its key in the query string',
    query: [key],
    answers: { 200: [json('RecordAnswer')] },
  },
  {
    id: 'putRecordByKey',
    method: 'put',
    path: `${C}/record`,
    right: 'write',
    group: 'Records',
    summary: 'Write one record, its key in the query string',
    query: [key],
    body: [json('Record')],
    answers: { 200: [json('RecordAnswer')], 201: [json('RecordAnswer')] },
  },
  {
    id: 'patchRecordByKey',
    method: 'patch',
    path: `${C}/record`,
    right: 'write',
    group: 'Records',
    summary: 'Change parts of a record, its key in the query string',
    query: [key],
    body: [json('Record')],
    answers: { 200: [json('RecordAnswer')] },
  },
  {
    id: 'deleteRecordByKey',
    method: 'delete',
    path: `${C}/record`,
    right: 'write',
    group: 'Records',
    summary: 'Delete one record, its key in the query string',
    query: [key],
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
