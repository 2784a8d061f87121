import { memoByObject } from '../memo/by-object.ts';
import type { DocSet } from '../sets/doc-set.ts';
import type { Results } from '../sets/results.ts';

/** Counts by set and by what is counted. Kept sets never change, and are gone with their segment. */
const countsOf = memoByObject<DocSet, WeakMap<object, Uint32Array>>(() => new WeakMap());

/** Longer lists of counts are not remembered for every word: a column of names has one for nearly each document. */
const LONGEST = 4_096;

/**
 * Counts documents by what stands in a column. Documents that lie in a kept set need not be gone through one by one:
 * the counts of that set are remembered, and those of the few others taken away from them. The first letters of a query
 * match up to half of all documents, and the same letters come again with the next visitor.
 *
 * `key` is what is counted, `length` how many counts there are; counts must add up over documents. The answer is
 * shared: it must not be changed.
 */
export function countIn(
  results: Results,
  key: object,
  length: number,
  count: (docs: Uint32Array) => Uint32Array,
): Uint32Array {
  const { base } = results;
  if (base === null || (length > LONGEST && !base.isWhole)) return count(results.list);
  const ofSet = countsOf(base.results.set);
  let all = ofSet.get(key);
  if (all === undefined) {
    // A set of most documents is counted by those it lacks.
    all = base.isWhole ? count(base.results.list) : countIn(base.results, key, length, count);
    ofSet.set(key, all);
  }
  if (base.others.length === 0) return all;
  const others = count(base.others);
  return all.map((sum, i) => sum - others[i]!);
}
