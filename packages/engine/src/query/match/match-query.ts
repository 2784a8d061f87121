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
import type { Tombstones } from '../../segment/tombstones.ts';
import { SearchRequestError, type QueryContext } from '../context.ts';
import type { ParsedQuery, QueryWord } from '../parse/parse-query.ts';
import { alternativesFor, type Alternative } from './expansions.ts';
import { idf } from '../../score/text-score.ts';
import { languagesOf } from '../../text/languages.ts';
import { QueryCodes } from './term-codes.ts';
import { anywhere, matchWord, withoutTypos, type WordMatch } from './word-match.ts';

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
  query: ParsedQuery;
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
 * Which fields may be named to whoever searches: those that results show. Under a forced filter none, because a field
 * may stand in hidden records alone.
 */
function namesFor({ show, hide }: Tuning, forcedFilter: string | undefined): MayName {
  const under = (path: string, above: string): boolean =>
    above === '*' || path === above || path.startsWith(`${above}.`);
  return (path) =>
    forcedFilter === undefined && show.some((one) => under(path, one)) && !hide.some((one) => under(path, one));
}

/** Has what is wrong with a condition told as what is wrong with the request. */
export function refusedAt<T>(pointer: string, run: () => T): T {
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
  query: ParsedQuery,
  { forcedFilter, cancelled }: QueryContext,
  stop: () => never,
): Matching {
  const { words, excluded, isWordless } = query;
  const segments = generation.segments.map(({ segment }) => segment);
  const alternatives = alternativesFor(words, tuning, generation);
  const forced = forcedFilter ? readCondition(forcedFilter, segments, '') : null;
  const asked = request.filter
    ? readCondition(request.filter, segments, '/filter', namesFor(tuning, forcedFilter))
    : null;
  // Whoever may only search may not have the searchers do any amount of work.
  const work = new Work();
  const matched = generation.segments.map(({ segment, dead }) => {
    if (cancelled?.()) stop();
    const fields = fieldWeights(segment, tuning, generation);
    // Signs that stand nowhere are no wish to see everything.
    const allowed = isWordless ? new DocSet(segment.docs) : DocSet.all(segment.docs);
    if (dead.count > 0) allowed.minus(dead);
    if (forced !== null) allowed.and(filterSet(segment, forcedFilter!, forced));
    if (asked !== null) allowed.and(refusedAt('/filter', () => filterSet(segment, request.filter!, asked, work)));
    if (request.near?.withinM !== undefined) allowed.and(within(segment, tuning, request.near));
    for (const word of excluded) allowed.minus(anywhere(matchWord(segment, word, [], fields, tuning)));
    const matches = words.map((word, i) => {
      if (cancelled?.()) stop();
      return matchWord(segment, word, alternatives[i]!, fields, tuning);
    });
    return { segment, allowed, fields, words: matches };
  });
  const dead = generation.segments.map((one) => one.dead);
  words.forEach((word, i) => {
    if (!isShortBeginning(word, tuning) || !letsInStrangers(matched, dead, i)) return;
    for (const match of matched) match.words[i] = withoutTypos(match.words[i]!);
  });
  const segmentMatches = matched.map((match): SegmentMatch => {
    const languages = match.fields.languages === null ? 1 : languagesOf(tuning).length;
    return { ...match, codes: new QueryCodes(match.segment, match.words, languages) };
  });
  return { query, words, alternatives, segments: segmentMatches, idfs: words.map((_, i) => idfOf(segmentMatches, i)) };
}

/** A word that may go on, and is too short for two typos: a typo in it says little of what it will be. */
const isShortBeginning = ({ text, prefix, typos }: QueryWord, { typos: { twoFrom } }: Tuning): boolean =>
  prefix && typos > 0 && [...text].length < twoFrom;

/**
 * Whether the typos of a word admit more records than the letters as typed find, while these find some: "lave" on the
 * way to "lavender" would take in all that is called "leaf" or "lake". Of a word that is finished, or that finds
 * nothing as it stands, every typo counts.
 */
function letsInStrangers(
  matched: readonly { words: WordMatch[] }[],
  dead: readonly Tombstones[],
  index: number,
): boolean {
  let [asTyped, all] = [0, 0];
  matched.forEach(({ words }, i) => {
    const { within } = words[index]!;
    const living = (set: DocSet): number => (dead[i]!.count > 0 ? set.copy().minus(dead[i]!) : set).count();
    asTyped += living(within[0]!);
    all += living(within[within.length - 1]!);
  });
  return asTyped > 0 && all > 2 * asTyped;
}

/** Records within a distance; none without a field of positions. */
export function within(segment: Segment, { geo }: Tuning, near: NonNullable<SearchRequest['near']>): DocSet {
  const points = geo === null ? null : segment.geo(geo);
  return points === null ? new DocSet(segment.docs) : circle(points, near, near.withinM!);
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
 * The records of a segment that match: all required words and none forbidden. `required` are numbers of words of the
 * query; the other words only score. With none required, one word is enough.
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
