import type { ValueColumn } from '../columns/column.ts';
import { uniteValues, type UnitedValues } from '../columns/united-values.ts';
import { memoByObject } from '../memo/by-object.ts';
import { firstNotBelow } from '../sets/sorted.ts';
import { compareNames, firstOf, leastListed } from './order.ts';

/** The counts of one segment. */
export interface Counted {
  column: ValueColumn;
  /** The value of each count, ascending; null = each counts the value of its own number. */
  values: Uint32Array | null;
  counts: Uint32Array;
}

interface Total {
  label: string | null;
  count: number;
}

/** Values by their text, and how many have a count above 0 in all. */
interface Totals {
  totals: Map<string, Total>;
  found: number;
}

/** Up to so many values that tie at the last rank are compared by their names, as people put them in order. */
const MOST_TIES = 500;
/** Sums are made of all numbers there are when one segment has counted at least this share of them. */
const WHOLE_SHARE = 0.125;

/**
 * The values that may be among the `size` most common, and those of `wanted`. A column may hold a value for nearly
 * every document, so only these get a name: those that count no less than the last one listed. Of many that tie at the
 * last rank the first in text order are taken.
 */
export function mostCommon(counted: readonly Counted[], size: number, wanted: ReadonlySet<string>): Totals {
  const sums = addedUp(counted);
  // Texts of other segments stand behind, in no order: all of them are compared.
  const isInOrder = (at: number): boolean => numberAt(sums, at) < sums.united.inOrder;
  const { least, near, above, ties, found } = knownFirst(sums.counts, size, isInOrder);
  let left = ties > MOST_TIES ? Math.max(0, size - above) : ties;
  const listed = near.filter((at) => sums.counts[at]! > least || !isInOrder(at) || left-- > 0);
  return { totals: totalsOf(sums, listed, wanted), found };
}

/**
 * The first `size` values by name that some document holds, and those of `wanted`. The others are compared, and get no
 * entry.
 */
export function firstNamed(counted: readonly Counted[], size: number, wanted: ReadonlySet<string>): Totals {
  const sums = addedUp(counted);
  const held: number[] = [];
  for (let at = 0; at < sums.counts.length; at++) if (sums.counts[at]! > 0) held.push(at);
  if (held.length <= size) return { totals: totalsOf(sums, held, wanted), found: held.length };
  const { united } = sums;
  const nameAt = (at: number): string => {
    const number = numberAt(sums, at);
    return united.label(number) ?? united.text(number);
  };
  const byName = (a: number, b: number): number => {
    const order = compareNames(nameAt(a), nameAt(b));
    if (order !== 0) return order;
    return united.text(numberAt(sums, a)) < united.text(numberAt(sums, b)) ? -1 : 1;
  };
  return { totals: totalsOf(sums, firstOf(held, size, byName), wanted), found: held.length };
}

const numberAt = ({ values }: Sums, at: number): number => (values === null ? at : values[at]!);

/** Some of the values by their text, and those of `wanted` that have a count. */
function totalsOf(sums: Sums, places: readonly number[], wanted: ReadonlySet<string>): Map<string, Total> {
  const { united, values, counts } = sums;
  const totals = new Map<string, Total>();
  const add = (at: number): void => {
    const number = numberAt(sums, at);
    totals.set(united.text(number), { label: united.label(number), count: counts[at]! });
  };
  for (const at of places) add(at);
  for (const number of wanted.size === 0 ? [] : united.find(wanted)) {
    const at = values === null ? number : firstNotBelow(values, number);
    if (counts[at]! > 0 && numberAt(sums, at) === number) add(at);
  }
  return totals;
}

/** Which counts of many come first. */
interface First {
  /** Those that may be listed count so many at the least. */
  least: number;
  /** Where they stand, ascending; of very many that count no more than that, the first and those in no order. */
  near: readonly number[];
  /** How many count more, and no more. */
  above: number;
  ties: number;
  /** How many are above 0. */
  found: number;
}

function firstCounts(counts: Uint32Array, size: number, isInOrder: (at: number) => boolean): First {
  const least = Math.max(1, leastListed(counts, size));
  const near: number[] = [];
  const mostTies = Math.max(MOST_TIES, size);
  let [found, above, ties] = [0, 0, 0];
  for (let at = 0; at < counts.length; at++) {
    const count = counts[at]!;
    if (count !== 0) found++;
    if (count < least) continue;
    if (count > least) above++;
    else if (++ties > mostTies && isInOrder(at)) continue;
    near.push(at);
  }
  return { least, near, above, ties, found };
}

/** By counts that are themselves remembered (see known-counts.ts) and how many are listed, the last one asked for. */
const lastFirst = memoByObject<Uint32Array, { size: number; first: First | null }>(() => ({ size: 0, first: null }));
/** Longer lists are made again: whoever wants every value has as many. */
const MOST_NEAR = 1_000;

function knownFirst(counts: Uint32Array, size: number, isInOrder: (at: number) => boolean): First {
  const last = lastFirst(counts);
  if (last.first !== null && last.size === size) return last.first;
  const first = firstCounts(counts, size, isInOrder);
  if (first.near.length <= MOST_NEAR) Object.assign(last, { size, first });
  return first;
}

interface Sums {
  united: UnitedValues;
  /** As in Counted, of the united values. */
  values: Uint32Array | null;
  counts: Uint32Array;
}

const NOTHING: Sums = {
  united: { size: 0, inOrder: 0, numbers: [], text: () => '', label: () => null, find: () => [] },
  values: null,
  counts: new Uint32Array(0),
};

/** Adds up what the segments counted, by the numbers that all of them share. */
function addedUp(all: readonly Counted[]): Sums {
  if (all.length === 0) return NOTHING;
  const counted = [...all].sort((a, b) => b.column.size - a.column.size);
  const united = uniteValues(counted.map(({ column }) => column));
  if (counted.length === 1) return { united, values: counted[0]!.values, counts: counted[0]!.counts };
  const isWhole = counted.some(({ values, counts }) => values === null && counts.length >= united.size * WHOLE_SHARE);
  if (isWhole) {
    const counts = new Uint32Array(united.size);
    eachCount(counted, united, (number, count) => (counts[number]! += count));
    return { united, values: null, counts };
  }
  const sums = countersOf(united);
  const held: number[] = [];
  eachCount(counted, united, (number, count) => {
    if (sums[number] === 0) held.push(number);
    sums[number]! += count;
  });
  const values = Uint32Array.from(held).sort();
  const counts = values.map((number) => sums[number]!);
  for (const number of values) sums[number] = 0;
  return { united, values, counts };
}

/** A sum for each value, all 0 between two uses. */
const countersOf = memoByObject(({ size }: UnitedValues) => new Uint32Array(size));

function eachCount(
  counted: readonly Counted[],
  { numbers }: UnitedValues,
  visit: (number: number, count: number) => void,
): void {
  counted.forEach(({ values, counts }, i) => {
    const own = numbers[i] ?? null;
    for (let at = 0; at < counts.length; at++) {
      if (counts[at] === 0) continue;
      const value = values === null ? at : values[at]!;
      visit(own === null ? value : own[value]!, counts[at]!);
    }
  });
}
