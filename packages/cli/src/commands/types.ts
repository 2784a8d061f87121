import type { RecordJson } from '@yucca/contract';
import { writeFileSync } from 'node:fs';
import { createInterface } from 'node:readline';
import { Readable } from 'node:stream';
import { RecordType } from '../record-type.ts';
import { request, type Access } from '../server.ts';

export interface TypesOptions {
  output?: string;
  name?: string;
}

/** Writes the TypeScript type of a collection's records, from all of them, to a file or to standard output. */
export async function types(access: Access, collection: string, options: TypesOptions): Promise<number> {
  const response = await request(access, `/collections/${encodeURIComponent(collection)}/records?format=ndjson`);
  const type = new RecordType();
  for await (const line of createInterface({ input: Readable.fromWeb(response.body as never), crlfDelay: Infinity }))
    if (line !== '') type.add(JSON.parse(line) as RecordJson);
  const name = options.name ?? typeName(collection);
  const text = `/**
 * A record of \`${collection}\`. Written by \`yucca types ${collection}\` from all records; when they change, run it again.
 */
${type.declare(name)}`;
  if (options.output === undefined) process.stdout.write(text);
  else writeFileSync(options.output, text);
  return 0;
}

/** `garden-plants` → `GardenPlantsRecord`. */
function typeName(collection: string): string {
  const words = collection.split(/[^\p{L}\p{N}]+/u).filter((word) => word !== '');
  const joined = words.map((word) => word[0]!.toUpperCase() + word.slice(1)).join('');
  return `${/^\p{N}/u.test(joined) ? '_' : ''}${joined}Record`;
}
