import { filterSet } from '../../filter/filter.ts';
import type { Condition } from '../../filter/parse.ts';
import type { Segment } from '../../segment/segment.ts';
import { DocSet } from '../../sets/doc-set.ts';
import { SearchRequestError } from '../context.ts';
import { readCondition } from '../match/match-query.ts';

/** A condition of a placement that lifts or sinks what fulfils it. */
export interface Boost {
  source: string;
  condition: Condition;
}

/** Reads conditions once for all segments. One that no longer makes sense (a field is gone) lifts nothing. */
export function readBoosts(sources: readonly string[], segments: readonly Segment[]): Boost[] {
  return sources.flatMap((source): Boost[] => {
    try {
      return [{ source, condition: readCondition(source, segments, '') }];
    } catch (error) {
      if (error instanceof SearchRequestError) return [];
      throw error;
    }
  });
}

/** The documents that fulfil any of some conditions; null when there is no condition. */
export function boostedDocs(segment: Segment, boosts: readonly Boost[]): DocSet | null {
  if (boosts.length === 0) return null;
  const set = new DocSet(segment.docs);
  for (const { source, condition } of boosts) set.or(filterSet(segment, source, condition));
  return set;
}
