import type { RecordJson } from '@yucca/contract';
import { pick } from '@yucca/engine';
import { stringify } from 'csv-stringify/sync';
import type { Db } from '../db/open';
import { eachRecord } from './each-record';

export interface ExportOrder {
  collectionId: number;
  format: 'ndjson' | 'csv';
  /** Field paths; `*` = all. */
  fields: string[];
  keys: ReadonlySet<string> | null;
}

/** Pieces of about this many units: large enough to travel well, small enough to hold. */
const PIECE = 256 * 1024;

/**
 * Writes records out, piece by piece. JSON Lines gives back what came in. CSV (RFC 4180) has a column for every field of
 * any record: fields of objects get dotted names, lists become JSON.
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

function* asLines(db: Db, { collectionId, fields, keys }: ExportOrder): Generator<string> {
  const whole = fields.includes('*');
  let piece = '';
  for (const { json, record } of eachRecord(db, collectionId, keys)) {
    piece += `${whole ? json : JSON.stringify(pick(record(), fields))}\n`;
    if (piece.length < PIECE) continue;
    yield piece;
    piece = '';
  }
  yield piece;
}

function* asCsv(db: Db, { collectionId, fields, keys }: ExportOrder): Generator<string> {
  const columns = new Set<string>();
  for (const { record } of eachRecord(db, collectionId, keys)) {
    for (const name of Object.keys(flat(pick(record(), fields)))) columns.add(name);
  }
  const names = [...columns];
  let rows: string[][] = [names];
  let size = 0;
  for (const { record } of eachRecord(db, collectionId, keys)) {
    const cells = flat(pick(record(), fields));
    const row = names.map((name) => (Object.hasOwn(cells, name) ? cells[name]! : ''));
    size += row.reduce((sum, cell) => sum + cell.length + 1, 0);
    rows.push(row);
    if (size < PIECE) continue;
    yield stringify(rows, { record_delimiter: 'windows' });
    rows = [];
    size = 0;
  }
  yield stringify(rows, { record_delimiter: 'windows' });
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
