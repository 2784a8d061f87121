import { parse, type CsvError } from 'csv-parse';
import { sniffSeparator } from '@yucca/engine/understand';
import { stringify } from 'csv-stringify/sync';
import { MAX_ROW_BYTES, type Reader, type Row } from './reader';

/**
 * CSV (RFC 4180) with a header row. The separator (comma, semicolon or tab) is read off the header. A row with too few
 * or too many cells, or a stray quote, fails alone; empty cells are left out of the record.
 */
export const readCsv: Reader = async function* (input) {
  const iterator = (input as AsyncIterable<Buffer>)[Symbol.asyncIterator]();
  const first = await iterator.next();
  if (first.done) return;
  const skipped: Row[] = [];
  const delimiter = sniffSeparator(first.value.toString('utf8'));
  let head = '';
  const parser = parse({
    bom: true,
    delimiter,
    // Files with tabs are rarely quoted: a quote inside a cell is a quote.
    relax_quotes: delimiter === '\t',
    columns: (header: string[]) => {
      head = withoutEnd(stringify([header], { delimiter }));
      return nameColumns(header);
    },
    info: true,
    raw: true,
    skip_empty_lines: true,
    skip_records_with_error: true,
    max_record_size: MAX_ROW_BYTES,
    on_skip: (error: CsvError | undefined, raw: string | undefined) => {
      const row = withoutEnd(raw ?? '');
      skipped.push({ line: Number(error?.lines ?? 0), error: explain(error), raw: () => row, head });
    },
  });
  const feed = async (): Promise<void> => {
    for (
      let next = first;
      !next.done;
      next = (await iterator.next()) as IteratorResult<Buffer, undefined> & typeof first
    ) {
      if (!parser.write(next.value)) await new Promise((resolve) => parser.once('drain', resolve));
    }
    parser.end();
  };
  const feeding = feed().catch((error: Error) => parser.destroy(error));
  for await (const { record, info, raw } of parser as AsyncIterable<{
    record: Record<string, string>;
    raw: string;
    info: { lines: number };
  }>) {
    yield* skipped.splice(0);
    yield { line: info.lines, value: withoutEmpty(record), raw: () => withoutEnd(raw), head };
  }
  yield* skipped;
  await feeding;
};

/** A name for every column: a column without one is called by its number, a name that repeats gets a number too. */
function nameColumns(header: string[]): string[] {
  const seen = new Map<string, number>();
  return header.map((cell, i) => {
    const name = cell.trim() || `column ${i + 1}`;
    const times = (seen.get(name) ?? 0) + 1;
    seen.set(name, times);
    return times === 1 ? name : `${name} ${times}`;
  });
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
