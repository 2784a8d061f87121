import type { ValueColumn } from '../columns/column.ts';
import type { Results } from '../sets/results.ts';
import { countIn } from './known-counts.ts';

/**
 * Counts documents by groups of values: each value belongs to some groups (its month), and a document
 * counts once a group, however many of its values belong to it.
 */
export interface ValueGroups {
  /** Group numbers of value `v` stand at `[starts[v], starts[v + 1])`. */
  starts: Uint32Array;
  groups: Uint32Array;
  names: string[];
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
  if (docStarts === null) {
    // The groups of one value are different ones: nothing counts twice.
    for (let i = 0; i < docs.length; i++) {
      const value = docValues[docs[i]!]! - 1;
      const [at, end] = value === -1 ? [0, 0] : [starts[value]!, starts[value + 1]!];
      if (at === end) counts[0]!++;
      for (let g = at; g < end; g++) counts[groups[g]! + 1]!++;
    }
    return counts;
  }
  const lastDoc = new Uint32Array(names.length);
  for (let i = 0; i < docs.length; i++) {
    const doc = docs[i]!;
    let found = false;
    for (let at = docStarts[doc]!, last = docStarts[doc + 1]!; at < last; at++) {
      const value = docValues[at]!;
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
