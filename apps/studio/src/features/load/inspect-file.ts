import { isName, parsedJson, type RecordJson } from '@yucca/contract';
import { proposeRules, type RuleProposal } from '@yucca/engine/rules';
import {
  ArrayElements,
  guessFormat,
  guessKey,
  nameColumns,
  sniffSeparator,
  type FileFormat,
  type KeyGuess,
} from '@yucca/engine/understand';

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
      /** Fields of the sample, in order. */
      fields: string[];
      key: KeyGuess;
      /** CSV: what texts of columns are, as far as the sample tells. */
      rules: RuleProposal[];
      /** The file is packed and is sent as it is. */
      gzip: boolean;
      /** Rows in the whole file: exact when all of it was looked at, else estimated from the bytes. */
      rows: number;
      rowsExact: boolean;
      name: string;
    };

const HEAD_BYTES = 512 * 1024;
/** Rows looked at when the file is longer than its beginning. */
const SAMPLE_ROWS = 500;

/** Looks at the beginning of a file; the rest of it is not read. */
export async function inspectFile(file: File): Promise<Inspection> {
  const { head, whole, gzip } = await headOf(file);
  const guess = guessFormat(head, file.name.replace(/\.gz$/i, ''));
  if (!guess.ok) return guess;
  const text = new TextDecoder().decode(head).replace(/^\ufeff/, '');
  const { rows, readTo } = await PARSERS[guess.format](text, whole);
  const sample = rows
    .slice(0, SAMPLE_ROWS)
    .filter((row): row is RecordJson => row !== null && typeof row === 'object' && !Array.isArray(row));
  if (sample.length === 0) return { ok: false, reason: nothingFound(guess.format) };
  const fields = [...new Set(sample.slice(0, 50).flatMap((row) => Object.keys(row)))];
  return {
    ok: true,
    gzip,
    format: guess.format,
    mediaType: guess.mediaType,
    reason: guess.reason,
    sample,
    fields,
    rules: guess.format === 'csv' ? proposeRules(sample, fields) : [],
    key: guessKey(sample),
    rows: whole
      ? rows.length
      : Math.round(((gzip ? file.size * PACKED : file.size) / Math.max(1, readTo)) * rows.length),
    rowsExact: whole,
    name: nameFor(file.name),
  };
}

/** How much larger a packed file is once it is unpacked, roughly. */
const PACKED = 5;

/** The beginning of a file, unpacked when it is packed with gzip. */
async function headOf(file: File): Promise<{ head: Uint8Array; whole: boolean; gzip: boolean }> {
  const start = new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer());
  if (start[0] !== 0x1f || start[1] !== 0x8b) return { head: start, whole: file.size <= HEAD_BYTES, gzip: false };
  const reader = file.stream().pipeThrough(new DecompressionStream('gzip')).getReader();
  const head = new Uint8Array(HEAD_BYTES);
  let at = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return { head: head.subarray(0, at), whole: true, gzip: true };
    const fits = value.subarray(0, HEAD_BYTES - at);
    head.set(fits, at);
    at += fits.length;
    if (fits.length === value.length) continue;
    await reader.cancel();
    return { head, whole: false, gzip: true };
  }
}

function nothingFound(format: FileFormat): string {
  if (format === 'csv') return 'The file has a header row and nothing below it that could be read.';
  return 'No record was found at the beginning of the file. A record is a JSON object, such as {"id": 1, "name": "Agave"}.';
}

interface SampleRows {
  rows: unknown[];
  /** How much of the text the rows took; letters for bytes, where that is near enough for an estimate. */
  readTo: number;
}

const PARSERS: Record<FileFormat, (text: string, whole: boolean) => SampleRows | Promise<SampleRows>> = {
  'json-lines': async (text, whole) => {
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

  csv: async (text, whole) => {
    const { parse } = await import('csv-parse/browser/esm/sync');
    const end = whole ? text.length : text.lastIndexOf('\n') + 1;
    const rows: RecordJson[] = parse(text.slice(0, end), {
      columns: nameColumns,
      delimiter: sniffSeparator(text),
      relax_quotes: sniffSeparator(text) === '\t',
      skip_empty_lines: true,
      skip_records_with_error: true,
      ...(whole ? {} : { to: SAMPLE_ROWS }),
    });
    const share = whole || rows.length < SAMPLE_ROWS ? 1 : (rows.length + 1) / text.slice(0, end).split('\n').length;
    return { rows, readTo: Math.max(1, Math.round(end * share)) };
  },
};

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
