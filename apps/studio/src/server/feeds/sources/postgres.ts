import type { PostgresSource } from '@yucca/contract';
import { createHash } from 'node:crypto';
import type pg from 'pg';
import { SourceError } from '../outside/source-error';
import { asSourceError, connected } from './postgres-connection';
import { KeyLog, lsnNumber, MOST_LOGGED, type KeyChange } from './postgres-log';
import type { Print } from '../read-events';
import { emptyBatch, noted, type SourceBatch, type SourceEnd, type SourceLine, type SourceReader } from './source';
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

interface Position extends Omit<SqlPosition, 'log'> {
  /** The slot is there and all rows were read once since. */
  follows?: boolean;
}

const READ_ONLY = 'begin transaction isolation level repeatable read read only';
const FIRST_ROWS = 20;
/** Changes after which the log is read no further than to the end of their transaction, and how many come at once. */
const LOGGED_TOGETHER = 2_000;
const LOGGED_AT_ONCE = 100;

/** A table, a view or a query of a PostgreSQL server. */
export const postgres: SourceReader<PostgresSource> = {
  async *read(source, order) {
    const client = await connected(source);
    try {
      const before = noted<Position>(order.position);
      const broken = resumedAt(order.resume, order.whole);
      if (source.follow) return yield* followed(client, source, { before, broken, feedId: order.feedId, whole: order.whole }); // prettier-ignore
      const whole = broken?.whole ?? isWholeDue(source, before as SqlPosition | null, order.whole);
      await client.query(READ_ONLY);
      return yield* all(client, source, { from: whole ? undefined : before?.changed, whole, before, broken });
    } catch (error) {
      throw asSourceError(error, source);
    } finally {
      await client.end().catch(() => {});
    }
  },
};

/** What is read, as an expression for FROM: names may have a schema before them. */
function rowsFrom({ table, query }: PostgresSource): string {
  if (query !== undefined) return `(${query.trim().replace(/;$/, '')}\n) as yucca`;
  if (table === undefined) throw new SourceError('Name a table or a query.', { isLasting: true });
  return `${tableName(table)} as yucca`;
}

const tableName = (table: string): string => table.split('.').map(quoted).join('.');

/** Parts that all keys are sorted into, to be compared without moving rows. */
export const PARTS = 1_024;
const PRINT = 'yucca__print';
const PART = 'yucca__part';
const KEY = 'yucca__key';
const LARGE = 'yucca__large';

/** Rows with their prints: 48 bits of the server's own hash, so that it is a number here. Of a large row the key. */
const printed = (source: PostgresSource): string =>
  `select kept.*, ${keyColumn(source)}::text as ${KEY}, octet_length(shown.text) > ${MOST_ROW} as ${LARGE}, ` +
  `${hashed('shown.text')} as ${PRINT}, ${partOf(source.key)} as ${PART} from ${rowsFrom(source)} ` +
  // Written as text once.
  `cross join lateral (select yucca::text as text offset 0) as shown ` +
  `left join lateral (select yucca.*) as kept on octet_length(shown.text) <= ${MOST_ROW}`;
const keyColumn = ({ key }: PostgresSource): string => `yucca.${quoted(key)}`;
const hashed = (text = 'yucca::text'): string => `hashtextextended(${text}, 0) & 281474976710655`;
const partOf = (key: string): string => `hashtext(yucca.${quoted(key)}::text) & ${PARTS - 1}`;

function lineOf(found: Record<string, unknown>): { json: string; print: Print } | { error: string; key: string } {
  const { [PRINT]: hash, [PART]: part, [KEY]: key, [LARGE]: isLarge, ...row } = found;
  if (isLarge) return { error: TOO_LARGE, key: String(key) };
  return { json: jsonOf(row), print: { hash: Number(hash), part: Number(part) } };
}

interface Reading {
  from?: Position['changed'];
  whole: boolean;
  before: Position | null;
  broken: SqlResume | null;
  order?: number | null;
}

/**
 * Rows in the order of their keys, in pieces, within a transaction that reads only and sees one state; after a crash
 * from the last key on.
 */
async function* all(
  client: pg.Client,
  source: PostgresSource,
  { whole, before, broken, ...given }: Reading,
): AsyncGenerator<SourceBatch, SourceEnd> {
  const { changed, key } = source;
  const { from, order = null } = broken ?? given;
  const isPart = changed !== undefined && from !== undefined;
  const since = isPart ? [`yucca.${quoted(changed)} >= $1`] : [];
  const values = isPart ? [from] : [];
  const [counted] = await asked<{ many: number }>(
    client,
    `select count(*) as many from ${rowsFrom(source)}${where(since)}`,
    values,
  );
  const total = Number(counted!.many);
  if (broken !== null) {
    values.push(broken.key);
    since.push(`(${keyColumn(source)} >= $${values.length} or ${keyColumn(source)} is null)`);
  }
  const text = `declare yucca_rows no scroll cursor for ${printed(source)}${where(since)} order by ${keyColumn(source)}`;
  await asked(client, text, values);
  let largest = broken?.largest ?? from;
  let many = FIRST_ROWS;
  let anew = broken === null;
  for (;;) {
    const { rows: found } = await client.query<Record<string, unknown>>(`fetch ${many} from yucca_rows`);
    if (found.length === 0) break;
    if (changed !== undefined && broken === null) for (const row of found) largest = larger(largest, row[changed]);
    const records = found.map(lineOf);
    // As many as fit, by those that came.
    const bytes = records.reduce((all, line) => all + ('json' in line ? line.json.length : 0), 1);
    many = Math.max(1, Math.min(AT_ONCE, Math.floor((BYTES_AT_ONCE * found.length) / bytes)));
    const at = found.at(-1)![KEY];
    const resume = typeof at === 'string' ? JSON.stringify({ key: at, from, largest, whole, order }) : null;
    yield { ...emptyBatch(key), records, total, order, anew, resume };
    anew = false;
  }
  await client.query('commit');
  const position: Position = {
    ...(largest !== undefined && { changed: largest }),
    wholeAt: whole ? Date.now() : (before?.wholeAt ?? 0),
  };
  return { whole, position: JSON.stringify(position), unchanged: !whole && total === 0 };
}

/** One statement with somebody's own text in it: the extended protocol takes no second one behind a semicolon. */
async function asked<T extends pg.QueryResultRow>(client: pg.Client, text: string, values: unknown[]): Promise<T[]> {
  const order = { text, values, queryMode: 'extended' } as pg.QueryConfig;
  return (await client.query<T>(order)).rows;
}

/** What the slot and the publication of a feed are called. */
export const slotOf = (feedId: string): string =>
  `yucca_${createHash('sha256').update(feedId).digest('hex').slice(0, 12)}`;

/**
 * All rows once, as of the moment at which the slot of logical decoding begins, and from then on each change. Of a
 * change the log tells the key; the row is looked at as it is, so that rows of a query may be made of several tables.
 */
async function* followed(
  client: pg.Client,
  source: PostgresSource,
  { before, broken, feedId, whole }: Pick<Reading, 'before' | 'broken' | 'whole'> & { feedId: string },
): AsyncGenerator<SourceBatch, SourceEnd> {
  if (source.table === undefined)
    throw new SourceError('Name the table whose changes are followed; a query may say what is read of it.', {
      isLasting: true,
    });
  const slot = slotOf(feedId);
  const isThere = (await client.query('select 1 from pg_replication_slots where slot_name = $1', [slot])).rowCount! > 0;
  if (isThere && broken !== null) {
    // The snapshot of then is gone. What has changed since is in the log, which the slot has kept.
    await client.query(READ_ONLY);
    return follows(yield* all(client, source, { whole: true, before: null, broken }));
  }
  if (whole || !isThere || !before?.follows) {
    await publish(client, source.table, slot);
    // Broken off before its first rows were written: the slot begins anew with its snapshot.
    const isNew = !isThere || !before?.follows;
    if (isThere && isNew) await client.query('select pg_drop_replication_slot($1)', [slot]);
    return yield* snapshot(client, source, isNew ? slot : null);
  }
  let many = 0;
  for (;;) {
    const log = new KeyLog(source.key);
    let entries = 0;
    // The server keeps what comes together aside: a transaction may have changed a million rows.
    await client.query('begin transaction read only');
    await client.query(
      `declare yucca_log no scroll cursor for select lsn, substring(data from 1 for ${MOST_LOGGED}) as data
       from pg_logical_slot_peek_binary_changes($1, null, ${LOGGED_TOGETHER}, 'proto_version', '1', 'publication_names', $2)`,
      [slot, slot],
    );
    for (;;) {
      const { rows } = await client.query<{ lsn: string; data: Buffer }>(`fetch ${LOGGED_AT_ONCE} from yucca_log`);
      if (rows.length === 0) break;
      entries += rows.length;
      const changes = log.add(rows);
      many += changes.length;
      for (let at = 0; at < changes.length; at += AT_ONCE)
        yield { ...emptyBatch(source.key), changes: await withRows(client, source, changes.slice(at, at + AT_ONCE), slot) }; // prettier-ignore
    }
    await client.query('commit');
    // What was yielded is on the disk when this goes on.
    if (log.upTo !== null) await client.query('select pg_replication_slot_advance($1, $2)', [slot, log.upTo]);
    // After a TRUNCATE everything is read, and asked before so much is deleted.
    if (log.isLost) return { whole: false, position: null, unchanged: false };
    if (entries === 0) break;
  }
  return { whole: false, position: JSON.stringify(before), unchanged: many === 0 };
}

async function publish(client: pg.Client, table: string, name: string): Promise<void> {
  const known = await client.query('select 1 from pg_publication where pubname = $1', [name]);
  if (known.rowCount! > 0) return;
  const { rows } = await client.query<{ wal_level: string }>('show wal_level');
  if (rows[0]!.wal_level !== 'logical')
    throw new SourceError('The server keeps no log of changes: set wal_level = logical in its settings and restart it.', { isLasting: true }); // prettier-ignore
  await client.query(`create publication ${quoted(name)} for table ${tableName(table)}`);
}

/** All rows were read: from now on the log is. */
const follows = (end: SourceEnd): SourceEnd => ({
  ...end,
  position: JSON.stringify({ follows: true, wholeAt: Date.now() } satisfies Position),
});

/** All rows as of the moment at which a slot begins. `slot`: one that stays; null = one for this alone. */
async function* snapshot(
  client: pg.Client,
  source: PostgresSource,
  slot: string | null,
): AsyncGenerator<SourceBatch, SourceEnd> {
  const maker = await connected(source, true);
  try {
    const name = slot ?? `yucca_once_${Date.now()}`;
    // The language of replication knows its words in capitals alone.
    const kind = slot === null ? 'TEMPORARY LOGICAL' : 'LOGICAL';
    const made = await maker.query<{ consistent_point: string; snapshot_name: string }>(
      `CREATE_REPLICATION_SLOT ${quoted(name)} ${kind} pgoutput`,
    );
    const { consistent_point: point, snapshot_name: shared } = made.rows[0]!;
    await client.query(READ_ONLY);
    await client.query(`set transaction snapshot '${shared.replaceAll("'", "''")}'`);
    const order = lsnNumber(point);
    return follows(yield* all(client, source, { whole: true, before: null, broken: null, order }));
  } finally {
    await maker.end().catch(() => {});
  }
}

/** Changes with the rows they are of, as those are now. */
async function withRows(
  client: pg.Client,
  source: PostgresSource,
  changes: readonly KeyChange[],
  slot: string,
): Promise<SourceBatch['changes']> {
  const text = `${printed(source)} where ${keyColumn(source)} = any($1)`;
  const rows = await asked<Record<string, unknown>>(client, text, [[...new Set(changes.map(({ key }) => key))]]);
  const found = new Map(rows.map((row) => [String(row[KEY]), lineOf(row)]));
  return changes.map(({ key, order, event }) => {
    const row = found.get(key);
    const action = row === undefined ? 'delete' : 'upsert';
    const data = row === undefined ? null : changedTo(row);
    const print = row !== undefined && 'json' in row ? { print: row.print } : {};
    return { source: slot, event, type: `row.${action}`, key, action, data, order, ...print };
  });
}

/** Takes the slot and the publication of a feed away: a slot that nobody reads fills the disk of its server. */
export async function unfollow(source: PostgresSource, feedId: string): Promise<void> {
  const slot = slotOf(feedId);
  const client = await connected(source);
  try {
    await client.query('select pg_drop_replication_slot(slot_name) from pg_replication_slots where slot_name = $1', [slot]); // prettier-ignore
    await client.query(`drop publication if exists ${quoted(slot)}`);
  } catch (error) {
    throw asSourceError(error, source);
  } finally {
    await client.end().catch(() => {});
  }
}

/** What a server tells of its rows without moving them. */
export interface PrintedSource {
  /** Of each part: how many rows, and the sum of their prints as text. */
  parts: Map<number, string>;
  rows: number;
  /** Keys and prints of the rows of some parts. */
  inParts: (parts: readonly number[]) => Promise<Map<string, number>>;
  /** Some rows. */
  byKeys: (keys: readonly string[]) => Promise<Map<string, SourceLine>>;
  close: () => Promise<void>;
}

/** Looks at the rows of a source as they are at one moment; close it. Throws a SourceError. */
export async function openPrinted(source: PostgresSource): Promise<PrintedSource> {
  const client = await connected(source);
  const guarded = async <T>(work: () => Promise<T>): Promise<T> => {
    try {
      return await work();
    } catch (error) {
      await client.end().catch(() => {});
      throw asSourceError(error, source);
    }
  };
  const key = `yucca.${quoted(source.key)}`;
  const from = rowsFrom(source);
  const sums = await guarded(async () => {
    await client.query(READ_ONLY);
    return asked<{ part: number; many: number; sum: string }>(
      client,
      `select part, count(*) as many, sum(print)::text as sum from (select ${hashed()} as print, ${partOf(source.key)} as part from ${from}) as prints group by part`,
      [],
    );
  });
  return {
    parts: new Map(sums.map(({ part, many, sum }) => [part, `${many} ${sum}`])),
    rows: sums.reduce((all, { many }) => all + many, 0),
    inParts: (parts) =>
      guarded(async () => {
        const text = `select ${key}::text as key, ${hashed()} as print from ${from} where ${partOf(source.key)} = any($1)`;
        const rows = await asked<{ key: string; print: number }>(client, text, [parts]);
        return new Map(rows.map((row) => [row.key, row.print]));
      }),
    byKeys: (keys) =>
      guarded(async () => {
        const rows = await asked<Record<string, unknown>>(client, `${printed(source)} where ${key}::text = any($1)`, [keys]); // prettier-ignore
        return new Map(rows.map((row) => [String(row[KEY]), lineOf(row)]));
      }),
    close: () => client.end().catch(() => {}),
  };
}
