import { readCsv } from './csv';
import { readJson } from './json-document';
import { readJsonLines } from './json-lines';
import type { Parser } from './parser';

/** The formats records can be loaded from, by media type. A new format is a new parser and a line here. */
export const PARSERS: ReadonlyMap<string, Parser> = new Map([
  ['application/json', readJson],
  ['application/x-ndjson', readJsonLines],
  ['application/jsonl', readJsonLines],
  ['text/csv', readCsv],
]);
