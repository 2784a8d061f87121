import { halfJson, JsonEntries, recordOf, recordPointers, type JsonEntry } from '@yucca/engine/understand';
import { Readable } from 'node:stream';
import { readJsonArray } from './json-array';
import { parseRow } from './parse-row';
import { InputError, MAX_ROW_BYTES, type Parser, type Row } from './parser';

/** The place is to be found by looking at the document. */
export const FIND = 'auto';
/** So much of a document is looked at to find where its records are. */
const LOOKED_AT = 8 * 1024 * 1024;

/** JSON: a list of records, one record, or a document that has its records at some place. */
export const readJson: Parser = async function* (input, options = { at: null }) {
  if (options.at === null) return yield* readJsonArray(input, options);
  const chunks = input[Symbol.asyncIterator]() as AsyncIterator<Buffer>;
  const { head, rest } = await beginning(chunks, options.at === FIND);
  const pointer = options.at === FIND ? placeIn(head) : options.at;
  if (pointer === null) return yield* readJsonArray(Readable.from(joined(head, rest)), options);
  yield* readAt(pointer, joined(head, rest));
};

/** The beginning of an input, and what follows; little of it when nothing has to be found there. */
async function beginning(
  chunks: AsyncIterator<Buffer>,
  all: boolean,
): Promise<{ head: Buffer; rest: AsyncIterator<Buffer> }> {
  const parts: Buffer[] = [];
  let bytes = 0;
  while (all && bytes < LOOKED_AT) {
    const { done, value } = await chunks.next();
    if (done) break;
    parts.push(value);
    bytes += value.length;
    // In a list there is nothing to be found.
    if (/^(\xef\xbb\xbf)?\s*[^\s{\xef]/.test(parts[0]!.toString('latin1', 0, 256))) break;
  }
  return { head: Buffer.concat(parts), rest: chunks };
}

async function* joined(head: Buffer, rest: AsyncIterator<Buffer>): AsyncGenerator<Buffer> {
  try {
    if (head.length > 0) yield head;
    for (let next = await rest.next(); !next.done; next = await rest.next()) yield next.value;
  } finally {
    await rest.return?.();
  }
}

/** The likeliest place of the records; null when the document is a list itself, or one record. */
function placeIn(head: Buffer): string | null {
  const text = head.toString('utf8').replace(/^\ufeff/, '');
  if (!/^\s*\{/.test(text)) return null;
  return recordPointers(halfJson(text))[0]?.pointer ?? null;
}

async function* readAt(pointer: string, input: AsyncIterable<Buffer>): AsyncGenerator<Row> {
  const entries = new JsonEntries(pointer, MAX_ROW_BYTES);
  let line = 0;
  let first = true;
  try {
    for await (const chunk of input) {
      const bytes = first && chunk[0] === 0xef && chunk[1] === 0xbb && chunk[2] === 0xbf ? chunk.subarray(3) : chunk;
      first = false;
      for (const entry of entries.write(bytes)) yield rowOf(++line, entry);
      if (entries.closed) return;
    }
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    throw new InputError(`The JSON breaks off after ${line} records: ${error.message}`);
  }
  const where = pointer === '' ? 'The document' : `What stands at “${pointer}”`;
  if (!entries.found) throw new InputError(`There is no list and no object at “${pointer}” in the JSON.`);
  throw new InputError(`${where} is not closed; ${line} records were read.`);
}

function rowOf(line: number, { key, group, text }: JsonEntry): Row {
  if (text === null)
    return { line, bytes: 0, raw: () => '', error: `the record is longer than ${MAX_ROW_BYTES / 1024 / 1024} MB` };
  const read = parseRow(text);
  if ('error' in read) return { line, bytes: text.length, raw: () => text, ...read };
  const value = recordOf(read.value, key, group);
  // As it will be brought in again: without the document around it.
  return { line, bytes: text.length, raw: () => JSON.stringify(value), value };
}
