import { filterSet, type MayName } from '../filter/filter.ts';
import type { DocSet } from '../sets/doc-set.ts';
import type { Segment } from '../segment/segment.ts';
import type { Generation } from '../segment/generation.ts';
import { readCondition } from './match/match-query.ts';

/** The living documents of every segment that fulfil a condition. Throws a SearchRequestError. */
function fulfilling(
  { segments }: Generation,
  filter: string,
  mayName: MayName | undefined,
): { segment: Segment; set: DocSet }[] {
  const all = segments.map(({ segment }) => segment);
  const condition = readCondition(filter, all, '/filter', mayName);
  return segments.map(({ segment, dead }) => {
    const set = filterSet(segment, filter, condition).copy();
    if (dead.count > 0) set.minus(dead);
    return { segment, set };
  });
}

/** The keys of all living records that fulfil a condition. Throws a SearchRequestError. */
export function keysWhere(generation: Generation, filter: string, mayName?: MayName): string[] {
  return fulfilling(generation, filter, mayName).flatMap(({ segment, set }) =>
    Array.from(set.list(), (doc) => segment.key(doc)),
  );
}

/** How many living records fulfil a condition, and the keys of a page of them. Throws a SearchRequestError. */
export function keysPage(
  generation: Generation,
  filter: string,
  from: number,
  size: number,
  mayName?: MayName,
): { total: number; keys: string[] } {
  const keys: string[] = [];
  let total = 0;
  for (const { segment, set } of fulfilling(generation, filter, mayName)) {
    const docs = set.list();
    for (let i = Math.max(0, from - total); i < docs.length && keys.length < size; i++)
      keys.push(segment.key(docs[i]!));
    total += docs.length;
  }
  return { total, keys };
}
