import type { SearchRequest, SearchResult, Tuning } from '@yucca/contract';
import type { Matching } from '../match/match-query.ts';
import type { Shown } from '../rank/pins.ts';
import type { Candidate } from '../rank/rank.ts';
import { explainAll } from './explain.ts';
import { Presenter } from './presenter.ts';

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
