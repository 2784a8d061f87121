import { createWriteStream } from 'node:fs';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { request, type Access } from '../server.ts';
import { formatOf } from './load.ts';

export interface ExportOptions {
  output?: string;
  format?: 'ndjson' | 'csv';
  fields?: string;
  filter?: string;
}

/** Writes all records of a collection to a file or to standard output. */
export async function exportRecords(access: Access, collection: string, options: ExportOptions): Promise<number> {
  const named = options.output === undefined ? null : formatOf(options.output);
  const format = options.format ?? (named === 'csv' ? 'csv' : 'ndjson');
  const query = new URLSearchParams({ format });
  if (options.fields) query.set('fields', options.fields);
  if (options.filter) query.set('filter', options.filter);
  const response = await request(access, `/collections/${encodeURIComponent(collection)}/records?${query.toString()}`);
  const body = Readable.fromWeb(response.body as never);
  if (options.output === undefined) await pipeline(body, process.stdout, { end: false });
  else await pipeline(body, createWriteStream(options.output));
  return 0;
}
