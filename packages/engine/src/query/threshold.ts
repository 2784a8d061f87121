import { bestOfClass, CLASSES } from '../segment/impact.ts';
import type { Segment } from '../segment/segment.ts';
import { DocSet } from '../sets/doc-set.ts';
import type { FieldWeights } from './fields.ts';
import { formFactor, lengthFactors, startFactor, trustIn } from './score.ts';
import type { SegmentMatch } from './matching.ts';
import type { WordMatch } from './word-match.ts';

/** A stretch of documents none of which can have more points for a word than the level it belongs to. */
interface Stretch {
  docs: Uint32Array;
  from: number;
  to: number;
}

/** Stretches of one word by the most points they can bring, best first. */
interface Level {
  /** 0 to 1. */
  bound: number;
  stretches: Stretch[];
}

/** Bounds are rounded up to so many steps: fewer levels, hardly more documents. */
const STEPS = 512;

/** The documents of one word, best first. */
function levelsOf(segment: Segment, { readings }: WordMatch, fields: FieldWeights, queryWords: number): Level[] {
  const lengths = lengthFactors(queryWords);
  const shortest = Float64Array.from(segment.meta.shortest, (words) => startFactor(0) * lengths[words]!);
  const ofClass = Float64Array.from({ length: CLASSES }, (_, impact) => {
    const { position, words } = bestOfClass(impact);
    return startFactor(position) * lengths[words]!;
  });
  const levels = new Map<number, Stretch[]>();
  const add = (bound: number, docs: Uint32Array, from: number, to: number): void => {
    if (from === to) return;
    const step = Math.ceil(bound * STEPS);
    const stretches = levels.get(step);
    if (stretches) stretches.push({ docs, from, to });
    else levels.set(step, [{ docs, from, to }]);
  };
  const { groupStarts, groupFields, groupPosts, postDocs, partedGroups, classStarts, termLengths } = segment;
  for (const { how, typos, whole, letters, from, to, together } of readings) {
    const trust = trustIn(how, typos);
    if (together !== null) {
      add(trust, together.docs, 0, together.docs.length);
      continue;
    }
    let parted = firstNotBelow(partedGroups, groupStarts[from]!);
    for (let term = from; term < to; term++) {
      const form = formFactor(trust, whole, letters, termLengths[term]!);
      for (let group = groupStarts[term]!; group < groupStarts[term + 1]!; group++) {
        while (partedGroups[parted]! < group) parted++;
        const field = groupFields[group]!;
        const weight = typos > 0 && fields.exact[field] === 1 ? 0 : fields.weights[field]!;
        if (weight === 0) continue;
        const [start, end] = [groupPosts[group]!, groupPosts[group + 1]!];
        if (partedGroups[parted] !== group) {
          add(weight * form * shortest[field]!, postDocs, start, end);
          continue;
        }
        for (let impact = 0; impact < CLASSES; impact++) {
          const at = parted * CLASSES + impact;
          const stop = impact + 1 < CLASSES ? classStarts[at + 1]! : end;
          add(weight * form * Math.min(ofClass[impact]!, shortest[field]!), postDocs, classStarts[at]!, stop);
        }
      }
    }
  }
  return [...levels].sort(([a], [b]) => b - a).map(([step, stretches]) => ({ bound: step / STEPS, stretches }));
}

function firstNotBelow(sorted: Uint32Array, value: number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (sorted[middle]! < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

export interface ThresholdJob {
  match: SegmentMatch;
  tellings: readonly number[];
  /** The documents to choose from. */
  wanted: DocSet;
  /** Signals 0 to 100, the documents by them (highest first), and their share of the score. */
  signals: { scores: Float64Array; order: Uint32Array } | null;
  share: number;
}

/** Scores are rounded to a thousandth; a bound is passed only by more than that. */
const MARGIN = 0.002;
/** Documents of the signal order taken at a time. */
const PIECE = 256;

/**
 * Offers documents until none left could be better than what `worst` says is needed (Fagin, Lotem and Naor 2001, the
 * threshold algorithm): the words and the signals are lists of documents, best first; a document is offered when it first
 * appears in one of them; what has appeared in none can score no more than the sum of what the lists have come down to.
 *
 * `worst` answers the score to beat, null while any will do. A broad query offers some thousands of documents of hundreds
 * of thousands.
 */
export function offerBest(job: ThresholdJob, offer: (doc: number) => void, worst: () => number | null): void {
  const { match, tellings, wanted, signals, share } = job;
  const { segment, words, fields } = match;
  const total = tellings.reduce((sum, weight) => sum + weight, 0);
  const lists = words.map((word, i) => ({
    levels: levelsOf(segment, word, fields, words.length),
    at: 0,
    weight: (100 * (1 - (signals === null ? 0 : share)) * tellings[i]!) / total,
  }));
  const left = wanted.copy();
  const take = (doc: number): void => {
    if (!left.has(doc)) return;
    left.bits[doc >>> 5]! &= ~(1 << (doc & 31));
    offer(doc);
  };
  let signalAt = 0;
  const useSignals = signals !== null && share > 0;
  for (;;) {
    const bounds = lists.map(({ levels, at, weight }) => (levels[at]?.bound ?? 0) * weight);
    const signalBound = useSignals ? share * (signals.scores[signals.order[signalAt]!] ?? 0) : 0;
    const bound = bounds.reduce((sum, one) => sum + one, signalBound);
    const needed = worst();
    if (needed !== null && needed > bound + MARGIN) return;
    const next = bounds.indexOf(Math.max(...bounds));
    if (useSignals && signalBound > bounds[next]! && signalAt < signals.order.length) {
      const end = Math.min(signalAt + PIECE, signals.order.length);
      for (; signalAt < end; signalAt++) take(signals.order[signalAt]!);
      continue;
    }
    const list = lists[next]!;
    const level = list.levels[list.at];
    // Every document stands in some list: with the best of them at its end, all have been offered.
    if (level === undefined) return;
    for (const { docs, from, to } of level.stretches) for (let at = from; at < to; at++) take(docs[at]!);
    list.at++;
  }
}
