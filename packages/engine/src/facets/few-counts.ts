import { memoByObject } from '../memo/by-object.ts';
import type { PlainValues } from './plain-values.ts';

/** How many documents hold each of some values: only those that any of them holds, ascending. */
export interface FewCounts {
  values: Uint32Array;
  counts: Uint32Array;
  /** Documents that hold none. */
  missing: number;
}

/** Below this many values a count of all of them is as quick. */
const FEW_VALUES = 1_024;
/** Results of which a column has so many times as many values are counted by what they hold. */
const TIMES = 2;

/** Whether so many documents are counted sooner by the values they hold than by all there are. */
export const isFew = ({ size }: PlainValues, docs: number): boolean => size >= FEW_VALUES && size > docs * TIMES;

/** A count for each value of a column, all 0 between two uses. */
const countersOf = memoByObject(({ size }: PlainValues) => new Uint32Array(size));

/** Counts the values of some documents in the time that these take, however many values there are. */
export function countFew(column: PlainValues, docs: Uint32Array): FewCounts {
  const { docStarts, docValues } = column;
  const counters = countersOf(column);
  const held: number[] = [];
  let missing = 0;
  for (let i = 0; i < docs.length; i++) {
    const doc = docs[i]!;
    if (docStarts === null) {
      const value = docValues[doc]! - 1;
      if (value === -1) missing++;
      else if (counters[value]!++ === 0) held.push(value);
      continue;
    }
    const end = docStarts[doc + 1]!;
    let at = docStarts[doc]!;
    if (at === end) missing++;
    for (; at < end; at++) {
      const value = docValues[at]!;
      if (counters[value]!++ === 0) held.push(value);
    }
  }
  const values = Uint32Array.from(held).sort();
  const counts = values.map((value) => counters[value]!);
  for (const value of values) counters[value] = 0;
  return { values, counts, missing };
}
