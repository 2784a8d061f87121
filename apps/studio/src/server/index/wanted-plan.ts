import { completeTuning, type TuningDocument } from '@yucca/contract';
import { planFor, type IndexPlan } from '@yucca/engine';
import { and, eq, or } from 'drizzle-orm';
import type { Db } from '../db/open';
import { collections, tunings } from '../db/schema';

/** The live tuning and the draft of a collection as they are stored, as JSON. Without a draft it is the live one. */
export function storedTunings(db: Db, collectionId: number): { live: string; draft: string } {
  const rows = db
    .select({ version: tunings.version, document: tunings.document })
    .from(tunings)
    .innerJoin(collections, eq(collections.id, tunings.ownerId))
    .where(
      and(eq(tunings.ownerId, collectionId), or(eq(tunings.version, 0), eq(tunings.version, collections.liveVersion))),
    )
    .all();
  const live = rows.find(({ version }) => version > 0)?.document ?? '{}';
  return { live, draft: rows.find(({ version }) => version === 0)?.document ?? live };
}

/** What must be indexed so that the live tuning, the draft, and those of `coming` can answer. */
export function wantedPlan(db: Db, collectionId: number, coming: readonly TuningDocument[] = []): IndexPlan {
  const { live, draft } = storedTunings(db, collectionId);
  return planOf([...new Set([live, draft])], coming);
}

/** The same without the draft: what visitors need. */
export function livePlan(db: Db, collectionId: number, coming: readonly TuningDocument[] = []): IndexPlan {
  return planOf([storedTunings(db, collectionId).live], coming);
}

const planOf = (texts: readonly string[], coming: readonly TuningDocument[]): IndexPlan =>
  planFor([...texts.map((text) => JSON.parse(text) as TuningDocument), ...coming].map(completeTuning));
