import type { SearchRequest, Tuning } from '@yucca/contract';
import { FilterError } from '../../filter/lexer.ts';
import { filterSet, readFilter, type MayName } from '../../filter/filter.ts';
import type { Condition } from '../../filter/parse.ts';
import { Work } from '../../filter/cost.ts';
import { circle } from '../../geo/circle.ts';
import type { Segment } from '../../segment/segment.ts';
import { DocSet } from '../../sets/doc-set.ts';
import { fieldWeights, type FieldWeights } from './field-weights.ts';
import type { Generation } from '../../segment/generation.ts';
import { SearchRequestError, type SearchContext } from '../context.ts';
import { type ParsedQuery, type QueryWord } from '../parse/parse-query.ts';
import { alternativesFor, type Alternative } from './expansions.ts';
import { idf } from '../../score/text-score.ts';
import { QueryCodes } from './term-codes.ts';
import { anywhere, matchWord, type WordMatch } from './word-match.ts';

/** What a query finds in one segment, before facet choices. */
export interface SegmentMatch {
  segment: Segment;
  /** Living records that pass every condition: what may be found at all. */
  allowed: DocSet;
  words: WordMatch[];
  fields: FieldWeights;
  codes: QueryCodes;
}

/** A query laid against every segment. */
export interface Matching {
  words: QueryWord[];
  alternatives: Alternative[][];
  idfs: number[];
  segments: SegmentMatch[];
}

/** Reads a condition of the request. Throws a SearchRequestError that says where it fails. */
export function readCondition(
  source: string,
  segments: readonly Segment[],
  pointer: string,
  mayName?: MayName,
): Condition {
  return refusedAt(pointer, () => readFilter(source, segments, mayName));
}

/**
 * Which fields may be named to whoever searches: those that results show. Under a forced filter none, because a field may
 * stand in hidden records alone.
 */
function namesFor({ show, hide }: Tuning, forcedFilter: string | undefined): MayName {
  const under = (path: string, above: string): boolean =>
    above === '*' || path === above || path.startsWith(`${above}.`);
  return (path) =>
    forcedFilter === undefined && show.some((one) => under(path, one)) && !hide.some((one) => under(path, one));
}

/** Has what is wrong with a condition told as what is wrong with the request. */
function refusedAt<T>(pointer: string, run: () => T): T {
  try {
    return run();
  } catch (error) {
    if (error instanceof FilterError) throw new SearchRequestError(pointer, error.message);
    throw error;
  }
}

/** Matches every word of a query in every segment, and works out which records may be found. */
export function matchQuery(
  generation: Generation,
  tuning: Tuning,
  request: SearchRequest,
  { words, excluded }: ParsedQuery,
  { forcedFilter, cancelled }: SearchContext,
  stop: () => never,
): Matching {
  const segments = generation.segments.map(({ segment }) => segment);
  const alternatives = alternativesFor(words, tuning, segments);
  const forced = forcedFilter ? readCondition(forcedFilter, segments, '') : null;
  const asked = request.filter
    ? readCondition(request.filter, segments, '/filter', namesFor(tuning, forcedFilter))
    : null;
  // Whoever may only search may not have the searchers do any amount of work.
  const work = new Work();
  const matched = generation.segments.map(({ segment, dead }): SegmentMatch => {
    if (cancelled?.()) stop();
    const fields = fieldWeights(segment, tuning);
    const allowed = DocSet.all(segment.docs);
    if (dead.count > 0) allowed.minus(dead);
    if (forced !== null) allowed.and(filterSet(segment, forcedFilter!, forced));
    if (asked !== null) allowed.and(refusedAt('/filter', () => filterSet(segment, request.filter!, asked, work)));
    if (request.near?.withinM !== undefined) allowed.and(within(segment, tuning, request.near));
    for (const word of excluded) allowed.minus(anywhere(matchWord(segment, word, [], fields, tuning)));
    const matches = words.map((word, i) => {
      if (cancelled?.()) stop();
      return matchWord(segment, word, alternatives[i]!, fields, tuning);
    });
    return { segment, allowed, fields, words: matches, codes: new QueryCodes(segment, matches) };
  });
  return { words, alternatives, segments: matched, idfs: words.map((_, i) => idfOf(matched, i)) };
}

/** Records within a distance; none without a field of positions. */
export function within(segment: Segment, { geo }: Tuning, near: NonNullable<SearchRequest['near']>): DocSet {
  const places = geo === null ? null : segment.geo(geo);
  return places === null ? new DocSet(segment.docs) : circle(places, near, near.withinM!);
}

/** The idf of a word: how rare it is where it stands as typed, or, when it stands nowhere so, in all its expansions. */
function idfOf(segments: readonly SegmentMatch[], index: number): number {
  let records = 0;
  let asWritten = 0;
  for (const { segment, words } of segments) {
    records += segment.docs;
    asWritten += words[index]!.asWritten;
  }
  if (asWritten > 0) return idf(records, asWritten);
  return idf(
    records,
    segments.reduce((sum, { words }) => sum + anywhere(words[index]!).count(), 0),
  );
}

/**
 * The records of a segment that match: all required words and none forbidden. `required` are places in the query; the
 * other words only score. With none required, one word is enough.
 */
export function matchesOf({ allowed, words }: SegmentMatch, required: ReadonlySet<number>): DocSet {
  const set = allowed.copy();
  if (words.length === 0) return set;
  if (required.size > 0) {
    return set.andAll([...required].map((index) => anywhere(words[index]!)));
  }
  const any = new DocSet(set.docs);
  for (const word of words) any.or(anywhere(word));
  return set.and(any);
}
