import type { SearchRequest, SearchResult, Tuning } from '@yucca/contract';
import type { Matching } from '../match/match-query.ts';
import type { Found } from '../rank/group.ts';
import type { Shown } from '../rank/pins.ts';
import { explainAll } from './explain.ts';
import { Presenter } from './presenter.ts';

/** Turns rows into results, explained when the request asks for it. */
export function present(
  matching: Matching,
  tuning: Tuning,
  request: SearchRequest,
  shown: readonly Shown[],
  others: ReadonlyMap<Found, number>,
): SearchResult[] {
  const presenter = new Presenter(tuning, request, matching);
  const ranked = shown.flatMap((one) => (one.pin === null ? [one.candidate] : []));
  const reasons = request.explain ? explainAll(matching, ranked) : null;
  const results = shown.map((one): SearchResult => {
    const { segment, doc } = one.pin ?? one.candidate;
    const result = presenter.present(segment, doc);
    const more = others.get(one.pin ?? one.candidate);
    const family = more ? { others: more } : {};
    if (one.pin !== null) return { ...result, ...family, pinned: true };
    const why = reasons?.get(one.candidate);
    return { ...result, ...family, ...(why ? { why } : {}) };
  });
  return results;
}
