import type { Readable } from 'node:stream';

/** One row of an input: a value, or why it could not be read. Lines count from 1. */
export type Row = {
  line: number;
  /** About how much memory it holds. */
  bytes: number;
  /** The row as it came, for whoever mends it; called for rows that fail. */
  raw: () => string;
  /** What has to stand above the failed rows: the header of a table. */
  head?: string;
} & ({ value: unknown } | { error: string });

export interface ParserOptions {
  /** JSON: where in the document the records are, a JSON Pointer; null = it is a list of them, or one. */
  at: string | null;
  /** CSV: the line, from 1, that holds its header; null = to be told by its first rows. */
  header?: number | null;
}

/** Turns bytes into rows, one at a time and with bounded memory. */
export type Parser = (input: Readable, options?: ParserOptions) => AsyncIterable<Row>;

/** The input as a whole cannot be read on; what came before stays. */
export class InputError extends Error {
  override name = 'InputError';
}

/** Rows longer than this are refused; above the size of a record, for the white space and escapes around it. */
export const MAX_ROW_BYTES = 4 * 1024 * 1024;

/** Shortens a piece of input for an error message. */
export function excerpt(text: string): string {
  return text.length > 120 ? `${text.slice(0, 120)}…` : text;
}
