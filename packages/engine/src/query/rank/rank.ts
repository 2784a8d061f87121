import { DocSet } from '../../sets/doc-set.ts';
import { Results } from '../../sets/results.ts';
import type { Signals } from '../../signals/signals.ts';
import type { SegmentMatch } from '../match/match-query.ts';
import { inPieces } from './in-pieces.ts';
import { roundScore } from '../../score/text-score.ts';
import { Scorer } from './scorer.ts';
import { smallest } from './quickselect.ts';
import { compareResolved, type Sorting } from './sort-keys.ts';
import { offerBest } from './threshold.ts';
import { holdsAllWords, tierCount, tierNumbers, tiersOf, type Tier } from './tiers.ts';
import { Top } from './top.ts';
import { Whole, wholeOf, type WholeValues } from './whole-values.ts';

/** One result in the running: where it is and what places it. */
export interface Candidate {
  segment: number;
  doc: number;
  /** Words of the query it lacks, and typos spent: fewer first, words before typos. */
  tier: number;
  /** 0 = lifted by a placement, 1 = neither, 2 = sunk. */
  lift: number;
  /** Whether a value of it is the very query. */
  whole: Whole;
  score: number;
  signals: number;
  /** Number in record order; unique, so the order is total. */
  order: number;
  /** Keys of a named sort within the segment, and across segments. */
  keys: readonly number[];
  resolve: () => readonly (number | string | null)[];
}

/** Everything that orders the results of one query, in one segment. */
export interface RankJob {
  index: number;
  match: SegmentMatch;
  results: Results;
  /** Results with a value that is the very query. */
  whole: WholeValues;
  idfs: readonly number[];
  signals: Signals | null;
  /** How much the signals count against the words, 0 to 1. */
  share: number;
  sorting: Sorting | null;
  lifted: DocSet | null;
  sunk: DocSet | null;
}

/** Negative when `a` stands above `b`. Within one segment a named sort is compared by numbers. */
export function compareInSegment(a: Candidate, b: Candidate): number {
  for (let i = 0; i < a.keys.length; i++) if (a.keys[i] !== b.keys[i]) return a.keys[i]! - b.keys[i]!;
  return compareRelevance(a, b);
}

/** The same across segments. */
export function compareAnywhere(sorting: Sorting | null): (a: Candidate, b: Candidate) => number {
  if (sorting === null) return compareRelevance;
  return (a, b) => compareResolved(sorting, a.resolve(), b.resolve()) || compareRelevance(a, b);
}

/** Words, typos, what a placement lifts or sinks, values that are the query, score, signals, record order. */
function compareRelevance(a: Candidate, b: Candidate): number {
  return (
    a.tier - b.tier ||
    a.lift - b.lift ||
    a.whole - b.whole ||
    b.score - a.score ||
    b.signals - a.signals ||
    a.order - b.order
  );
}

/** The best `size` results of all segments, best first. */
export function rankAcross(
  jobs: readonly RankJob[],
  compare: (a: Candidate, b: Candidate) => number,
  size: number,
): Candidate[] {
  const best = jobs.flatMap((job) => rankSegment(job, size));
  return jobs.length === 1 ? best : best.sort(compare).slice(0, size);
}

/** The best `size` results of a segment, best first. */
function rankSegment(job: RankJob, size: number): Candidate[] {
  return job.sorting === null ? rankByRelevance(job, size) : rankSorted(job, size);
}

function rankByRelevance(job: RankJob, size: number): Candidate[] {
  if (size === 0) return [];
  if (job.results.count <= WORTH_CHOOSING) return rankFew(job, job.results.list, size);
  const best: Candidate[] = [];
  // Tier by tier: what needs a typo is not even scored once results without one fill the page.
  for (const part of partsOf(job)) {
    best.push(...rankPart(job, part, size - best.length));
    if (best.length >= size) break;
  }
  return best;
}

/** Ranks documents by scoring all that may reach the page: those of the best tiers. */
function rankFew(job: RankJob, list: Uint32Array, size: number): Candidate[] {
  const { match, lifted, sunk } = job;
  const tiers = tierNumbers(list, match.words);
  const counts = new Uint32Array(tierCount(match.words.length));
  for (let i = 0; i < tiers.length; i++) counts[tiers[i]!]!++;
  let last = 0;
  for (let sum = counts[0]!; sum < size && last + 1 < counts.length; sum += counts[last]!) last++;
  const scorer = scorerFor(job);
  const top = new Top<Candidate>(size, compareInSegment);
  for (let i = 0; i < list.length; i++) {
    if (tiers[i]! > last) continue;
    const doc = list[i]!;
    const lift = lifted?.has(doc) ? NO_LIFT - 1 : sunk?.has(doc) ? NO_LIFT + 1 : NO_LIFT;
    const placed = { tier: tiers[i]!, lift, whole: wholeOf(job.whole, doc) };
    top.offer(candidateOf(job, scoreOf(job, scorer, doc), doc, placed));
  }
  return top.sorted();
}

/** Visits every result of a segment. */
export function eachCandidate(job: RankJob, visit: (candidate: Candidate) => void): void {
  const scorer = scorerFor(job);
  for (const part of partsOf(job)) {
    for (const doc of part.set.list()) visit(candidateOf(job, scoreOf(job, scorer, doc), doc, part));
  }
}

function scorerFor({ match, idfs }: RankJob): Scorer | null {
  return match.words.length === 0 ? null : new Scorer(match, idfs);
}

const NO_KEYS: readonly number[] = [];
const NO_LIFT = 1;

function candidateOf(job: RankJob, score: number, doc: number, { tier, lift, whole }: Omit<Part, 'set'>): Candidate {
  const { index, match, signals, sorting } = job;
  return {
    segment: index,
    doc,
    tier,
    lift,
    whole,
    score,
    signals: signals === null ? 0 : signals.scores[doc]!,
    order: match.segment.order(doc),
    keys: sorting === null ? NO_KEYS : sorting.keys.map(({ bySegment }) => bySegment[index]!.number(doc)),
    resolve: () => (sorting === null ? NO_KEYS : sorting.keys.map(({ bySegment }) => bySegment[index]!.resolve(doc))),
  };
}

function scoreOf({ signals, share }: RankJob, scorer: Scorer | null, doc: number): number {
  const text = scorer === null ? 0 : scorer.score(doc);
  return signals === null ? text : roundScore((1 - share) * text + share * signals.scores[doc]!);
}

/** Scores are rounded to a thousandth. */
const ROUNDING = 0.001;

/** Below this many documents scoring all of them is quicker than choosing. */
const WORTH_CHOOSING = 1_000;

/** The best of documents that only their scores tell apart. */
function rankPart(job: RankJob, part: Part, size: number): Candidate[] {
  const { set, tier, lift } = part;
  const top = new Top<Candidate>(size, compareInSegment);
  const scorer = scorerFor(job);
  const { signals, share } = job;
  const { segment } = job.match;
  /** Returns whether documents further down that can score no more may still be of use. */
  const offer = (doc: number, mostText = Infinity): boolean => {
    const { worst } = top;
    if (worst !== null && signals === null) {
      // What can tie at best, and comes later in record order, need not even be read.
      if (mostText <= worst.score && segment.order(doc) > worst.order) return !segment.isInOrder;
    } else if (worst !== null) {
      if ((1 - share) * mostText + share * signals!.scores[doc]! + ROUNDING < worst.score) return true;
    }
    const score = scoreOf(job, scorer, doc);
    // Most lose by their score, or at a tie by coming later; those need no object.
    if (worst !== null) {
      if (score < worst.score) return true;
      if (score === worst.score && signals === null && segment.order(doc) > worst.order) return true;
    }
    top.offer(candidateOf(job, score, doc, part));
    return true;
  };
  if (scorer !== null && set.count() > Math.max(WORTH_CHOOSING, 4 * size)) {
    const { match, idfs } = job;
    const holdsAll = holdsAllWords(tier);
    offerBest({ match, idfs, signals, share, wanted: set, holdsAll }, offer, () => top.worst?.score ?? null);
  } else if (scorer === null && signals !== null) {
    // Without words the signals alone decide, and their order is known.
    let [offered, last] = [0, -1];
    for (const doc of signals.order) {
      if (!set.has(doc)) continue;
      if (offered++ >= size && signals.scores[doc] !== last) break;
      last = signals.scores[doc]!;
      offer(doc);
    }
  } else if (scorer === null && lift === NO_LIFT && segment.isInOrder) {
    // With neither, record order is all there is: the first ones.
    for (let doc = 0, left = size; doc < set.docs && left > 0; doc++) {
      if (!set.has(doc)) continue;
      left--;
      offer(doc);
    }
  } else {
    for (const doc of set.list()) offer(doc);
  }
  return top.sorted();
}

/**
 * With a named sort its keys lead. Those before the rank where the page ends by the first key are put in order one by
 * one; of those that tie at that rank, which may be half of all documents, the next key decides in the same way, and
 * in the end relevance, which chooses the best without looking at all.
 */
function rankSorted(job: RankJob, size: number, level = 0): Candidate[] {
  const { results, sorting } = job;
  if (size === 0) return [];
  if (level === sorting!.keys.length) return rankByRelevance(job, size);
  if (results.count <= size) return rankAll(job);
  const { docs } = results.set;
  const key = sorting!.keys[level]!.bySegment[job.index]!;
  // A circle around so many of them holds that many times others; many results are the case it is for.
  const isDense = results.count ** 2 > FEW_OTHERS * size * docs;
  const near = isDense && key.first !== null ? key.first(results.set, size) : null;
  const list = near === null ? results.list : near.list();
  const keys = roomFor(list.length);
  key.read(list, keys);
  const limit = smallest(keys, size);
  const before = new DocSet(docs);
  const tied = new DocSet(docs);
  inPieces(list.length, (from, to) => {
    for (let i = from; i < to; i++) {
      if (keys[i]! <= limit) (keys[i]! < limit ? before : tied).add(list[i]!);
    }
  });
  const best = rankAll({ ...job, results: new Results(before) });
  return [...best, ...rankSorted({ ...job, results: new Results(tied) }, size - best.length, level + 1)];
}

const FEW_OTHERS = 4;

/** Room for keys, used again from search to search: eight bytes a document would keep the garbage collector busy. */
let room = new Float64Array(0);

function roomFor(keys: number): Float64Array {
  if (room.length < keys) room = new Float64Array(keys);
  return room.subarray(0, keys);
}

/** All results in order. */
function rankAll(job: RankJob): Candidate[] {
  const all: Candidate[] = [];
  eachCandidate(job, (candidate) => all.push(candidate));
  return all.sort(compareInSegment);
}

/** Documents of one tier that a placement lifts, sinks, or leaves alone. */
interface Lifted extends Tier {
  lift: number;
}

/** Of those, the ones with a value that is the query, or the others. */
interface Part extends Lifted {
  whole: Whole;
}

/** The results by all that counts before their scores, best first. */
function* partsOf(job: RankJob): Generator<Part> {
  for (const tier of tiersOf(job.results.set, job.match.words)) {
    for (const lifted of liftsOf(job, tier)) yield* wholesOf(job.whole, lifted);
  }
}

/** Only of the best tier: whatever is the query holds all words as written. */
function* wholesOf({ code, value }: WholeValues, lifted: Lifted): Generator<Part> {
  if (lifted.tier > 0 || (code === null && value === null)) return yield { ...lifted, whole: Whole.Rest };
  const rest = lifted.set.copy();
  for (const [set, whole] of [
    [code, Whole.Code],
    [value, Whole.Value],
  ] as const) {
    if (set === null) continue;
    yield { ...lifted, set: rest.copy().and(set), whole };
    rest.minus(set);
  }
  yield { ...lifted, set: rest, whole: Whole.Rest };
}

function* liftsOf({ lifted, sunk }: RankJob, { set, tier }: Tier): Generator<Lifted> {
  if (lifted === null && sunk === null) return yield { set, tier, lift: NO_LIFT };
  const none = new DocSet(set.docs);
  const up = set.copy().and(lifted ?? none);
  const down = set
    .copy()
    .and(sunk ?? none)
    .minus(up);
  yield { set: up, tier, lift: NO_LIFT - 1 };
  yield { set: set.copy().minus(up).minus(down), tier, lift: NO_LIFT };
  yield { set: down, tier, lift: NO_LIFT + 1 };
}
