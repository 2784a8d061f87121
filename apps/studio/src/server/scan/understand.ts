import type { Card, RecordJson } from '@yucca/contract';
import { guessCard, guessFacets } from '@yucca/engine/understand';
import { asc, count, eq } from 'drizzle-orm';
import type { Db } from '../db/open';
import { records } from '../db/schema';

/** Records looked at when a card and facets are guessed. */
const SAMPLE = 300;
const SLICES = 20;

/**
 * Guesses what a result card shows and which facets to offer, so that the search page is worth looking at the moment
 * the data is in.
 */
export function understandRecords(db: Db, collectionId: number, keyField: string): { card: Card; facets: string[] } {
  const some = sample(db, collectionId);
  return { card: guessCard(some, keyField), facets: guessFacets(some, keyField) };
}

/**
 * Some records from all over the collection: files are often sorted, so the first ones are all alike. Slices, not
 * single records, because reaching a place costs more than reading on.
 */
function sample(db: Db, collectionId: number): RecordJson[] {
  const ofCollection = eq(records.collectionId, collectionId);
  const total = db.select({ all: count() }).from(records).where(ofCollection).get()!.all;
  const whole = total <= SAMPLE;
  const slices = Array.from({ length: whole ? 1 : SLICES }, (_, i) =>
    db
      .select({ json: records.json })
      .from(records)
      .where(ofCollection)
      .orderBy(asc(records.order))
      .limit(whole ? SAMPLE : SAMPLE / SLICES)
      .offset(Math.floor((i * total) / SLICES))
      .all(),
  );
  return slices.flat().map(({ json }) => JSON.parse(json) as RecordJson);
}
