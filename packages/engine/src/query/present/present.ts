import { unless, type SearchRequest, type SearchResult, type Tuning } from '@yucca/contract';
import { Work } from '../../filter/cost.ts';
import { filterSet } from '../../filter/filter.ts';
import { FilterError } from '../../filter/lexer.ts';
import { recordsThat } from '../../filter/on-records.ts';
import { parseFilter } from '../../filter/parse.ts';
import { refusedAt, type Matching } from '../match/match-query.ts';
import type { Found } from '../rank/group.ts';
import type { Shown } from '../rank/pins.ts';
import { explainAll } from './explain.ts';
import { Presenter } from './presenter.ts';

/** Turns rows into results, explained when the request asks for it. Throws a SearchRequestError. */
export function present(
  matching: Matching,
  tuning: Tuning,
  request: SearchRequest,
  shown: readonly Shown[],
  others: ReadonlyMap<Found, number>,
): SearchResult[] {
  const presenter = new Presenter(tuning, request, matching);
  const meets = conditionsOf(matching, request);
  const ranked = shown.flatMap((one) => (one.pin === null ? [one.candidate] : []));
  const reasons = request.explain ? explainAll(matching, ranked) : null;
  const results = shown.map((one): SearchResult => {
    const { segment, doc } = one.pin ?? one.candidate;
    const result = { ...presenter.present(segment, doc), ...meets(segment, doc) };
    const more = others.get(one.pin ?? one.candidate);
    const family = more ? { others: more } : {};
    if (one.pin !== null) return { ...result, ...family, pinned: true };
    const why = reasons?.get(one.candidate);
    return { ...result, ...family, ...(why ? { why } : {}) };
  });
  return results;
}

/**
 * Which conditions of the request a record meets. The set of a condition is the one a filter would have, and is kept as
 * those are: a page asks for the same few with every keystroke. Where that takes too much work, the records that are
 * shown are held against it alone. Nothing is refused but what cannot be read: a page goes on without a field that its
 * badges ask for, which no record has then.
 */
function conditionsOf(
  { segments }: Matching,
  { conditions = [] }: SearchRequest,
): (segment: number, doc: number) => Pick<SearchResult, 'meets'> {
  if (conditions.length === 0) return () => ({});
  const work = new Work();
  const tests = conditions.map((source, i) => {
    const condition = refusedAt(`/conditions/${i}`, () => parseFilter(source));
    return segments.map(({ segment }) =>
      unless<(doc: number) => boolean>(
        FilterError,
        () => {
          const set = filterSet(segment, source, condition, work);
          return (doc) => set.has(doc);
        },
        (doc) => recordsThat([{ json: JSON.stringify(segment.record(doc)) }], source).length > 0,
      ),
    );
  });
  return (segment, doc) => {
    const meets = tests.flatMap((ofSegment, i) => (ofSegment[segment]!(doc) ? [i] : []));
    return meets.length === 0 ? {} : { meets };
  };
}
