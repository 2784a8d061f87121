import { isName, parsedJson, type RecordJson } from '@yucca/contract';
import { proposeRules, type RuleProposal } from '@yucca/engine/rules';
import {
  ArrayElements,
  guessBinary,
  guessFormat,
  guessKey,
  halfJson,
  JsonEntries,
  recordOf,
  recordPointers,
  tableStart,
  type FileFormat,
  type KeyGuess,
  type RecordPointer,
  type TableStart,
} from '@yucca/engine/understand';
import { asJson, MOST_BYTES, WHOLE_READERS } from '@/formats/whole-formats';
import { asUtf8, charsetOf, UTF_8 } from '@/text/charset';
import { tableOptions } from '@/text/table-options';

/** What was understood of a dropped file from its beginning. */
export type Inspection =
  | { ok: false; reason: string }
  | {
      ok: true;
      format: FileFormat;
      mediaType: string;
      reason: string;
      /** The first records. */
      sample: RecordJson[];
      /** All that were read. */
      records: RecordJson[];
      /** Those are all there are. */
      isWhole: boolean;
      /** Fields of the sample, in order. */
      fields: string[];
      key: KeyGuess;
      /** Its values have types of their own, so that a text was meant to be one. */
      isTyped: boolean;
      /** What columns hold besides what they seem to, as far as the sample tells. */
      rules: RuleProposal[];
      /** JSON: where its records may be, the likeliest first; empty when it is a list of them. */
      places: RecordPointer[];
      /** The place of these that is shown; null = the whole document. */
      at: string | null;
      /** CSV: the line of its header, from 1, and what stands above it. */
      header: number | null;
      above: string[];
      /** What it is written in, by its name in the Encoding standard. */
      charset: string;
      /** The file is packed and is sent as it is. */
      gzip: boolean;
      /** Rows in the whole file: exact when all of it was looked at, else estimated from the bytes. */
      rows: number;
      rowsExact: boolean;
      name: string;
    };

const HEAD_BYTES = 512 * 1024;
/** Of a JSON document, whose records may stand far behind its beginning. */
const DOCUMENT_BYTES = 8 * 1024 * 1024;
/** Rows looked at when the file is longer than its beginning. */
const SAMPLE_ROWS = 500;
/** Rows read of formats that can be read in part, and say how many they have. */
const PREVIEW_ROWS = 2_000;

/** What somebody says of a file, where its beginning would be taken otherwise. */
export interface InspectOptions {
  at?: string | null;
  charset?: string | null;
  /** CSV: the line of its header, from 1. */
  header?: number | null;
}

/**
 * Looks at the beginning of a file; the rest of it is not read. `at`: where in a JSON document the records are said to
 * be, null = it is one record; left out, where most of them are. `charset`: what the file is said to be written in.
 * `header`: the line that is said to hold the header of a table.
 */
export async function inspectFile(
  file: File,
  { at, charset: said = null, header = null }: InspectOptions = {},
): Promise<Inspection> {
  let { head, whole, gzip } = await headOf(file, HEAD_BYTES);
  const name = file.name.replace(/\.gz$/i, '');
  const isBinary = guessBinary(head, name) !== null;
  const charset = isBinary ? UTF_8 : charsetOf(head, said);
  if (!isBinary) head = asUtf8(head, charset);
  const guess = guessFormat(head, name);
  if (!guess.ok) return guess;
  const reader = WHOLE_READERS[guess.mediaType];
  /** Rows of a file of which only the first were read. */
  let rowsInAll: number | null = null;
  if (reader !== undefined) {
    try {
      const all = (await headOf(file, MOST_BYTES + 1)).head;
      const read = await asJson(all, guess.mediaType, charset, PREVIEW_ROWS);
      head = read.json;
      rowsInAll = read.rows;
      whole = read.rows === null || read.rows <= PREVIEW_ROWS;
    } catch (error) {
      if ((error as Error).name === 'FormatError') return { ok: false, reason: (error as Error).message };
      throw error;
    }
  }
  const format = reader === undefined ? (guess.format as RowFormat) : 'json';
  let text = textOf(head);
  const isDocument = format === 'json' && text.trimStart().startsWith('{');
  if (isDocument && !whole) {
    ({ head, whole, gzip } = await headOf(file, DOCUMENT_BYTES));
    head = asUtf8(head, charset);
    text = textOf(head);
  }
  const places = isDocument ? recordPointers(halfJson(text)) : [];
  const chosen = at === undefined ? (places[0]?.pointer ?? null) : at;
  const start = format === 'csv' ? tableStart(text, header) : null;
  const { rows, readTo } =
    start !== null
      ? await tableRows(text, start, whole)
      : chosen === null || !isDocument
        ? PARSERS[format as keyof typeof PARSERS](text, whole)
        : entriesAt(chosen, head, whole);
  const records = rows.filter(
    (row): row is RecordJson => row !== null && typeof row === 'object' && !Array.isArray(row),
  );
  const sample = records.slice(0, SAMPLE_ROWS);
  if (sample.length === 0) return { ok: false, reason: nothingFound(format) };
  const isTyped = reader?.isTyped ?? format !== 'csv';
  const fields = [...new Set(sample.slice(0, 50).flatMap((row) => Object.keys(row)))];
  const bytes = gzip ? file.size * PACKED : file.size;
  return {
    ok: true,
    gzip,
    format: guess.format,
    mediaType: guess.mediaType,
    reason: chosen === null || !isDocument ? guess.reason : placeWords(chosen),
    charset,
    places,
    at: isDocument ? chosen : null,
    header: start === null ? null : start.skip + 1,
    above: start === null ? [] : text.split(/\r?\n/, start.skip),
    sample,
    fields,
    isTyped,
    rules: proposeRules(sample, fields, { isTyped }),
    key: guessKey(whole ? records : sample, whole),
    records: whole ? records : sample,
    rows: rowsInAll ?? (whole ? rows.length : Math.round((bytes / Math.max(1, readTo)) * rows.length)),
    rowsExact: whole || rowsInAll !== null,
    isWhole: whole,
    name: nameFor(file.name),
  };
}

/** Whether columns of a table have dotted names, which can be opened into objects. */
export const hasDottedNames = ({
  format,
  fields,
}: Pick<Extract<Inspection, { ok: true }>, 'format' | 'fields'>): boolean =>
  format === 'csv' && fields.some((field) => field.includes('.'));

/** How much larger a packed file is once it is unpacked, roughly. */
const PACKED = 5;

/** The beginning of a file, unpacked when it is packed with gzip. */
async function headOf(file: File, most: number): Promise<{ head: Uint8Array; whole: boolean; gzip: boolean }> {
  const start = new Uint8Array(await file.slice(0, most).arrayBuffer());
  if (start[0] !== 0x1f || start[1] !== 0x8b) return { head: start, whole: file.size <= most, gzip: false };
  const reader = file.stream().pipeThrough(new DecompressionStream('gzip')).getReader();
  const head = new Uint8Array(most);
  let at = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return { head: head.subarray(0, at), whole: true, gzip: true };
    const fits = value.subarray(0, most - at);
    head.set(fits, at);
    at += fits.length;
    if (fits.length === value.length) continue;
    await reader.cancel();
    return { head, whole: false, gzip: true };
  }
}

const textOf = (head: Uint8Array): string => new TextDecoder().decode(head).replace(/^\ufeff/, '');

const placeWords = (pointer: string): string =>
  pointer === '' ? 'its members are the records' : `its records are at ${pointer}`;

/** The records at one place of a JSON document, cut out as the server will cut them. */
function entriesAt(pointer: string, head: Uint8Array, whole: boolean): SampleRows {
  const bytes = head[0] === 0xef ? head.subarray(3) : head;
  const entries = new JsonEntries(pointer, HEAD_BYTES);
  const rows: unknown[] = [];
  let read = 0;
  try {
    for (; read < bytes.length && (whole || rows.length < SAMPLE_ROWS); read += PIECE_BYTES)
      for (const { key, group, text } of entries.write(bytes.subarray(read, read + PIECE_BYTES)))
        rows.push(text === null ? null : recordOf(JSON.parse(text), key, group));
  } catch (error) {
    // What stands before a mistake is shown all the same; loading says where the mistake is.
    if (!(error instanceof SyntaxError)) throw error;
  }
  return { rows, readTo: Math.min(read, bytes.length) };
}

const PIECE_BYTES = 64 * 1024;

function nothingFound(format: RowFormat): string {
  if (format === 'csv') return 'The file has a header row and nothing below it that could be read.';
  return 'No record was found at the beginning of the file. A record is a JSON object, such as {"id": 1, "name": "Agave"}.';
}

/** Formats that are read row by row; all others become JSON first. */
type RowFormat = 'json' | 'json-lines' | 'csv';

interface SampleRows {
  rows: unknown[];
  /** How much of the text the rows took; letters for bytes, where that is near enough for an estimate. */
  readTo: number;
}

const PARSERS: Record<Exclude<RowFormat, 'csv'>, (text: string, whole: boolean) => SampleRows> = {
  'json-lines': (text, whole) => {
    const lines = text.split('\n');
    if (!whole) lines.pop();
    const taken = whole ? lines : lines.slice(0, SAMPLE_ROWS);
    const rows = taken.flatMap((line): unknown[] => {
      const row = parsedJson(line);
      return row === undefined ? [] : [row];
    });
    return { rows, readTo: taken.join('\n').length };
  },

  json: (text, whole) => {
    if (text.trimStart().startsWith('{')) {
      const record = parsedJson(text);
      return { rows: record === undefined ? [] : [record], readTo: text.length };
    }
    const rows: unknown[] = [];
    const elements = new ArrayElements(HEAD_BYTES);
    try {
      for (const found of elements.write(new TextEncoder().encode(text))) {
        rows.push(JSON.parse(found!));
        if (!whole && rows.length === SAMPLE_ROWS) break;
      }
    } catch (error) {
      // What stands before a mistake is shown all the same; loading says where the mistake is.
      if (!(error instanceof SyntaxError)) throw error;
    }
    return { rows, readTo: elements.readTo };
  },
};

/** The rows of a table, read as the server will read them. */
async function tableRows(text: string, start: TableStart, whole: boolean): Promise<SampleRows> {
  const { parse } = await import('csv-parse/browser/esm/sync');
  const end = whole ? text.length : text.lastIndexOf('\n') + 1;
  const rows: RecordJson[] = parse(text.slice(0, end), {
    ...tableOptions(start),
    ...(whole ? {} : { to: SAMPLE_ROWS }),
  });
  const share = whole || rows.length < SAMPLE_ROWS ? 1 : (rows.length + 1) / text.slice(0, end).split('\n').length;
  return { rows, readTo: Math.max(1, Math.round(end * share)) };
}

/** A collection name made from a file's: "My Plants (2).csv" → "my-plants-2". */
export function nameFor(fileName: string): string {
  const name = fileName
    .replace(/\.gz$/i, '')
    .replace(/\.[a-z0-9]{1,8}$/i, '')
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^[^a-z]+|-+$/g, '')
    .slice(0, 50)
    .replace(/-+$/, '');
  return isName(name) ? name : 'records';
}

/** The first of `name`, `name-2`, `name-3` … that is not taken. */
export function freeName(name: string, taken: ReadonlySet<string>): string {
  for (let n = 1; ; n++) {
    const candidate = n === 1 ? name : `${name}-${n}`;
    if (!taken.has(candidate)) return candidate;
  }
}
