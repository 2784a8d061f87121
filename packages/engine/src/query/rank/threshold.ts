import { DocSet } from '../../sets/doc-set.ts';
import type { Signals } from '../../signals/signals.ts';
import { ImpactBlocks } from './impact-blocks.ts';
import type { SegmentMatch } from '../match/match-query.ts';
import { FULL_POINTS, roundScore } from '../../score/text-score.ts';

export interface ThresholdJob {
  match: SegmentMatch;
  idfs: readonly number[];
  /** The documents to choose from. */
  wanted: DocSet;
  /** Whether each of them holds every word of the query. */
  holdsAll: boolean;
  signals: Signals | null;
  /** How much the signals count against the words. */
  share: number;
}

/** One word of the query: its documents by blocks, and how far down they were taken. */
interface WordList {
  blocks: ImpactBlocks;
  /** Points of the score for a full bound. */
  weight: number;
  /** Points of the best document. */
  top: number;
  seen: DocSet;
}

/** Scores are rounded to a thousandth; a bound is passed only by more than that. */
const MARGIN = 0.002;
/** Products of a few factors may come out that much lower in another order. */
const FLOAT_ERROR = 1e-6;

/**
 * Offers documents until none left could be better than what `worst` says is needed, after Fagin, Lotem and Naor
 * (2001): each word of the query is a list of documents, best first (see impact-blocks.ts), and the lists are gone down
 * side by side.
 *
 * Where every document holds every word, one is offered when it has appeared in all lists: one that has not appeared in
 * some list yet scores there no more than what that list has come down to, and elsewhere no more than the tops.
 * Otherwise one is offered when it first appears, and what has appeared in none is bounded by what all lists have come
 * down to. Signals are no list: whatever is left may have the highest.
 *
 * `worst` returns the score to beat, null while any will do. With each document comes the most its words can score, 0
 * to 100: what cannot reach the page even so, by its signals or at a tie by its number, need not be read. (Thousands of
 * documents may begin with the one word of a query and score the very same.) `offer` returns whether more of the same
 * may still be of use, should they come later. Of a broad query some hundreds of documents are scored, not hundreds of
 * thousands.
 */
export function offerBest(
  job: ThresholdJob,
  offer: (doc: number, mostText: number) => boolean,
  worst: () => number | null,
): void {
  const { match, idfs, wanted, holdsAll, signals, share } = job;
  const total = idfs.reduce((sum, weight) => sum + weight, 0);
  const textShare = signals === null ? 1 : 1 - share;
  const mostSignals = signals === null ? 0 : share * (signals.scores[signals.order[0]!] ?? 0);
  const lists = match.words.map((word, i): WordList => {
    const blocks = new ImpactBlocks(match.segment, word, match.fields, match.words.length);
    const weight = (100 * textShare * idfs[i]!) / total;
    return { blocks, weight, top: blocks.bound * weight, seen: new DocSet(wanted.docs) };
  });
  const left = wanted.copy();
  for (;;) {
    const { bound, next } = comeDown(lists, holdsAll);
    const needed = worst();
    if (next === null || (needed !== null && needed > bound + mostSignals + MARGIN)) return;
    const mostText = lists.length === 1 ? mostOfOne(next.blocks.bound) : bound / textShare + MARGIN;
    takeBlock(next, holdsAll ? lists.filter((list) => list !== next) : [], left, (doc) => offer(doc, mostText));
  }
}

/** The text score of a bound, for a query of one word: rounded as the scorer rounds, so that a tie is seen as one. */
function mostOfOne(bound: number): number {
  const points = Math.floor(bound * FULL_POINTS + 0.5 + FLOAT_ERROR);
  return roundScore((100 * points) / FULL_POINTS + FLOAT_ERROR);
}

/**
 * What a document not offered yet can score by its words, and the list that holds this up; null when all are at their
 * end.
 */
function comeDown(lists: readonly WordList[], holdsAll: boolean): { bound: number; next: WordList | null } {
  let next: WordList | null = null;
  let least = Infinity;
  let bound = 0;
  for (const list of lists) {
    const current = list.blocks.bound * list.weight;
    bound += holdsAll ? list.top : current;
    // With all words held it is the list that has come down least; else the one that still is highest.
    const rank = holdsAll ? list.top - current : -current;
    if (list.blocks.bound > 0 && rank < least) [next, least] = [list, rank];
  }
  return { bound: holdsAll && next !== null ? bound - least : bound, next };
}

/**
 * Takes one block of a list; offers the documents of it that have appeared in all `others`. A range, whose documents
 * ascend, ends where a later one is of no use.
 */
function takeBlock(
  { blocks, seen }: WordList,
  others: readonly WordList[],
  { bits: left }: DocSet,
  offer: (doc: number) => boolean,
): void {
  for (const { docs, from, to } of blocks.take()) {
    let goesOn = true;
    for (let at = from; at < to && goesOn; at++) {
      const doc = docs[at]!;
      const word = doc >>> 5;
      const bit = 1 << (doc & 31);
      if ((left[word]! & bit) === 0) continue;
      seen.bits[word]! |= bit;
      let everywhere = true;
      for (let i = 0; i < others.length && everywhere; i++) everywhere = (others[i]!.seen.bits[word]! & bit) !== 0;
      if (!everywhere) continue;
      left[word]! &= ~bit;
      goesOn = offer(doc);
    }
  }
}
