import { widened, type IndexPlan } from '@yucca/engine';
import { allLayers, type Layers } from './layers';

/** A build of the whole index by another plan, beside the one that answers. */
export interface Rebuild {
  /** Settles when the index can answer the live tuning and the draft. Rejects when the build fails. */
  ended: Promise<void>;
  /** 0 to 1. */
  progress: number;
  records: number;
}

/** What is known of the index of one collection. */
export interface Entry extends Layers {
  ready: boolean;
  generation: number;
  /** Up to which generation is stored as used. */
  reserved: number;
  /** Work on this entry happens one after the other. Only what takes milliseconds may stand in it. */
  queue: Promise<unknown>;
  /** A refresh that is queued and not yet begun: later callers share it. */
  pending: Promise<void> | null;
  merging: boolean;
  /** One part is being made of all that is in memory. */
  gathering: boolean;
  rebuild: Rebuild | null;
  /** The tunings that are shown, as JSON, and whether the index can answer the draft among them. */
  shown: { live: string; draft: string; plan: IndexPlan; draftReady: boolean } | null;
  /** Counts the times that all layers were replaced: what was begun before is of no use any more. */
  epoch: number;
}

/** An index of which nothing is open yet. */
export function newEntry(collectionId: number, generation: number, plan: IndexPlan): Entry {
  return {
    collectionId,
    ready: false,
    plan,
    layers: [],
    recent: null,
    fresh: null,
    lastTombstone: 0,
    generation,
    reserved: generation,
    queue: Promise.resolve(),
    pending: null,
    merging: false,
    gathering: false,
    rebuild: null,
    shown: null,
    underWay: 0,
    gaps: [],
    epoch: 0,
  };
}

/** What the segments of an index can answer of what is wanted, and what they were made for. */
export function heldPlan(entry: Entry, wanted: IndexPlan): IndexPlan {
  // What is missing may hold anything.
  if (!entry.ready || entry.gaps.length > 0) return entry.plan;
  return widened(
    entry.plan,
    wanted,
    allLayers(entry).map(({ segment }) => segment),
  );
}
