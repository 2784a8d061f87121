import type { SearchRequest, SearchResult, Tuning, UnderstoodWord } from '@yucca/contract';
import { filterSet } from '../filter/filter.ts';
import { placementsFor, type Placed } from '../placements/placements.ts';
import { Selection } from '../facets/selection.ts';
import type { Segment } from '../segment/segment.ts';
import { DocSet } from '../sets/doc-set.ts';
import { Results } from '../sets/results.ts';
import { signalsOf } from '../signals/signals.ts';
import { checkRequest } from './check.ts';
import { explainAll } from './explain.ts';
import {
  SearchCancelledError,
  SearchRequestError,
  type EngineAnswer,
  type Generation,
  type SearchContext,
} from './generation.ts';
import { rankGrouped } from './group.ts';
import { matchesOf, matchQuery, readCondition, type Matching, type SegmentMatch } from './matching.ts';
import { parseQuery, type ParsedQuery } from './parse.ts';
import { withinBudget } from './query-budget.ts';
import { Presenter } from './present.ts';
import { compareAnywhere, rankAcross, type Candidate, type RankJob } from './rank.ts';
import { sortingFor } from './sort-keys.ts';
import { nearestSpelling, understandWord } from './understand.ts';
import { anywhere } from './word-match.ts';

const stop = (): never => {
  throw new SearchCancelledError('the caller has gone');
};

/** Answers one search over one generation. Throws a SearchRequestError (see checkRequest) or a SearchCancelledError. */
export function search(
  generation: Generation,
  tuning: Tuning,
  request: SearchRequest,
  context: SearchContext = {},
): EngineAnswer {
  return DocSet.scoped(() => searchScoped(generation, tuning, request, context));
}

function searchScoped(
  generation: Generation,
  tuning: Tuning,
  request: SearchRequest,
  context: SearchContext,
): EngineAnswer {
  return withArranged(generation, tuning, request, context, (arranged) => {
    const { page = 1, size = 20 } = request;
    const { matching, placed, selection, shown, total, others, dropped } = arranged;
    return {
      query: placed.q,
      total,
      page,
      pages: size === 0 ? 0 : Math.ceil(total / size),
      size,
      results: present(matching, tuning, request, shown.slice((page - 1) * size), others),
      facets: selection.answer(),
      understood: {
        words: understood(matching, context.forcedFilter !== undefined, total === 0),
        dropped,
        placements: placed.names,
        redirect: placed.redirect,
        notice: placed.notice,
      },
      generation: generation.number,
    };
  });
}

/** How many results a search has. Throws like search. */
export function countResults(
  generation: Generation,
  tuning: Tuning,
  request: SearchRequest,
  context: SearchContext = {},
): number {
  return DocSet.scoped(() => withArranged(generation, tuning, request, context, ({ total }) => total));
}

/** Words of one query whose nearest spelling is looked for: whoever types more that stand nowhere means something else. */
const MOST_RESPELT = 2;

/** What the words were taken for; when nothing was found, also what those that stand nowhere may have been meant to be. */
function understood(matching: Matching, hidesRecords: boolean, nothing: boolean): UnderstoodWord[] {
  let looked = 0;
  return matching.words.map((_, i) => {
    const word = understandWord(matching, i, hidesRecords);
    const isLost = nothing && word.as.length === 0 && looked++ < MOST_RESPELT;
    const nearest = isLost ? nearestSpelling(matching, i, hidesRecords) : null;
    return nearest === null ? word : { ...word, nearest };
  });
}

/** All that a search has found, in its order, before any of it is shown. */
export interface Arranged {
  placed: Placed;
  parsed: ParsedQuery;
  matching: Matching;
  selection: Selection;
  /** The results down to the end of the page that is asked for. */
  shown: Shown[];
  total: number;
  others: ReadonlyMap<Candidate, number>;
  /** Words that were ignored, or given up. */
  dropped: string[];
}

/** Finds and ranks, and has `use` look at it; what it is given is gone afterwards. Throws like search. */
export function withArranged<T>(
  generation: Generation,
  tuning: Tuning,
  request: SearchRequest,
  context: SearchContext,
  use: (arranged: Arranged) => T,
): T {
  checkRequest(request, tuning);
  const placed = placementsFor(tuning, request, context.today ?? null);
  const segments = generation.segments.map(({ segment }) => segment);
  const parsed = withinBudget(parseQuery(placed.q, tuning), segments);
  const matching = matchQuery(generation, tuning, request, parsed, context, stop);
  try {
    const { page = 1, size = 20 } = request;
    const pins = pinnedDocs(matching, placed, request);
    const { selection, results, dropped } = select(matching, tuning, request, placed, pins);
    if (context.cancelled?.()) stop();
    const { best, total, others } = rank(matching, tuning, request, placed, results, pins, page * size);
    const shown = withPins(best, pins, page * size);
    return use({ placed, parsed, matching, selection, shown, total, others, dropped: [...parsed.dropped, ...dropped] });
  } finally {
    for (const { codes } of matching.segments) codes.release();
  }
}

/** A record that a placement puts at a place of its own. */
interface Pin {
  segment: number;
  doc: number;
  at: number;
}

/**
 * The living documents of pinned records, where their collection and every condition allow them. A named sort is the
 * visitor's own order, and nothing is pinned in it.
 */
function pinnedDocs({ segments }: Matching, { pins, hide }: Placed, { sort }: SearchRequest): Pin[] {
  if (sort !== undefined && sort !== 'relevance') return [];
  return pins.flatMap(({ id, at }) => {
    if (hide.includes(id)) return [];
    return segments.flatMap(({ segment, allowed }, index) =>
      segment
        .docsOfKey(id)
        .filter((doc) => allowed.has(doc))
        .map((doc) => ({ segment: index, doc, at })),
    );
  });
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

/**
 * The words that are given up so that the others are found together, in their order: those that stand nowhere, which tell
 * nothing however rare they are, then the least telling ones. `free` is what may be found at all, by segment. Put together
 * from the most telling word down, so that every word is laid against the documents once.
 */
function givenUp({ segments, tellings }: Matching, required: ReadonlySet<number>, free: readonly DocSet[]): number[] {
  const absent = new Set([...required].filter((word) => !standsSomewhere(segments, word)));
  const order = [...required].sort(
    (a, b) => Number(absent.has(b)) - Number(absent.has(a)) || tellings[a]! - tellings[b]!,
  );
  let found = free.map((set) => set.copy());
  let kept = order.length;
  while (kept > 0) {
    const word = order[kept - 1]!;
    const fewer = found.map((set, i) => set.copy().and(anywhere(segments[i]!.words[word]!)));
    // One word is asked for even when nothing is found.
    if (kept < order.length && fewer.every((set) => set.isEmpty())) break;
    found = fewer;
    kept--;
  }
  return order.slice(0, kept);
}

function standsSomewhere(segments: readonly SegmentMatch[], word: number): boolean {
  return segments.some(({ allowed, words }) => allowed.meets(anywhere(words[word]!)));
}

interface Ranking {
  /** The best results, pinned ones left out. */
  best: Candidate[];
  total: number;
  others: Map<Candidate, number>;
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
  const jobs = matching.segments.map((match, index): RankJob => {
    const pinned = pins.filter(({ segment }) => segment === index).map(({ doc }) => doc);
    return {
      index,
      match,
      results: pinned.length === 0 ? results[index]! : withoutDocs(results[index]!, pinned),
      tellings: matching.tellings,
      signals: signals[index]!,
      share: tuning.signalShare,
      sorting,
      lifted: conditionSet(match, segments, placed.lift),
      sunk: conditionSet(match, segments, placed.sink),
    };
  });
  if (tuning.group !== null) {
    const { best, total, others } = rankGrouped(jobs, tuning.group, compare, size);
    const shownPins = pins.filter(({ segment, doc }) => results[segment]!.set.has(doc)).length;
    return { best, total: total + shownPins, others };
  }
  const total = results.reduce((sum, { count }) => sum + count, 0);
  return { best: rankAcross(jobs, compare, size), total, others: new Map() };
}

function withoutDocs({ set }: Results, docs: readonly number[]): Results {
  return new Results(set.copy().minus(DocSet.of(set.docs, docs)));
}

/** Documents that fulfil any of some conditions. A condition that no longer makes sense (a field is gone) lifts nothing. */
function conditionSet(
  { segment }: SegmentMatch,
  segments: readonly Segment[],
  sources: readonly string[],
): DocSet | null {
  if (sources.length === 0) return null;
  const set = new DocSet(segment.docs);
  for (const source of sources) {
    try {
      set.or(filterSet(segment, source, readCondition(source, segments, '')));
    } catch (error) {
      if (!(error instanceof SearchRequestError)) throw error;
    }
  }
  return set;
}

/** A row of the results: a pinned record, or one that stands where its numbers put it. */
export type Shown = { pin: Pin } | { pin: null; candidate: Candidate };

/** Puts the pinned records at their places among the others; beyond the end they follow the last result. */
function withPins(best: readonly Candidate[], pins: readonly Pin[], size: number): Shown[] {
  const shown: Shown[] = best.map((candidate) => ({ pin: null, candidate }));
  for (const pin of pins) shown.splice(Math.min(pin.at - 1, shown.length), 0, { pin });
  return shown.slice(0, size);
}

/** Turns rows into results, explained when the request asks for it. */
export function present(
  matching: Matching,
  tuning: Tuning,
  request: SearchRequest,
  shown: readonly Shown[],
  others: ReadonlyMap<Candidate, number>,
): SearchResult[] {
  const presenter = new Presenter(tuning, request, matching);
  const ranked = shown.flatMap((one) => (one.pin === null ? [one.candidate] : []));
  const reasons = request.explain ? explainAll(matching, ranked) : null;
  const results = shown.map((one): SearchResult => {
    const { segment, doc } = one.pin ?? one.candidate;
    const result = presenter.present(segment, doc);
    if (one.pin !== null) return { ...result, pinned: true };
    const why = reasons?.get(one.candidate);
    const more = others.get(one.candidate);
    return { ...result, ...(more ? { others: more } : {}), ...(why ? { why } : {}) };
  });
  return results;
}
