import type { RecordJson } from '@yucca/contract';
import { pick } from '@yucca/contract';
import { stringify } from 'csv-stringify/sync';
import type { Db } from '../db/open';
import { eachRecord } from './each-record';

export interface ExportOrder {
  collectionId: number;
  format: 'ndjson' | 'csv';
  /** Field paths; `*` = all. */
  fields: string[];
  /** CQL2-Text: only records that fulfil it. */
  filter: string | null;
  /** Cells that a spreadsheet would run as formulas are written as text. */
  forSpreadsheets: boolean;
}

/** Pieces of about this many units: large enough to travel well, small enough to hold. */
const PIECE = 256 * 1024;

/**
 * Writes records out, piece by piece. JSON Lines gives back what came in. CSV (RFC 4180) has a column for every field
 * of any record: fields of objects get dotted names, lists become JSON.
 */
export function* exportRecords(db: Db, order: ExportOrder): Generator<string> {
  // Both passes of CSV see the same records.
  db.$client.exec('begin');
  try {
    yield* order.format === 'csv' ? asCsv(db, order) : asLines(db, order);
  } finally {
    db.$client.exec('rollback');
  }
}

function* asLines(db: Db, { collectionId, fields, filter }: ExportOrder): Generator<string> {
  const whole = fields.includes('*');
  let piece = '';
  for (const { json, record } of eachRecord(db, collectionId, filter)) {
    piece += `${whole ? json : JSON.stringify(pick(record(), fields))}\n`;
    if (piece.length < PIECE) continue;
    yield piece;
    piece = '';
  }
  yield piece;
}

function* asCsv(db: Db, { collectionId, fields, filter, forSpreadsheets }: ExportOrder): Generator<string> {
  const columns = new Set<string>();
  for (const { record } of eachRecord(db, collectionId, filter)) {
    for (const name of Object.keys(flat(pick(record(), fields)))) columns.add(name);
  }
  const names = [...columns];
  let rows: string[][] = [names.map((name) => asCell(name, forSpreadsheets))];
  let size = 0;
  for (const { record } of eachRecord(db, collectionId, filter)) {
    const cells = flat(pick(record(), fields));
    const row = names.map((name) => (Object.hasOwn(cells, name) ? asCell(cells[name]!, forSpreadsheets) : ''));
    size += row.reduce((sum, cell) => sum + cell.length + 1, 0);
    rows.push(row);
    if (size < PIECE) continue;
    yield stringify(rows, { record_delimiter: 'windows' });
    rows = [];
    size = 0;
  }
  yield stringify(rows, { record_delimiter: 'windows' });
}

/** Spreadsheets take a cell that begins like this for a formula (OWASP, "CSV Injection"); a number does no harm. */
const FORMULA = /^[=+\-@\t\r]/;
const NUMBER = /^[-+]?\d+([.,]\d+)?(e[-+]?\d+)?$/i;

/** A cell as it is, or with the apostrophe before it that makes a spreadsheet take it for text. */
export function asCell(text: string, forSpreadsheets: boolean): string {
  return forSpreadsheets && FORMULA.test(text) && !NUMBER.test(text) ? `'${text}` : text;
}

/** A record as cells: objects opened into dotted names, lists as JSON, null and absent values empty. */
export function flat(record: RecordJson): Record<string, string> {
  const cells: [string, string][] = [];
  const walk = (value: unknown, name: string): void => {
    if (value === null || value === undefined) return;
    if (Array.isArray(value)) cells.push([name, JSON.stringify(value)]);
    else if (typeof value !== 'object') cells.push([name, String(value)]);
    else for (const [inner, item] of Object.entries(value)) walk(item, `${name}.${inner}`);
  };
  for (const [name, value] of Object.entries(record)) walk(value, name);
  return Object.fromEntries(cells);
}
