import { readCsv } from './csv';
import { readJsonArray } from './json-array';
import { readJsonLines } from './json-lines';
import type { Reader } from './reader';

/** The formats records can be loaded from, by media type. A new format is a new reader and a line here. */
export const READERS: ReadonlyMap<string, Reader> = new Map([
  ['application/json', readJsonArray],
  ['application/x-ndjson', readJsonLines],
  ['application/jsonl', readJsonLines],
  ['text/csv', readCsv],
]);
