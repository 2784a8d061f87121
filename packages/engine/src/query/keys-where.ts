import { filterSet } from '../filter/filter.ts';
import type { Generation } from './generation.ts';
import { readCondition } from './matching.ts';

/** The keys of all living records that fulfil a condition. Throws a SearchRequestError. */
export function keysWhere({ segments }: Generation, filter: string): string[] {
  const condition = readCondition(
    filter,
    segments.map(({ segment }) => segment),
    '/filter',
  );
  return segments.flatMap(({ segment, dead }) => {
    const set = filterSet(segment, filter, condition).copy();
    if (dead.count > 0) set.minus(dead);
    return Array.from(set.list(), (doc) => segment.key(doc));
  });
}
