import { SegmentBuilder, type IndexPlan } from '@yucca/engine';
import type { Db } from '../db/open';
import { beat } from '../workers/rpc';
import { sharedMemory } from './shared-memory';

const BEAT_EVERY = 500;
/** Records that are worth a second thread: below, starting it takes as long. */
export const PART_FROM = 10_000;
/** Of the work on a record, what comes after all have been taken in: sorting, postings, columns. */
const LAYING_OUT = 0.375;

export interface BuildJob {
  collectionId: number;
  /** Only versions after this one. */
  fromVersion: number;
  /** And none after this one; left out: all there are. */
  toVersion?: number;
  /** Tombstones after this one are wanted. */
  sinceTombstone: number;
  plan: IndexPlan;
  /** Build nothing when there are more records than this. */
  atMost?: number;
}

/** What a build saw, all of it at one moment. */
export interface BuiltSegment {
  /** Null when there was no record, or too many. */
  buffer: SharedArrayBuffer | null;
  tooMany: boolean;
  records: number;
  /** The segment covers every version up to this one. */
  toVersion: number;
  /**
   * The newest tombstone when the first record was read: later ones concern the segment. And the versions deleted since
   * `sinceTombstone`.
   */
  tombstoneId: number;
  deleted: number[];
}

interface Row {
  versionId: number;
  order: number;
  key: string;
  json: string;
}

const ROWS =
  'select version_id as versionId, ord as "order", key, json from records where collection_id = ? and version_id > ? and version_id <= ? order by version_id';

/** Some records after a version, in the order they were written. */
export const rowsAfter = (db: Db, collectionId: number, after: number, to: number, most: number): Row[] =>
  db.$client.prepare(`${ROWS} limit ?`).all(collectionId, after, Math.min(to, Number.MAX_SAFE_INTEGER), most) as Row[];

/** The newest version there is of any record, and the newest tombstone of a collection. */
export function newestOf(
  db: Db,
  { collectionId }: Pick<BuildJob, 'collectionId'>,
): {
  version: number;
  tombstoneId: number;
} {
  return db.$client
    .prepare(
      `select (select coalesce(max(seq), 0) from sqlite_sequence where name = 'records') as version,
              (select coalesce(max(id), 0) from tombstones where collection_id = @collectionId) as tombstoneId`,
    )
    .get({ collectionId }) as { version: number; tombstoneId: number };
}

/** The versions of a collection that were deleted after a tombstone. */
export const deletedSince = (db: Db, collectionId: number, sinceTombstone: number): number[] =>
  db.$client
    .prepare('select version_id from tombstones where collection_id = ? and id > ?')
    .pluck()
    .all(collectionId, sinceTombstone) as number[];

/** Reads records and tombstones in one read transaction, so that both tell of the same moment, and builds a segment. */
export function buildSegment(
  db: Db,
  { collectionId, fromVersion, toVersion: upTo, sinceTombstone, plan, atMost }: BuildJob,
  onProgress: (records: number) => void = () => {},
): BuiltSegment {
  const client = db.$client;
  return client.transaction((): BuiltSegment => {
    const newest = newestOf(db, { collectionId });
    const seen = {
      toVersion: Math.min(upTo ?? Infinity, Math.max(newest.version, fromVersion)),
      tombstoneId: Math.max(newest.tombstoneId, sinceTombstone),
      deleted: deletedSince(db, collectionId, sinceTombstone),
    };
    if (atMost !== undefined) {
      const count = client
        .prepare('select count(*) from (select 1 from records where collection_id = ? and version_id > ? limit ?)')
        .pluck()
        .get(collectionId, fromVersion, atMost + 1) as number;
      if (count > atMost) return { ...seen, buffer: null, tooMany: true, records: count };
    }
    const builder = new SegmentBuilder(plan);
    const rows = client.prepare(ROWS).iterate(collectionId, fromVersion, seen.toVersion) as IterableIterator<Row>;
    for (const row of rows) {
      builder.add(row);
      if (builder.docs % BEAT_EVERY !== 0) continue;
      beat();
      onProgress(builder.docs);
    }
    const buffer = builder.docs > 0 ? builder.finish(sharedMemory) : null;
    return { ...seen, buffer, tooMany: false, records: builder.docs };
  })();
}

/**
 * Where to part the records after a version so that several threads that each build a part are done at once. The first
 * has `ahead` records in it already, which it has still to lay out. Returns the last version of each part but the last;
 * few records stay together.
 */
export function boundsOf(
  db: Db,
  {
    collectionId,
    after,
    to,
    ahead,
    parts,
  }: { collectionId: number; after: number; to: number; ahead: number; parts: number },
): number[] {
  const range = 'from records where collection_id = ? and version_id > ? and version_id <= ?';
  const records = db.$client.prepare(`select count(*) ${range}`).pluck().get(collectionId, after, to) as number;
  if (records < PART_FROM) return [];
  const less = ahead * LAYING_OUT;
  const first = Math.max(0, Math.floor((records - less * (parts - 1)) / parts));
  const rest = Math.ceil((records - first) / (parts - 1));
  const at = db.$client.prepare(`select version_id ${range} order by version_id limit 1 offset ?`).pluck();
  return Array.from({ length: parts - 1 }, (_, i) => {
    const before = first + i * rest;
    return before === 0 ? after : ((at.get(collectionId, after, to, before - 1) as number | undefined) ?? to);
  });
}
