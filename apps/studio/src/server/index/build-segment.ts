import { SegmentBuilder, type IndexPlan } from '@yucca/engine';
import type { Db } from '../db/open';
import { beat } from '../workers/rpc';

const BEAT_EVERY = 500;

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
  /** The newest tombstone at that moment, and the versions deleted since `sinceTombstone`. */
  tombstoneId: number;
  deleted: number[];
}

interface Row {
  versionId: number;
  order: number;
  key: string;
  json: string;
}

/** Reads records and tombstones in one read transaction, so that both tell of the same moment, and builds a segment. */
export function buildSegment(
  db: Db,
  { collectionId, fromVersion, toVersion: upTo, sinceTombstone, plan, atMost }: BuildJob,
  onProgress: (records: number) => void = () => {},
): BuiltSegment {
  const client = db.$client;
  return client.transaction((): BuiltSegment => {
    const { toVersion, tombstoneId } = client
      .prepare(
        `select (select coalesce(max(seq), 0) from sqlite_sequence where name = 'records') as toVersion,
                (select coalesce(max(id), 0) from tombstones where collection_id = @collectionId) as tombstoneId`,
      )
      .get({ collectionId }) as { toVersion: number; tombstoneId: number };
    const deleted = client
      .prepare('select version_id from tombstones where collection_id = ? and id > ?')
      .pluck()
      .all(collectionId, sinceTombstone) as number[];
    const seen = {
      toVersion: Math.min(upTo ?? Infinity, Math.max(toVersion, fromVersion)),
      tombstoneId: Math.max(tombstoneId, sinceTombstone),
      deleted,
    };
    if (atMost !== undefined) {
      const count = client
        .prepare('select count(*) from (select 1 from records where collection_id = ? and version_id > ? limit ?)')
        .pluck()
        .get(collectionId, fromVersion, atMost + 1) as number;
      if (count > atMost) return { ...seen, buffer: null, tooMany: true, records: count };
    }
    const builder = new SegmentBuilder(plan);
    const rows = client
      .prepare(
        'select version_id as versionId, ord as "order", key, json from records where collection_id = ? and version_id > ? and version_id <= ? order by version_id',
      )
      .iterate(collectionId, fromVersion, seen.toVersion) as IterableIterator<Row>;
    for (const row of rows) {
      builder.add(row);
      if (builder.docs % BEAT_EVERY !== 0) continue;
      beat();
      onProgress(builder.docs);
    }
    const buffer = builder.docs > 0 ? builder.finish((bytes) => new SharedArrayBuffer(bytes)) : null;
    return { ...seen, buffer, tooMany: false, records: builder.docs };
  })();
}
