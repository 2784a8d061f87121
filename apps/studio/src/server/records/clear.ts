import { and, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import type { Db } from '../db/open';
import { feedEvents, feedKeys, feedMessages, feeds } from '../db/feeds-schema';
import { clearInsights } from '../insights/trim-insights';
import { collections, tombstones, judgements, originals, pastQueries, records, segments, tunings } from '../db/schema';

const PIECE = 5_000;

/** The numbers of the collections that live, or of those that are deleted and not yet cleared away. */
export function collectionIds(db: Db, which: 'live' | 'deleted'): number[] {
  const condition = which === 'live' ? isNotNull(collections.name) : isNull(collections.name);
  return db
    .select({ id: collections.id })
    .from(collections)
    .where(condition)
    .all()
    .map(({ id }) => id);
}

/**
 * Clears away a piece of a deleted collection; false when nothing is left of it. Killed half-way, it goes on next time.
 */
export function clearRecords(db: Db, collectionId: number): boolean {
  const piece = sql`${records.versionId} in (select version_id from records where collection_id = ${collectionId} limit ${PIECE})`;
  if (
    db
      .delete(records)
      .where(and(eq(records.collectionId, collectionId), piece))
      .run().changes > 0
  )
    return true;
  db.$client
    .transaction(() => {
      db.delete(originals).where(eq(originals.collectionId, collectionId)).run();
      db.delete(tombstones).where(eq(tombstones.collectionId, collectionId)).run();
      db.delete(segments).where(eq(segments.collectionId, collectionId)).run();
      db.delete(tunings).where(eq(tunings.ownerId, collectionId)).run();
      db.delete(judgements).where(eq(judgements.collectionId, collectionId)).run();
      db.delete(pastQueries).where(eq(pastQueries.collectionId, collectionId)).run();
      for (const table of [feedEvents, feedMessages, feedKeys])
        db.delete(table)
          .where(sql`feed_id in (select id from feeds where collection_id = ${collectionId})`)
          .run();
      db.delete(feeds).where(eq(feeds.collectionId, collectionId)).run();
      clearInsights(db, collectionId);
      db.delete(collections).where(eq(collections.id, collectionId)).run();
    })
    .immediate();
  return false;
}
