/** What sources that are asked in SQL have in common. */
import { LIMITS } from '@yucca/contract';
import { noted } from './source';

/** Where the last run ended. */
export interface SqlPosition {
  /** The largest value of the column that grows. */
  changed?: number | string;
  /** The last change of the log that was read. */
  log?: number;
  /** When all rows were read the last time, in milliseconds since 1970. */
  wholeAt?: number;
}

/**
 * Where the reading of all rows, which come in the order of their keys, was broken off. What has changed since among
 * those before it is in the log that begins at `order`, or above `largest`: neither moves on with what is read later.
 */
export interface SqlResume {
  /** The last key that was written, as text: other rows may have it too. */
  key: string;
  /** What the key is, where a comparison depends on it. */
  type?: 'text' | 'integer' | 'real';
  from?: number | string;
  largest?: number | string;
  whole: boolean;
  order: number | null;
}

/** Where a run was when it was broken off; null when it has to begin anew, as more is asked of it now. */
export function resumedAt(resume: string | null, isWholeAsked: boolean): SqlResume | null {
  const broken = noted<SqlResume>(resume);
  return broken !== null && isWholeAsked && !broken.whole ? null : broken;
}

/** Rows, and bytes of them, that go on together: rows may be large. */
export const AT_ONCE = 500;
export const BYTES_AT_ONCE = 1024 * 1024;

/** Bytes of a row that no record could be made of: such a row stays where it is, and is told by its key. */
export const MOST_ROW = LIMITS.recordBytes * 6;
export const TOO_LARGE = `the row is larger than ${MOST_ROW / 1024} kB`;

/** What a change makes of a row: of a large one what is wrong, which is no record, so that it is refused and shown. */
export const changedTo = (line: { json: string } | { error: string }): string =>
  'json' in line ? line.json : JSON.stringify(line.error);

/** Deleted rows of a table whose changes are read by a column are found by reading all of it, this often. */
const WHOLE_EVERY_MS = 24 * 3_600_000;

/** A name of SQL as it is written in it. */
export const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;

/** Conditions as they are written behind FROM. */
export const where = (conditions: readonly string[]): string =>
  conditions.length === 0 ? '' : ` where ${conditions.join(' and ')}`;

/** Whether all rows have to be read. */
export function isWholeDue({ changed }: { changed?: string }, before: SqlPosition | null, asked: boolean): boolean {
  return asked || changed === undefined || before?.changed === undefined || Date.now() - (before.wholeAt ?? 0) > WHOLE_EVERY_MS; // prettier-ignore
}

/** A row as JSON: bytes as base64, whole numbers that JSON does not hold exactly as text. */
export const jsonOf = (row: Readonly<Record<string, unknown>>): string =>
  JSON.stringify(Object.fromEntries(Object.entries(row).map(([name, value]) => [name, plain(value)])));

// Before it is written as JSON: bytes would be asked for a form of their own there first.
function plain(value: unknown): unknown {
  if (Buffer.isBuffer(value)) return value.toString('base64');
  return typeof value === 'bigint' ? exact(value) : value;
}

/** A whole number as JSON holds it exactly. */
const exact = (value: bigint): number | string =>
  BigInt(Number(value)) === value && Number.isSafeInteger(Number(value)) ? Number(value) : String(value);

/** The larger of what was found and a value; text and numbers alike. */
export function larger(most: number | string | undefined, value: unknown): number | string | undefined {
  const next = value instanceof Date ? value.toISOString() : typeof value === 'bigint' ? Number(value) : value;
  if (typeof next !== 'number' && typeof next !== 'string') return most;
  return most === undefined || next > most ? next : most;
}
