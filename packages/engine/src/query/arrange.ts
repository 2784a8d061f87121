import type { SearchRequest, Tuning } from '@yucca/contract';
import { Selection } from '../facets/selection.ts';
import { placementsFor, type Placed } from '../placements/placements.ts';
import type { Generation } from '../segment/generation.ts';
import { DocSet } from '../sets/doc-set.ts';
import { Results } from '../sets/results.ts';
import { signalsOf } from '../signals/signals.ts';
import { checkRequest } from './check.ts';
import { SearchCancelledError, type QueryContext } from './context.ts';
import { matchesOf, matchQuery, type Matching } from './match/match-query.ts';
import { withinBudget } from './match/query-budget.ts';
import { givenUp } from './match/relax.ts';
import { anywhere } from './match/word-match.ts';
import { parseQuery, type ParsedQuery } from './parse/parse-query.ts';
import { boostedDocs, readBoosts } from './rank/boosts.ts';
import { rankGrouped, type Found } from './rank/group.ts';
import { pinnedDocs, standingPins, withPins, type Pin, type Shown } from './rank/pins.ts';
import { compareAnywhere, rankAcross, type Candidate, type RankJob } from './rank/rank.ts';
import { wholeValues } from './rank/whole-values.ts';
import { sortingFor } from './rank/sort-keys.ts';

const stop = (): never => {
  throw new SearchCancelledError('the caller has gone');
};

/** All that a search has found, in its order, before any of it is shown. */
export interface Arranged {
  placed: Placed;
  parsed: ParsedQuery;
  matching: Matching;
  selection: Selection;
  /** Pinned records among all results. */
  pins: readonly Pin[];
  /** The results down to the end of the page that is asked for. */
  shown: Shown[];
  total: number;
  others: ReadonlyMap<Found, number>;
  /** Words that were ignored, or given up. */
  dropped: string[];
}

/** Finds and ranks, and has `use` look at it; what it is given is gone afterwards. Throws like search. */
export function withArranged<T>(
  generation: Generation,
  tuning: Tuning,
  request: SearchRequest,
  context: QueryContext,
  use: (arranged: Arranged) => T,
): T {
  checkRequest(request, tuning);
  const placed = placementsFor(tuning, request, context.today ?? null);
  const segments = generation.segments.map(({ segment }) => segment);
  const parsed = withinBudget(parseQuery(placed.q, tuning), segments);
  const matching = matchQuery(generation, tuning, request, parsed, context, stop);
  try {
    const { page = 1, size = 20 } = request;
    const candidates = pinnedDocs(matching, placed, request);
    const { selection, results, dropped } = select(matching, tuning, request, placed, candidates);
    const pins = standingPins(candidates, results);
    if (context.cancelled?.()) stop();
    const { best, total, others } = rank(matching, tuning, request, placed, results, pins, page * size);
    const shown = withPins(best, pins, page * size);
    const allDropped = [...parsed.dropped, ...dropped];
    return use({ placed, parsed, matching, selection, pins, shown, total, others, dropped: allDropped });
  } finally {
    for (const { codes } of matching.segments) codes.release();
  }
}

/**
 * The results of every segment: matches, narrowed by choices, without what is hidden. When a rule allows it, words are
 * given up until something is found.
 */
function select(
  matching: Matching,
  tuning: Tuning,
  request: SearchRequest,
  placed: Placed,
  pins: readonly Pin[],
): { selection: Selection; results: Results[]; dropped: string[] } {
  const { words, segments } = matching;
  const required = new Set<number>();
  if (tuning.words.require !== 'any') words.forEach(({ optional }, i) => !optional && required.add(i));
  const candidates = (): DocSet[] =>
    segments.map((match, index) => {
      const set = matchesOf(match, required);
      for (const pin of pins) if (pin.segment === index) set.add(pin.doc);
      for (const key of placed.hide) set.minus(DocSet.of(set.docs, match.segment.docsOfKey(key)));
      return set;
    });
  const choices = new Selection(tuning, { ...request, facets: [] });
  let sets = candidates();
  let dropped: string[] = [];
  if (tuning.words.require === 'most' && required.size > 1 && choices.leavesNothing(segments, sets)) {
    const free = segments.map((match) => {
      const set = choices.apply(match.segment, match.allowed.copy()).set;
      for (const key of placed.hide) set.minus(DocSet.of(set.docs, match.segment.docsOfKey(key)));
      return set;
    });
    const given = givenUp(matching, required, free);
    for (const word of given) required.delete(word);
    dropped = given.map((word) => words[word]!.typed);
    sets = candidates();
  }
  const selection = new Selection(tuning, request);
  const isOneWord = words.length === 1 && pins.length === 0;
  const results = segments.map(({ segment, words: [word] }, i) =>
    selection.apply(segment, sets[i]!, isOneWord ? anywhere(word!) : null),
  );
  return { selection, results, dropped };
}

interface Ranking {
  /** The best results, pinned ones left out. */
  best: Candidate[];
  total: number;
  others: Map<Found, number>;
}

function rank(
  matching: Matching,
  tuning: Tuning,
  request: SearchRequest,
  placed: Placed,
  results: readonly Results[],
  pins: readonly Pin[],
  size: number,
): Ranking {
  const segments = matching.segments.map(({ segment }) => segment);
  const signals = signalsOf(segments, tuning);
  const sorting = sortingFor(segments, tuning, request);
  const compare = compareAnywhere(sorting);
  const [lift, sink] = [readBoosts(placed.lift, segments), readBoosts(placed.sink, segments)];
  const jobs = matching.segments.map((match, index): RankJob => {
    const pinned = pins.filter(({ segment }) => segment === index).map(({ doc }) => doc);
    const others = pinned.length === 0 ? results[index]! : withoutDocs(results[index]!, pinned);
    return {
      index,
      match,
      results: others,
      whole: wholeValues(match.segment, matching.query, match.fields, others.set),
      idfs: matching.idfs,
      signals: signals[index]!,
      share: tuning.signalShare,
      sorting,
      lifted: boostedDocs(match.segment, lift),
      sunk: boostedDocs(match.segment, sink),
    };
  });
  if (tuning.group !== null) {
    const { best, total, others } = rankGrouped(jobs, tuning.group, compare, size, pins);
    return { best, total: total + pins.length, others };
  }
  const total = results.reduce((sum, { count }) => sum + count, 0);
  return { best: rankAcross(jobs, compare, size), total, others: new Map() };
}

function withoutDocs({ set }: Results, docs: readonly number[]): Results {
  return new Results(set.copy().minus(DocSet.of(set.docs, docs)));
}
