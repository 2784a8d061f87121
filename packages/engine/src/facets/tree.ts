import type { TreeFacet, TreeNode } from '@yucca/contract';
import type { ValueColumn } from '../columns/column.ts';
import { addFlagged } from '../filter/column-scan.ts';
import { DocSet } from '../sets/doc-set.ts';
import { memoByName } from '../memo/by-object.ts';
import { countGroups, knownGroups, type ValueGroups } from './buckets-of-values.ts';
import { chosenValues, type Facet, type MakeFacet } from './facet.ts';
import { listed } from './order.ts';

/**
 * Levels a path may have; what lies deeper is one name. Without an end, one text of separators would be a million
 * nodes.
 */
const MOST_LEVELS = 100;

/** A path and all above it: `A > B` is in `A` and in `A > B`. A first level without a name is no node. */
function nodesOf(path: string, separator: string): string[] {
  const levels = path.split(separator);
  const last = Math.min(levels.length, MOST_LEVELS) - 1;
  const above = Array.from({ length: last }, (_, i) => levels.slice(0, i + 1).join(separator));
  return [...above, path].filter((node) => node !== '');
}

/** The node right above a path; empty for one at the top. */
function parentOf(path: string, separator: string): string {
  const levels = path.split(separator);
  return levels.slice(0, Math.min(levels.length, MOST_LEVELS) - 1).join(separator);
}

/** The node right above each group: a column's paths are taken apart once, not with each search. */
const parentsOf = memoByName(({ names }: ValueGroups, separator) => names.map((path) => parentOf(path, separator)));

/** Paths such as `Outdoor > Shrubs`, several a record. Choosing a node chooses all below it. */
export const treeFacet: MakeFacet = (rule, choice) => {
  const { separator } = rule;
  const selected = new Set(chosenValues(choice));
  const totals = new Map<string, number>();
  const children = new Map<string, string[]>();
  let missing = 0;
  const nodesOfPath = (path: string): string[] => nodesOf(path, separator);
  const groupsOf = (column: ValueColumn): ValueGroups => knownGroups(column, `tree/${separator}`, nodesOfPath);
  const add = (path: string, parent: string, count: number): void => {
    const before = totals.get(path);
    totals.set(path, (before ?? 0) + count);
    if (before !== undefined) return;
    const siblings = children.get(parent);
    if (siblings) siblings.push(path);
    else children.set(parent, [path]);
  };
  return {
    chosen(segment) {
      const set = new DocSet(segment.docs);
      const column = segment.values(rule.field);
      if (column === null) return set;
      const { names, starts, groups } = groupsOf(column);
      const isSelected = Uint8Array.from(names, (path) => (selected.has(path) ? 1 : 0));
      const flags = new Uint8Array(column.size);
      for (let value = 0; value < column.size; value++)
        for (let at = starts[value]!; at < starts[value + 1]!; at++) flags[value]! |= isSelected[groups[at]!]!;
      addFlagged(column, segment.docs, flags, set);
      return set;
    },
    count(segment, results) {
      const column = segment.values(rule.field);
      if (column === null) {
        missing += results.count;
        return;
      }
      const groups = groupsOf(column);
      const parents = parentsOf(groups, separator);
      const counts = countGroups(column, groups, results);
      missing += counts[0]!;
      for (let group = 0; group < parents.length; group++)
        if (counts[group + 1]! > 0) add(groups.names[group]!, parents[group]!, counts[group + 1]!);
    },
    answer(): TreeFacet {
      // A node above a chosen one stays in sight with it.
      const inSight = new Set([...selected].flatMap(nodesOfPath));
      for (const node of inSight) if (!totals.has(node)) add(node, parentOf(node, separator), 0);
      let more = false;
      const nodesBelow = (parent: string): TreeNode[] => {
        const all = (children.get(parent) ?? []).map((path) => ({
          value: path,
          label: path.slice(parent === '' ? 0 : parent.length + separator.length),
          count: totals.get(path)!,
          selected: inSight.has(path),
        }));
        const kept = listed(all, rule.order, rule.size);
        more ||= kept.length < all.length;
        return kept.map(({ value: path, label, count }) => ({
          value: label,
          path,
          count,
          selected: selected.has(path),
          children: nodesBelow(path),
        }));
      };
      return { kind: 'tree', label: rule.label, separator, nodes: nodesBelow(''), more, missing };
    },
  } satisfies Facet;
};
