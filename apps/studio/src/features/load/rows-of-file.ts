import { parsedJson, type RecordJson } from '@yucca/contract';
import type { Options } from 'csv-parse/browser/esm/sync';
import {
  ArrayElements,
  headerCells,
  JsonEntries,
  nameColumns,
  recordOf,
  tableStart,
  type TableStart,
} from '@yucca/engine/understand';
import { tableOptions } from '@/text/table-options';
import type { Inspection } from '@/inspect/inspect-file';

/** What of an inspection says how the rows of its file are read. */
export type RowsWanted = Pick<Extract<Inspection, { ok: true }>, 'format' | 'at' | 'header' | 'charset' | 'gzip'>;

/** Longer rows are passed over; the server refuses them, and says so. */
const LONGEST_ROW = 4 * 1024 * 1024;

/**
 * Every record of a file that is read row by row, in pieces, with the memory of a piece. `onBytes` is told how many
 * bytes of the file have been read. Rows that cannot be read are passed over.
 */
export async function* rowsOfFile(
  file: Blob,
  { format, at, header, charset, gzip }: RowsWanted,
  onBytes: (bytes: number) => void,
): AsyncGenerator<RecordJson> {
  const rows =
    format === 'csv'
      ? tableRows(textsOf(file, charset, gzip, onBytes), header)
      : format === 'json-lines'
        ? lineRows(textsOf(file, charset, gzip, onBytes))
        : jsonRows(textsOf(file, charset, gzip, onBytes), at);
  for await (const row of rows)
    if (row !== null && typeof row === 'object' && !Array.isArray(row)) yield row as RecordJson;
}

async function* textsOf(
  file: Blob,
  charset: string,
  gzip: boolean,
  onBytes: (bytes: number) => void,
): AsyncGenerator<string> {
  let bytes = 0;
  const counted = new TransformStream<Uint8Array, Uint8Array>({
    transform(chunk, controller) {
      onBytes((bytes += chunk.length));
      controller.enqueue(chunk);
    },
  });
  const sent = file.stream().pipeThrough(counted);
  const plain = gzip ? sent.pipeThrough(new DecompressionStream('gzip') as unknown as TransformStream<Uint8Array, Uint8Array>) : sent; // prettier-ignore
  const decoder = new TextDecoder(charset);
  const reader = plain.getReader();
  for (;;) {
    const { done, value } = await reader.read();
    const text = done ? decoder.decode() : decoder.decode(value, { stream: true });
    if (text !== '') yield text;
    if (done) return;
  }
}

async function* lineRows(texts: AsyncIterable<string>): AsyncGenerator<unknown> {
  let rest = '';
  for await (const text of texts) {
    const lines = (rest + text).split('\n');
    rest = lines.pop()!;
    for (const line of lines) yield parsedJson(line);
  }
  yield parsedJson(rest);
}

async function* jsonRows(texts: AsyncIterable<string>, at: string | null): AsyncGenerator<unknown> {
  const encoder = new TextEncoder();
  const elements = at === null ? new ArrayElements(LONGEST_ROW) : null;
  const entries = at === null ? null : new JsonEntries(at, LONGEST_ROW);
  try {
    for await (const text of texts) {
      const bytes = encoder.encode(text);
      if (elements !== null)
        for (const element of elements.write(bytes)) yield element === null ? null : parsedJson(element);
      else
        for (const { key, group, text: json } of entries!.write(bytes))
          yield json === null ? null : recordOf(JSON.parse(json), key, group);
    }
  } catch (error) {
    // Loading says where the mistake is; what stands before it is known.
    if (!(error instanceof SyntaxError)) throw error;
  }
}

/** Text that waits for the end of a row; a quote that is never closed would gather all of a file. */
const MOST_WAITING = 16 * 1024 * 1024;
/** Read at once; few enough that the thread tells how far it is. */
const PIECE = 1024 * 1024;

async function* tableRows(texts: AsyncIterable<string>, header: number | null): AsyncGenerator<unknown> {
  const { parse } = await import('csv-parse/browser/esm/sync');
  let start: TableStart | null = null;
  let names: string[] | null = null;
  let waiting = '';
  const rowsIn = (text: string): unknown[] => {
    const known = (start ??= tableStart(text, header));
    return parse(text, {
      ...tableOptions(known, names),
      // The first piece has the header; all others go on below it.
      ...(names === null && { columns: (cells: string[]) => (names = nameColumns(headerCells(cells, known))) }),
      max_record_size: LONGEST_ROW,
    } as Options);
  };
  for await (const text of texts) {
    waiting += text;
    if (waiting.length < PIECE) continue;
    const end = endOfRows(waiting);
    if (end === 0 && waiting.length > MOST_WAITING) return;
    if (end === 0) continue;
    yield* rowsIn(waiting.slice(0, end));
    waiting = waiting.slice(end);
  }
  yield* rowsIn(waiting);
}

/** Where the last whole row of a text ends: behind a line end with an even number of quotes before it. */
function endOfRows(text: string): number {
  let [end, quotes] = [0, 0];
  for (let i = 0; i < text.length; i++) {
    const unit = text.charCodeAt(i);
    if (unit === 34) quotes++;
    else if (unit === 10 && quotes % 2 === 0) end = i + 1;
  }
  return end;
}
