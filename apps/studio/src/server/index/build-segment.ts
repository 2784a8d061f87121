import { SegmentBuilder, type IndexPlan } from '@yucca/engine';
import type { Db } from '../db/open';
import { beat } from '../workers/rpc';

const BEAT_EVERY = 500;

export interface BuildJob {
  collectionId: number;
  /** Only versions after this one. */
  fromRid: number;
  /** And none after this one; left out: all there are. */
  toRid?: number;
  /** Graves after this one are wanted. */
  sinceGrave: number;
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
  toRid: number;
  /** The newest grave at that moment, and the versions buried since `sinceGrave`. */
  graveId: number;
  buried: number[];
}

interface Row {
  rid: number;
  order: number;
  key: string;
  json: string;
}

/** Reads records and graves in one read transaction, so that both tell of the same moment, and builds a segment. */
export function buildSegment(
  db: Db,
  { collectionId, fromRid, toRid: upTo, sinceGrave, plan, atMost }: BuildJob,
): BuiltSegment {
  const client = db.$client;
  return client.transaction((): BuiltSegment => {
    const { toRid, graveId } = client
      .prepare(
        `select (select coalesce(max(seq), 0) from sqlite_sequence where name = 'records') as toRid,
                (select coalesce(max(gid), 0) from graves where collection_id = @collectionId) as graveId`,
      )
      .get({ collectionId }) as { toRid: number; graveId: number };
    const buried = client
      .prepare('select rid from graves where collection_id = ? and gid > ?')
      .pluck()
      .all(collectionId, sinceGrave) as number[];
    const seen = {
      toRid: Math.min(upTo ?? Infinity, Math.max(toRid, fromRid)),
      graveId: Math.max(graveId, sinceGrave),
      buried,
    };
    if (atMost !== undefined) {
      const count = client
        .prepare('select count(*) from (select 1 from records where collection_id = ? and rid > ? limit ?)')
        .pluck()
        .get(collectionId, fromRid, atMost + 1) as number;
      if (count > atMost) return { ...seen, buffer: null, tooMany: true, records: count };
    }
    const builder = new SegmentBuilder(plan);
    const rows = client
      .prepare(
        'select rid, ord as "order", key, json from records where collection_id = ? and rid > ? and rid <= ? order by rid',
      )
      .iterate(collectionId, fromRid, seen.toRid) as IterableIterator<Row>;
    for (const row of rows) {
      builder.add(row);
      if (builder.docs % BEAT_EVERY === 0) beat();
    }
    const buffer = builder.docs > 0 ? builder.finish((bytes) => new SharedArrayBuffer(bytes)) : null;
    return { ...seen, buffer, tooMany: false, records: builder.docs };
  })();
}
