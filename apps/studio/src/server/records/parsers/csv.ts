import { parse, type CsvError, type Options, type Parser as CsvParser } from 'csv-parse';
import { headerCells, nameColumns, tableStart } from '@yucca/engine/understand';
import { tableOptions } from '@/text/table-options';
import { stringify } from 'csv-stringify/sync';
import type { Readable } from 'node:stream';
import { oneOf } from './one-of';
import { InputError, MAX_ROW_BYTES, type Parser, type Row } from './parser';

/** Columns of a header; above what any spreadsheet has. Every row becomes an object with so many names. */
const MOST_COLUMNS = 20_000;
/** Rows that wait to be read on: rows may be large, so few of them. */
const ROWS_AHEAD = 4;

/**
 * CSV (RFC 4180) with a header row. Where the header is and what parts its cells is told by the first rows (see
 * `tableStart`). A row with too few or too many cells, or a stray quote, fails alone; empty cells are left out of the
 * record.
 */
export const readCsv: Parser = async function* (input, options = { at: null }) {
  const first = await firstPiece(input);
  if (first === null) return;
  const skipped: Row[] = [];
  const start = tableStart(first.toString('utf8'), options.header);
  let head = '';
  let broken: unknown = null;
  let lastLine = Infinity;
  const parser = parse({
    ...tableOptions(start),
    columns: (header: string[]) => {
      if (header.length > MOST_COLUMNS)
        throw new InputError(`The header names ${header.length} columns; ${MOST_COLUMNS} are the most.`);
      head = withoutEnd(stringify([header], { delimiter: start.separator }));
      return nameColumns(headerCells(header, start));
    },
    info: true,
    raw: true,
    max_record_size: MAX_ROW_BYTES,
    readableHighWaterMark: ROWS_AHEAD,
    on_skip: (error: CsvError | undefined, raw: string | undefined) => {
      const row = withoutEnd(raw ?? '');
      const told = Number(error?.lines ?? 0);
      skipped.push({ line: told, bytes: row.length, error: explain(error), raw: () => row, head });
      // Where such a row ends nobody knows, so nothing after it can be told apart.
      if (error?.code !== 'CSV_MAX_RECORD_SIZE' || broken !== null) return;
      broken = new InputError(`Line ${told}: ${explain(error)}`);
      lastLine = told;
    },
  } as Options);
  const feeding = feed(input, parser, () => broken !== null).catch((error: unknown) => {
    broken ??= error;
  });
  try {
    for await (const { record, info, raw } of parser as AsyncIterable<{
      record: Record<string, string>;
      raw: string;
      info: { lines: number };
    }>) {
      if (info.lines > lastLine) break;
      while (skipped.length > 0 && skipped[0]!.line < info.lines) yield skipped.shift()!;
      yield { line: info.lines, bytes: raw.length, value: withoutEmpty(record), raw: () => withoutEnd(raw), head };
    }
    yield* skipped.filter(({ line }) => line <= lastLine);
    await feeding;
    // Told last: rows that were read before are good, whatever came after them.
    if (broken !== null) throw broken;
  } finally {
    parser.destroy();
    input.destroy();
  }
};

/** Hands an input over to a parser until it ends, or nobody wants more of it. Throws what breaks the input. */
async function feed(input: Readable, parser: CsvParser, isOver: () => boolean): Promise<void> {
  try {
    for await (const chunk of input) {
      if (isOver() || parser.destroyed) return;
      if (!parser.write(chunk)) await oneOf(parser, 'drain', 'close');
    }
  } finally {
    if (!parser.destroyed) parser.end();
  }
}

/** The first piece of an input, which stays in it; null when there is none. */
async function firstPiece(input: Readable): Promise<Buffer | null> {
  for (;;) {
    const piece = input.read() as Buffer | null;
    if (piece !== null) {
      input.unshift(piece);
      return piece;
    }
    if (input.readableEnded) return null;
    await oneOf(input, 'readable', 'end', 'close');
    if (input.destroyed && input.errored) throw input.errored;
    if (input.destroyed) return null;
  }
}

/** A row without the end of its line. */
const withoutEnd = (row: string): string => row.replace(/^\ufeff|\r?\n$|\r$/g, '');

function withoutEmpty(record: Record<string, string>): Record<string, string> {
  return Object.fromEntries(Object.entries(record).filter(([, cell]) => cell !== ''));
}

function explain(error: CsvError | undefined): string {
  switch (error?.code) {
    case 'CSV_RECORD_INCONSISTENT_COLUMNS':
    case 'CSV_RECORD_INCONSISTENT_FIELDS_LENGTH':
      return 'the row has not as many cells as the header';
    case 'INVALID_OPENING_QUOTE':
    case 'CSV_INVALID_CLOSING_QUOTE':
      return 'a quote stands in the middle of a cell; a cell with quotes is written "like ""this"""';
    case 'CSV_QUOTE_NOT_CLOSED':
      return 'a quote is opened and never closed';
    case 'CSV_MAX_RECORD_SIZE':
      return `the row is longer than ${MAX_ROW_BYTES / 1024 / 1024} MB; is a quote not closed?`;
    default:
      return error?.message ?? 'the row could not be read';
  }
}
