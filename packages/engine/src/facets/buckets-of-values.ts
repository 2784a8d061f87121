import { memoByObject } from '../memo/by-object.ts';
import type { ValueColumn } from '../columns/column.ts';
import type { Results } from '../sets/results.ts';
import { countIn } from './known-counts.ts';

/**
 * Counts documents by groups of values: each value belongs to some groups (its tree nodes, its month), and a document
 * counts once a group, however many of its values belong to it.
 */
export interface ValueGroups {
  /** Group numbers of value `v` stand at `[starts[v], starts[v + 1])`. */
  starts: Uint32Array;
  groups: Uint32Array;
  names: string[];
}

/** Groups the values of a column by a function from text to group names. */
export function groupValues(column: ValueColumn, groupsOf: (text: string) => string[]): ValueGroups {
  const numbers = new Map<string, number>();
  const starts = new Uint32Array(column.size + 1);
  const groups: number[] = [];
  for (let value = 0; value < column.size; value++) {
    for (const name of groupsOf(column.text(value))) {
      let number = numbers.get(name);
      if (number === undefined) numbers.set(name, (number = numbers.size));
      groups.push(number);
    }
    starts[value + 1] = groups.length;
  }
  return { starts, groups: Uint32Array.from(groups), names: [...numbers.keys()] };
}

/** How many documents belong to each group, at 1 + its number; at 0 those that belong to none. Not to be changed. */
export function countGroups(column: ValueColumn, groups: ValueGroups, results: Results): Uint32Array {
  return countIn(results, groups, groups.names.length + 1, (docs) => countDocs(column, groups, docs));
}

function countDocs(
  { docStarts, docValues }: ValueColumn,
  { starts, groups, names }: ValueGroups,
  docs: Uint32Array,
): Uint32Array {
  const counts = new Uint32Array(names.length + 1);
  const lastDoc = new Uint32Array(names.length);
  for (let i = 0; i < docs.length; i++) {
    const doc = docs[i]!;
    let found = false;
    const from = docStarts === null ? 0 : docStarts[doc]!;
    const to = docStarts === null ? 1 : docStarts[doc + 1]!;
    for (let at = from; at < to; at++) {
      const value = docStarts === null ? docValues[doc]! - 1 : docValues[at]!;
      if (value < 0) continue;
      for (let g = starts[value]!, end = starts[value + 1]!; g < end; g++) {
        found = true;
        const group = groups[g]!;
        if (lastDoc[group] === doc + 1) continue;
        lastDoc[group] = doc + 1;
        counts[group + 1]!++;
      }
    }
    if (!found) counts[0]!++;
  }
  return counts;
}

const groupsByKey = memoByObject<ValueColumn, Map<string, ValueGroups>>(() => new Map());

/** Groups made once for a column and `key`. */
export function knownGroups(column: ValueColumn, key: string, groupsOf: (text: string) => string[]): ValueGroups {
  const byKey = groupsByKey(column);
  let groups = byKey.get(key);
  if (groups === undefined) byKey.set(key, (groups = groupValues(column, groupsOf)));
  return groups;
}

/** Adds the counts of some documents to `totals`, by group name; returns how many belong to no group. */
export function addGroupCounts(
  column: ValueColumn,
  groups: ValueGroups,
  results: Results,
  totals: Map<string, number>,
): number {
  const counts = countGroups(column, groups, results);
  groups.names.forEach((name, group) => {
    if (counts[group + 1]! > 0) totals.set(name, (totals.get(name) ?? 0) + counts[group + 1]!);
  });
  return counts[0]!;
}
