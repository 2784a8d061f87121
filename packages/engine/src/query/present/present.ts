import { unless, type SearchRequest, type SearchResult, type Tuning } from '@yucca/contract';
import { Work } from '../../filter/cost.ts';
import { filterSet } from '../../filter/filter.ts';
import { FilterError } from '../../filter/lexer.ts';
import { recordsThat } from '../../filter/on-records.ts';
import { parseFilter } from '../../filter/parse.ts';
import { refusedAt, type Matching } from '../match/match-query.ts';
import type { Found } from '../rank/group.ts';
import type { Shown } from '../rank/pins.ts';
import type { Segment } from '../../segment/segment.ts';
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
  const found = shown.map((one) => one.pin ?? one.candidate);
  const meets = conditionsOf(matching, request, found);
  const ranked = shown.flatMap((one) => (one.pin === null ? [one.candidate] : []));
  const reasons = request.explain ? explainAll(matching, ranked) : null;
  const results = shown.map((one, i): SearchResult => {
    const { segment, doc } = found[i]!;
    const result = { ...presenter.present(segment, doc), ...meets(found[i]!) };
    const more = others.get(found[i]!);
    const family = more ? { others: more } : {};
    if (one.pin !== null) return { ...result, ...family, pinned: true };
    const why = reasons?.get(one.candidate);
    return { ...result, ...family, ...(why ? { why } : {}) };
  });
  return results;
}

/**
 * Which conditions of the request the shown records meet. The set of a condition is the one a filter would have, and is
 * kept as those are: a page asks for the same few with every keystroke. Where that takes too much work, the records on
 * the page are held against it alone. Nothing is refused but what cannot be read: a page goes on without a field that
 * its badges ask for, which no record has then.
 */
function conditionsOf(
  { segments }: Matching,
  { conditions = [] }: SearchRequest,
  found: readonly Found[],
): (one: Found) => Pick<SearchResult, 'meets'> {
  const work = new Work();
  const meeting = conditions.map((source, i): Set<Found> => {
    const condition = refusedAt(`/conditions/${i}`, () => parseFilter(source));
    const met = segments.flatMap(({ segment }, index) => {
      const here = found.filter((one) => one.segment === index);
      return unless(
        FilterError,
        () => {
          const set = filterSet(segment, source, condition, work);
          return here.filter(({ doc }) => set.has(doc));
        },
        null,
      ) ?? shownThat(segment, source, here); // prettier-ignore
    });
    return new Set(met);
  });
  return (one) => {
    const meets = meeting.flatMap((set, i) => (set.has(one) ? [i] : []));
    return meets.length === 0 ? {} : { meets };
  };
}

/** Which of some records fulfil a condition, told from their JSON. */
function shownThat(segment: Segment, source: string, here: readonly Found[]): Found[] {
  const rows = here.map((one) => ({ one, json: JSON.stringify(segment.record(one.doc)) }));
  return recordsThat(rows, source).map(({ one }) => one);
}
