import { memoByObject } from '../memo/by-object.ts';
import type { DocSet } from '../sets/doc-set.ts';
import type { Base, Results } from '../sets/results.ts';

/** Counts by set and by what is counted. Kept sets never change, and are gone with their segment. */
const countsOf = memoByObject<DocSet, WeakMap<object, Uint32Array>>(() => new WeakMap());

/** Longer lists of counts are not remembered for every word: a column of names has one for nearly each document. */
const LONGEST = 4_096;
/** They are, for sets of which a column has less than so many times as many values. */
const TIMES = 4;
/** What the longer ones of one column may take in all. */
const LONG_BYTES = 8 * 2 ** 20;

/** Long lists of counts of one column, by set; those asked for last stay. */
const longCountsOf = memoByObject<object, Map<DocSet, Uint32Array>>(() => new Map());

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
  const isLong = length > LONGEST;
  // Far more counts than documents are quicker made than kept.
  if (base === null || (isLong && !base.isWhole && base.results.count * TIMES < length)) return count(results.list);
  // A set of most documents is counted by those it lacks.
  const ofAll = (): Uint32Array =>
    base.isWhole ? count(base.results.list) : countIn(base.results, key, length, count);
  const all = isLong && !base.isWhole ? longCounts(base, key, ofAll) : shortCounts(base, key, ofAll);
  if (base.others.length === 0) return all;
  const others = count(base.others);
  return all.map((sum, i) => sum - others[i]!);
}

function shortCounts({ results: { set } }: Base, key: object, make: () => Uint32Array): Uint32Array {
  const ofSet = countsOf(set);
  let counts = ofSet.get(key);
  if (counts === undefined) ofSet.set(key, (counts = make()));
  return counts;
}

function longCounts({ results: { set } }: Base, key: object, make: () => Uint32Array): Uint32Array {
  const bySet = longCountsOf(key);
  const counts = bySet.get(set) ?? make();
  // What is asked for again comes to the end; the first one goes.
  bySet.delete(set);
  bySet.set(set, counts);
  if (bySet.size * counts.byteLength > LONG_BYTES) bySet.delete(bySet.keys().next().value!);
  return counts;
}
