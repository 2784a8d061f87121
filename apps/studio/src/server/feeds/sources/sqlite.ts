import type { SqliteSource } from '@yucca/contract';
import Database from 'better-sqlite3';
import { SourceError } from '../outside/source-error';
import { insideLoadDir } from './folder';
import { changesOf, logTableOf, type Logged } from './sqlite-log';
import {
  AT_ONCE,
  BYTES_AT_ONCE,
  changedTo,
  isWholeDue,
  jsonOf,
  larger,
  MOST_ROW,
  quoted,
  resumedAt,
  TOO_LARGE,
  where,
  type SqlPosition,
  type SqlResume,
} from './sql-rows';
import { emptyBatch, noted, type SourceBatch, type SourceEnd, type SourceLine, type SourceReader } from './source';

/** A table or view of a SQLite file, or what a query makes of them. */
export const sqlite: SourceReader<SqliteSource> = {
  async *read(source, order) {
    const db = await opened(source, order.loadDir);
    try {
      const before = noted<SqlPosition>(order.position);
      const broken = resumedAt(order.resume, order.whole);
      if (source.log) return yield* logged(db, source, { before, broken, feedId: order.feedId, asked: order.whole });
      const whole = broken?.whole ?? isWholeDue(source, before, order.whole);
      return yield* all(db, source, { from: whole ? undefined : before?.changed, before, whole, broken });
    } catch (error) {
      throw asSourceError(error);
    } finally {
      db.close();
    }
  },
};

export async function opened(
  { file }: SqliteSource,
  loadDir: string | null,
  readonly = true,
): Promise<Database.Database> {
  const place = await insideLoadDir(loadDir, file);
  try {
    const db = new Database(place, { readonly, fileMustExist: true, timeout: 5_000 });
    // What is no database says so when it is first read.
    db.pragma('schema_version');
    if (readonly) db.pragma('query_only = ON');
    return db;
  } catch (error) {
    throw asSourceError(error);
  }
}

/** What is read, as an expression for FROM. Throws a SourceError for a query that does more than read. */
export function rowsFrom(db: Database.Database, { table, query }: SqliteSource): string {
  if (query === undefined) {
    if (table === undefined) throw new SourceError('Name a table or a query.', { isLasting: true });
    return quoted(table);
  }
  // Compiled alone first: what closes the parenthesis it is put into, and goes on, is no single statement.
  const statement = db.prepare(query);
  if (!statement.reader || !statement.readonly)
    throw new SourceError('The query does more than read. It has to be one SELECT.', { isLasting: true });
  return `(${query.trim().replace(/;$/, '')}\n)`;
}

interface Reading {
  from?: number | string | undefined;
  before: SqlPosition | null;
  whole: boolean;
  broken: SqlResume | null;
  order?: number | null;
}

/** Rows in the order of their keys, in pieces; after a crash from the last key on. */
function* all(
  db: Database.Database,
  source: SqliteSource,
  { before, whole, broken, ...given }: Reading,
): Generator<SourceBatch, SourceEnd> {
  const rows = rowsFrom(db, source);
  const { changed, key } = source;
  const { from, order = null } = broken ?? given;
  const isPart = changed !== undefined && from !== undefined;
  const since = isPart ? [`${quoted(changed)} >= ?`] : [];
  const values: unknown[] = isPart ? [from] : [];
  const total = db
    .prepare(`select count(*) from ${rows}${where(since)}`)
    .pluck()
    .get(...values) as number;
  if (broken !== null) {
    since.push(`${quoted(key)} >= ?`);
    values.push(boundKey(broken));
  }
  let largest = broken?.largest ?? from;
  let records: SourceLine[] = [];
  let bytes = 0;
  let anew = broken === null;
  let last: Row | undefined;
  const batch = (): SourceBatch => {
    const at = last && typedKey(last[key]);
    const resume = at && JSON.stringify({ ...at, from, largest, whole, order } satisfies Loose<SqlResume>);
    return { ...emptyBatch(key), records, total, order, anew, resume: resume ?? null };
  };
  for (const row of db
    .prepare(`${fitting(db, rows)}${where(since)} order by ${quoted(key)}`)
    .safeIntegers()
    .iterate(...values) as IterableIterator<Row>) {
    if (changed !== undefined && broken === null) largest = larger(largest, row[changed]);
    const line = lineOf(row, key);
    records.push(line);
    last = row;
    bytes += 'json' in line ? line.json.length : 0;
    if (records.length < AT_ONCE && bytes < BYTES_AT_ONCE) continue;
    yield batch();
    anew = false;
    records = [];
    bytes = 0;
  }
  yield batch();
  const position: SqlPosition = {
    ...(largest !== undefined && { changed: largest }),
    wholeAt: whole ? Date.now() : (before?.wholeAt ?? 0),
  };
  return { whole, position: JSON.stringify(position), unchanged: !whole && total === 0 };
}

/** With values that may not be there, which JSON leaves out. */
type Loose<T> = { [K in keyof T]: T[K] | undefined };

/** A key to go on from; nothing for what has no order beside the others (bytes). */
function typedKey(value: unknown): Pick<SqlResume, 'key' | 'type'> | undefined {
  const types = { string: 'text', bigint: 'integer', number: 'real' } as const;
  const type = types[typeof value as keyof typeof types];
  return type === undefined ? undefined : { key: String(value), type };
}

function boundKey({ key, type }: SqlResume): string | bigint | number {
  if (type === 'integer') return BigInt(key);
  return type === 'real' ? Number(key) : key;
}

/** All rows once, and from then on what triggers have noted. */
function* logged(
  db: Database.Database,
  source: SqliteSource,
  { before, broken, feedId, asked }: Pick<Reading, 'before' | 'broken'> & { feedId: string; asked: boolean },
): Generator<SourceBatch, SourceEnd> {
  const log = logTableOf(feedId);
  const isThere = db.prepare(`select 1 from sqlite_master where type = 'table' and name = ?`).get(log);
  if (!isThere) throw new SourceError('The triggers of the change log are not in the file. Make them first.');
  if (source.table === undefined) throw new SourceError('Triggers belong to a table, not to a query.', { isLasting: true }); // prettier-ignore
  const newest = (): number =>
    db
      .prepare(`select coalesce(max(seq), 0) from ${quoted(log)}`)
      .pluck()
      .get() as number;
  if (asked || broken !== null || before?.log === undefined) {
    // What is written while all rows are read is noted after this, and comes with the next run.
    const at = broken?.order ?? Math.max(newest(), before?.log ?? 0);
    const end = yield* all(db, source, { before, whole: true, broken, order: at });
    return { ...end, position: JSON.stringify({ log: at, wholeAt: Date.now() } satisfies SqlPosition) };
  }
  const find = db.prepare(`${fitting(db, quoted(source.table))} where ${quoted(source.key)} = ?`).safeIntegers();
  const next = db
    .prepare(`select seq, key, op from ${quoted(log)} where seq > ? order by seq limit ${AT_ONCE}`)
    .safeIntegers();
  let seq = before.log;
  for (;;) {
    const entries = (next.all(seq) as (Logged & { seq: bigint })[]).map((entry) => ({
      ...entry,
      seq: Number(entry.seq),
    }));
    if (entries.length === 0) break;
    seq = entries.at(-1)!.seq;
    const changes = changesOf(entries, log, (key) => {
      const row = find.get(key) as Row | undefined;
      if (row === undefined) return null;
      return changedTo(lineOf(row, source.key));
    });
    yield { ...emptyBatch(source.key), changes };
  }
  return { whole: false, position: JSON.stringify({ ...before, log: seq }), unchanged: seq === before.log };
}

type Row = Record<string, unknown>;

const LARGE = 'yucca__large';

/** All columns of rows; of a row that is too large its small ones, and that it is. Sizes are known without reading. */
function fitting(db: Database.Database, rows: string): string {
  const names = db.prepare(`select * from ${rows}`).columns().map(({ name }) => quoted(name)); // prettier-ignore
  const size = summed(names.map((name) => `coalesce(octet_length(${name}), 0)`));
  const kept = names.map((name) => `iif(octet_length(${name}) > ${MOST_ROW}, null, ${name}) as ${name}`);
  return `select ${kept.join(', ')}, ${size} > ${MOST_ROW} as ${LARGE} from ${rows}`;
}

/** A sum in halves: one after the other, a thousand terms would be nested too deeply for SQLite. */
function summed(terms: readonly string[]): string {
  if (terms.length < 3) return terms.join(' + ');
  const half = terms.length >> 1;
  return `(${summed(terms.slice(0, half))}) + (${summed(terms.slice(half))})`;
}

function lineOf({ [LARGE]: isLarge, ...row }: Row, key: string): { json: string } | { error: string; key: string } {
  return isLarge ? { error: TOO_LARGE, key: String(row[key]) } : { json: jsonOf(row) };
}

function asSourceError(error: unknown): unknown {
  const { name, code, message } = error as { name: string; code?: string; message: string };
  if (name === 'SourceError' || code === undefined || !/^SQLITE_/.test(code)) {
    // A statement that is no single one is told without a code.
    return name === 'RangeError' || name === 'TypeError' ? new SourceError(`SQLite: ${message}.`) : error;
  }
  if (code === 'SQLITE_NOTADB') return new SourceError('The file is no SQLite database.');
  return new SourceError(`SQLite: ${message}.`);
}
