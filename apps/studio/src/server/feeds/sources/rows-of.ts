/** Records out of the bytes of a text, in whatever format they are. */
import { guessBinary, guessFormat, halfJson, recordPointers } from '@yucca/engine/understand';
import { WHOLE_FORMATS } from '@yucca/contract';
import { Readable } from 'node:stream';
import { asJson, isWhole, MOST_BYTES } from '@/formats/whole-formats';
import { asUtf8, charsetOf } from '@/text/charset';
import { InputError, type Row } from '../../records/parsers/parser';
import { PARSERS } from '../../records/parsers';
import { ToUtf8 } from '../../records/to-utf8';
import { SourceError } from '../outside/source-error';
import type { SourceLine } from './source';

export interface Text {
  /** For sentences: the name of a file, or a host. */
  name: string;
  /** As its sender says; null = it does not. */
  mediaType: string | null;
  charset: string | null;
  body: AsyncIterable<Uint8Array>;
}

/** How it is to be read, where that is said. */
export interface Reading {
  mediaType?: string | undefined;
  at?: string | undefined;
}

/** So much of a text is looked at to tell what it is. */
const LOOKED_AT = 512 * 1024;
/** Records, and bytes of them, that go on together. */
const AT_ONCE = 500;
const BYTES_AT_ONCE = 1024 * 1024;

/** What senders call formats that are read here. */
const SAID: Readonly<Record<string, string>> = {
  'application/json': 'application/json',
  'text/json': 'application/json',
  'application/geo+json': 'application/json',
  'application/x-ndjson': 'application/x-ndjson',
  'application/ndjson': 'application/x-ndjson',
  'application/jsonl': 'application/x-ndjson',
  'text/csv': 'text/csv',
  'application/xml': WHOLE_FORMATS.xml,
  'text/xml': WHOLE_FORMATS.xml,
  'application/rss+xml': WHOLE_FORMATS.xml,
  'application/atom+xml': WHOLE_FORMATS.xml,
};

/** The records of a text, some at a time, with memory bounded whatever comes. Throws a SourceError. */
export async function* rowsOf(text: Text, reading: Reading = {}): AsyncGenerator<SourceLine[]> {
  const { head, body } = await begun(text.body);
  const mediaType = reading.mediaType ?? SAID[text.mediaType ?? ''] ?? guessed(head, text);
  const rows = isWhole(mediaType)
    ? await wholeRows(text, mediaType, body, reading.at)
    : streamedRows(text, mediaType, head, body, reading.at);
  let lines: SourceLine[] = [];
  let bytes = 0;
  try {
    for await (const row of rows) {
      lines.push('error' in row ? { error: row.error, line: row.line } : { json: JSON.stringify(row.value) });
      bytes += row.bytes;
      if (lines.length < AT_ONCE && bytes < BYTES_AT_ONCE) continue;
      yield lines;
      lines = [];
      bytes = 0;
    }
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    throw new SourceError(`${text.name}: ${error.message}`);
  }
  if (lines.length > 0) yield lines;
}

function guessed(head: Uint8Array, { name, mediaType }: Text): string {
  const isHtml = mediaType === 'text/html' || /^\s*<(!doctype html|html)/i.test(Buffer.from(head).toString('latin1'));
  if (isHtml && !/\.x?html?$/i.test(name))
    throw new SourceError(`${name} answers with a web page, where records were expected.`);
  const isBinary = guessBinary(head, name) !== null;
  const guess = guessFormat(isBinary ? head : asUtf8(head, charsetOf(head)), name);
  if (!guess.ok) throw new SourceError(`${name}: ${guess.reason}`);
  return guess.mediaType;
}

function streamedRows(
  { charset, name }: Text,
  mediaType: string,
  head: Uint8Array,
  body: AsyncIterable<Uint8Array>,
  at: string | undefined,
): AsyncIterable<Row> {
  const parser = PARSERS.get(mediaType);
  if (parser === undefined) throw new SourceError(`${name} sends ${mediaType}, which is not read here.`);
  const input = new ToUtf8(charset);
  const source = Readable.from(body);
  source.on('error', (error) => input.destroy(error));
  const pointer = at ?? (mediaType === 'application/json' ? foundAt(asUtf8(head, charsetOf(head, charset))) : null);
  return parser(source.pipe(input), { at: pointer });
}

async function wholeRows(
  { charset, name }: Text,
  mediaType: string,
  body: AsyncIterable<Uint8Array>,
  at: string | undefined,
): Promise<AsyncIterable<Row>> {
  const chunks: Uint8Array[] = [];
  let bytes = 0;
  for await (const chunk of body) {
    bytes += chunk.length;
    if (bytes > MOST_BYTES)
      throw new SourceError(`${name} is larger than ${MOST_BYTES / 1024 ** 2} MB, and its format is read as a whole.`);
    chunks.push(chunk);
  }
  try {
    const { json } = await asJson(Buffer.concat(chunks), mediaType, charset);
    return PARSERS.get('application/json')!(Readable.from([Buffer.from(json)]), { at: at ?? foundAt(json) });
  } catch (error) {
    if ((error as Error).name !== 'FormatError') throw error;
    throw new SourceError(`${name}: ${(error as Error).message}`);
  }
}

/** Where the records of a JSON document are, by its beginning; null = it is a list of them, or one. */
function foundAt(head: Uint8Array): string | null {
  const text = new TextDecoder().decode(head.subarray(0, LOOKED_AT)).replace(/^\ufeff/, '');
  return text.trimStart().startsWith('{') ? (recordPointers(halfJson(text))[0]?.pointer ?? null) : null;
}

/** The beginning of a body, and all of it. */
async function begun(body: AsyncIterable<Uint8Array>): Promise<{ head: Uint8Array; body: AsyncGenerator<Uint8Array> }> {
  const pieces = body[Symbol.asyncIterator]();
  const first: Uint8Array[] = [];
  let bytes = 0;
  let over = false;
  while (bytes < LOOKED_AT && !over) {
    const next = await pieces.next();
    if (next.done) over = true;
    else {
      first.push(next.value);
      bytes += next.value.length;
    }
  }
  async function* all(): AsyncGenerator<Uint8Array> {
    try {
      yield* first;
      while (!over) {
        const next = await pieces.next();
        if (next.done) return;
        yield next.value;
      }
    } finally {
      await pieces.return?.();
    }
  }
  return { head: Buffer.concat(first).subarray(0, LOOKED_AT), body: all() };
}
