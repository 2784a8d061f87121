import type { DocSet } from '../../sets/doc-set.ts';
import type { Matching, SegmentMatch } from './match-query.ts';
import { anywhere } from './word-match.ts';

/**
 * The words that are given up so that the others are found together, in their order: those that stand nowhere, which
 * tell nothing however rare they are, then those of the least idf. `free` is what may be found at all, by segment. Put
 * together from the word of the highest idf down, so that every word is laid against the documents once.
 */
export function givenUp(
  { segments, idfs }: Matching,
  required: ReadonlySet<number>,
  free: readonly DocSet[],
): number[] {
  const absent = new Set([...required].filter((word) => !standsSomewhere(segments, word)));
  const order = [...required].sort((a, b) => Number(absent.has(b)) - Number(absent.has(a)) || idfs[a]! - idfs[b]!);
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
