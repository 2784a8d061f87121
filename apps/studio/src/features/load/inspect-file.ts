import { isName, type RecordJson } from '@yucca/contract';
import { guessFormat, guessKey, sniffSeparator, type FileFormat, type KeyGuess } from '@yucca/engine/understand';

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
  const head = new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer());
  const guess = guessFormat(head, file.name);
  if (!guess.ok) return guess;
  const whole = file.size <= HEAD_BYTES;
  const text = new TextDecoder().decode(head).replace(/^\ufeff/, '');
  const { rows, readTo } = await READERS[guess.format](text, whole);
  const sample = rows
    .slice(0, SAMPLE_ROWS)
    .filter((row): row is RecordJson => row !== null && typeof row === 'object' && !Array.isArray(row));
  if (sample.length === 0) return { ok: false, reason: nothingFound(guess.format) };
  return {
    ok: true,
    format: guess.format,
    mediaType: guess.mediaType,
    reason: guess.reason,
    sample,
    fields: [...new Set(sample.slice(0, 50).flatMap((row) => Object.keys(row)))],
    key: guessKey(sample),
    rows: whole ? rows.length : Math.round((file.size / Math.max(1, readTo)) * rows.length),
    rowsExact: whole,
    name: nameFor(file.name),
  };
}

function nothingFound(format: FileFormat): string {
  if (format === 'csv') return 'The file has a header row and nothing below it that could be read.';
  return 'No record was found at the beginning of the file. A record is a JSON object, such as {"id": 1, "name": "Agave"}.';
}

interface SampleRows {
  rows: unknown[];
  /** How much of the text, in units, the rows took. */
  readTo: number;
}

const READERS: Record<FileFormat, (text: string, whole: boolean) => Promise<SampleRows>> = {
  'json-lines': async (text, whole) => {
    const lines = text.split('\n');
    if (!whole) lines.pop();
    const taken = whole ? lines : lines.slice(0, SAMPLE_ROWS);
    const rows = taken.flatMap((line): unknown[] => {
      try {
        return line.trim() === '' ? [] : [JSON.parse(line)];
      } catch {
        return [];
      }
    });
    return { rows, readTo: taken.join('\n').length };
  },

  json: async (text, whole) => {
    if (text.trimStart().startsWith('{')) {
      try {
        return { rows: [JSON.parse(text)], readTo: text.length };
      } catch {
        return { rows: [], readTo: text.length };
      }
    }
    const { JSONParser } = await import('@streamparser/json');
    const rows: unknown[] = [];
    let readTo = text.length;
    const parser = new JSONParser({ paths: ['$.*'], keepStack: false });
    parser.onError = () => {};
    parser.onValue = ({ value }) => void rows.push(value);
    for (let at = 0; at < text.length && (whole || rows.length < SAMPLE_ROWS); at += 16_384) {
      parser.write(text.slice(at, at + 16_384));
      readTo = Math.min(text.length, at + 16_384);
      if (parser.isEnded) break;
    }
    return { rows, readTo };
  },

  csv: async (text, whole) => {
    const { parse } = await import('csv-parse/browser/esm/sync');
    const end = whole ? text.length : text.lastIndexOf('\n') + 1;
    const rows: RecordJson[] = parse(text.slice(0, end), {
      columns: (header: string[]) => header.map((cell, i) => cell.trim() || `column ${i + 1}`),
      delimiter: sniffSeparator(text),
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
