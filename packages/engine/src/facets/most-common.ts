import type { ValueColumn } from '../columns/column.ts';
import { firstNotBelow } from '../sets/sorted.ts';
import { leastListed } from './order.ts';

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

/** Every value that some document holds. */
export function allOf(counted: readonly Counted[]): Totals {
  const totals = new Map<string, Total>();
  for (const { column, values, counts } of counted) {
    for (let at = 0; at < counts.length; at++)
      if (counts[at]! > 0) add(totals, column, values === null ? at : values[at]!, counts[at]!);
  }
  return { totals, found: totals.size };
}

/**
 * The values that may be among the `size` most common, and those of `wanted`. A column may hold a value for nearly
 * every document, so only these get a name: in the largest segment, values that count at least as much as the last one
 * listed there, less all that the other segments could add to it (after Fagin's threshold); in the others, which are
 * small as a rule, all. Of many that tie at the last rank the first in text order are taken.
 */
export function mostCommon(counted: readonly Counted[], size: number, wanted: ReadonlySet<string>): Totals {
  const [large, ...small] = [...counted].sort((a, b) => b.counts.length - a.counts.length);
  if (large === undefined) return { totals: new Map(), found: 0 };
  const { totals } = allOf(small);
  const added = [...totals.values()].reduce((most, { count }) => Math.max(most, count), 0);
  const { column, values, counts } = large;
  const least = Math.max(1, leastListed(counts, size) - added);
  let [found, above, ties] = [0, 0, 0];
  for (let at = 0; at < counts.length; at++) {
    const count = counts[at]!;
    if (count === 0) continue;
    found++;
    if (count > least) above++;
    else if (count === least) ties++;
  }
  let left = added === 0 && ties > MOST_TIES ? Math.max(0, size - above) : ties;
  // Values that other segments hold, or that are chosen, count in full wherever they stand.
  const elsewhere = new Set(totals.keys());
  const texts = new Set([...elsewhere, ...wanted]);
  const sure = new Set(texts.size === 0 ? [] : column.find(texts).filter((value) => countOf(large, value) > 0));
  found += elsewhere.size;
  for (const value of sure) {
    if (elsewhere.has(column.text(value))) found--;
    add(totals, column, value, countOf(large, value));
  }
  for (let at = 0; at < counts.length; at++) {
    const count = counts[at]!;
    if (count < least) continue;
    const value = values === null ? at : values[at]!;
    if (sure.has(value) || (count === least && left-- <= 0)) continue;
    add(totals, column, value, count);
  }
  return { totals, found };
}

function countOf({ values, counts }: Counted, value: number): number {
  if (values === null) return counts[value]!;
  const at = firstNotBelow(values, value);
  return values[at] === value ? counts[at]! : 0;
}

function add(totals: Map<string, Total>, column: ValueColumn, value: number, count: number): void {
  const text = column.text(value);
  const total = totals.get(text);
  if (total === undefined) return void totals.set(text, { label: column.label(value), count });
  total.label ??= column.label(value);
  total.count += count;
}
