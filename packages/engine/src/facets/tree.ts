import type { FacetValue, TreeFacet, TreeNode } from '@yucca/contract';
import type { ValueColumn } from '../columns/column.ts';
import { GrowingArray } from '../bytes/growing-array.ts';
import { addFlagged } from '../filter/column-scan.ts';
import { DocSet } from '../sets/doc-set.ts';
import { memoByName } from '../memo/by-object.ts';
import { chosenValues, type Facet, type MakeFacet } from './facet.ts';
import { countIn } from './known-counts.ts';
import { leastListed, listed } from './order.ts';

/**
 * Levels a path may have; what lies deeper is one name. Without an end, one text of separators would be a million
 * nodes.
 */
const MOST_LEVELS = 100;

/** A path and all above it: `A > B` is in `A` and in `A > B`. A first level without a name is no node. */
function nodesOf(path: string, separator: string): string[] {
  const nodes: string[] = [];
  let at = path.indexOf(separator);
  for (let level = 1; at !== -1 && level < MOST_LEVELS; level++) {
    if (at > 0) nodes.push(path.slice(0, at));
    at = path.indexOf(separator, at + separator.length);
  }
  if (path !== '') nodes.push(path);
  return nodes;
}

/** The node right above a path; empty for one at the top. */
function parentOf(path: string, separator: string): string {
  let [parent, at] = [0, path.indexOf(separator)];
  for (let level = 1; at !== -1 && level < MOST_LEVELS; level++) {
    parent = at;
    at = path.indexOf(separator, at + separator.length);
  }
  return path.slice(0, parent);
}

/**
 * The paths of a column, taken apart once and not with each search: a tree may have a hundred thousand nodes. Nodes are
 * numbered as they are met, each behind the one above it.
 */
interface Tree {
  names: readonly string[];
  /** Nodes by their path. */
  numbers: ReadonlyMap<string, number>;
  /** By node: the one right above it. */
  parents: Int32Array;
  /** By value: its node, NOWHERE for the empty path. */
  nodes: Int32Array;
  /** By node: the first value that is its path, -1 for one that is only above others. */
  valueOf: Int32Array;
  /** The nodes below node `n` stand at `[childStarts[n + 1], childStarts[n + 2])`, those at the top before them all. */
  childStarts: Uint32Array;
  children: Uint32Array;
}

/** Above all that stand at the top, and a node that a column lacks. */
const [TOP, NOWHERE] = [-1, -2];

const treeOf = memoByName((column: ValueColumn, separator): Tree => {
  const { size } = column;
  const numbers = new Map<string, number>();
  const allParents = new GrowingArray(Int32Array);
  const values = new GrowingArray(Int32Array);
  const nodes = new Int32Array(size).fill(NOWHERE);
  const nodeOf = (path: string, parent: number): number => {
    let node = numbers.get(path);
    if (node === undefined) {
      numbers.set(path, (node = numbers.size));
      allParents.push(parent);
      values.push(-1);
    }
    return node;
  };
  // Values are in order, so that nearly each stands beside others of its parent.
  let [lastParent, above] = ['', TOP];
  for (let value = 0; value < size; value++) {
    const path = column.text(value);
    if (path === '') continue;
    const parent = parentOf(path, separator);
    if (parent !== lastParent) {
      above = nodesOf(parent, separator).reduce((node, one) => nodeOf(one, node), TOP);
      lastParent = parent;
    }
    const node = nodeOf(path, above);
    if (values.array[node] === -1) values.array[node] = value;
    nodes[value] = node;
  }
  const parents = allParents.view();
  const childStarts = new Uint32Array(parents.length + 2);
  for (const parent of parents) childStarts[parent + 2]!++;
  for (let n = 1; n < childStarts.length; n++) childStarts[n]! += childStarts[n - 1]!;
  const next = childStarts.slice();
  const children = new Uint32Array(parents.length);
  for (let node = 0; node < parents.length; node++) children[next[parents[node]! + 1]!++] = node;
  return { names: [...numbers.keys()], numbers, parents, nodes, valueOf: values.view(), childStarts, children };
});

/** A tree of so many times as many nodes as there are documents to count is climbed by each of them. */
const TIMES = 4;

/**
 * How many documents stand at or below each node, at 1 + its number; at 0 those that stand nowhere. A document counts
 * once a node, however many of its paths lead there.
 */
function countNodes({ docStarts, docValues }: ValueColumn, { parents, nodes }: Tree, docs: Uint32Array): Uint32Array {
  const counts = new Uint32Array(parents.length + 1);
  if (docStarts === null) {
    const isClimbed = docs.length * TIMES < parents.length;
    for (let i = 0; i < docs.length; i++) {
      const value = docValues[docs[i]!]! - 1;
      let node = value === -1 ? NOWHERE : nodes[value]!;
      if (node === NOWHERE) counts[0]!++;
      else if (!isClimbed) counts[node + 1]!++;
      else for (; node !== TOP; node = parents[node]!) counts[node + 1]!++;
    }
    // From behind, what lies below a node has been added to it before it is added to the one above.
    if (!isClimbed)
      for (let node = parents.length - 1; node >= 0; node--)
        if (parents[node] !== TOP) counts[parents[node]! + 1]! += counts[node + 1]!;
    return counts;
  }
  const lastDoc = new Uint32Array(parents.length);
  for (let i = 0; i < docs.length; i++) {
    const doc = docs[i]!;
    let found = false;
    for (let at = docStarts[doc]!, end = docStarts[doc + 1]!; at < end; at++) {
      let node = nodes[docValues[at]!]!;
      if (node === NOWHERE) continue;
      found = true;
      // Where the document has been, it has been in all above.
      for (; node !== TOP && lastDoc[node] !== doc + 1; node = parents[node]!) {
        lastDoc[node] = doc + 1;
        counts[node + 1]!++;
      }
    }
    if (!found) counts[0]!++;
  }
  return counts;
}

/** A node by its path, with its number in each tree that was counted. */
interface Node {
  path: string;
  count: number;
  in: number[];
}

/** Paths such as `Outdoor > Shrubs`, several a record. Choosing a node chooses all below it. */
export const treeFacet: MakeFacet = (rule, choice) => {
  const { separator, order, size } = rule;
  const selected = new Set(chosenValues(choice));
  const counted: { tree: Tree; counts: Uint32Array }[] = [];
  let missing = 0;
  /** A node above a chosen one stays in sight with it. */
  const inSight = new Set([...selected].flatMap((path) => nodesOf(path, separator)));
  const sightBelow = new Map<string, string[]>();
  for (const path of inSight) {
    const parent = parentOf(path, separator);
    const siblings = sightBelow.get(parent);
    if (siblings) siblings.push(path);
    else sightBelow.set(parent, [path]);
  }

  /** Whether nothing stands below a node, as below most that are listed. */
  const isLeaf = (node: Node): boolean =>
    !sightBelow.has(node.path) &&
    counted.every(({ tree: { childStarts } }, i) => {
      const at = node.in[i]!;
      return at === NOWHERE || childStarts[at + 1] === childStarts[at + 2];
    });

  /** The nodes right below one that may be listed, and how many there are. */
  function below(parent: Node): { nodes: Node[]; found: number } {
    const byPath = new Map<string, Node>();
    let hidden = 0;
    counted.forEach(({ tree: { names, childStarts, children }, counts }, i) => {
      const at = parent.in[i]!;
      if (at === NOWHERE) return;
      const nodes = children.subarray(childStarts[at + 1], childStarts[at + 2]);
      // In one tree alone a node that counts less than all that are listed needs no name.
      const least = order === 'count' && counted.length === 1 ? leastOf(nodes, counts, size) : 1;
      for (const node of nodes) {
        const count = counts[node + 1]!;
        if (count === 0) continue;
        if (count < least && !inSight.has(names[node]!)) {
          hidden++;
          continue;
        }
        const path = names[node]!;
        let known = byPath.get(path);
        if (known === undefined) byPath.set(path, (known = { path, count: 0, in: counted.map(() => NOWHERE) }));
        known.count += count;
        known.in[i] = node;
      }
    });
    for (const path of sightBelow.get(parent.path) ?? [])
      if (!byPath.has(path)) byPath.set(path, { path, count: 0, in: counted.map(() => NOWHERE) });
    return { nodes: [...byPath.values()], found: byPath.size + hidden };
  }

  return {
    chosen(segment) {
      const set = new DocSet(segment.docs);
      const column = segment.values(rule.field);
      if (column === null) return set;
      const { names, numbers, valueOf, childStarts, children } = treeOf(column, separator);
      const flags = new Uint8Array(column.size);
      const left = [...selected].flatMap((path) => numbers.get(path) ?? []);
      for (let node = left.pop(); node !== undefined; node = left.pop()) {
        // A number and a text that read alike stand side by side.
        let value = valueOf[node]!;
        while (value >= 0 && value < column.size && column.text(value) === names[node]) flags[value++] = 1;
        for (let at = childStarts[node + 1]!; at < childStarts[node + 2]!; at++) left.push(children[at]!);
      }
      addFlagged(column, segment.docs, flags, set);
      return set;
    },
    count(segment, results) {
      const column = segment.values(rule.field);
      if (column === null) {
        missing += results.count;
        return;
      }
      const tree = treeOf(column, separator);
      const counts = countIn(results, tree, tree.parents.length + 1, (docs) => countNodes(column, tree, docs));
      missing += counts[0]!;
      counted.push({ tree, counts });
    },
    answer(): TreeFacet {
      let more = false;
      const nodesBelow = (parent: Node): TreeNode[] => {
        if (isLeaf(parent)) return [];
        const { nodes, found } = below(parent);
        const byPath = new Map(nodes.map((node) => [node.path, node]));
        const all = nodes.map(({ path, count }): FacetValue => ({
          value: path,
          label: path.slice(parent.path === '' ? 0 : parent.path.length + separator.length),
          count,
          selected: inSight.has(path),
        }));
        const kept = listed(all, order, size);
        more ||= kept.length < found;
        return kept.map(({ value: path, label, count }) => ({
          value: label,
          path,
          count,
          selected: selected.has(path),
          children: nodesBelow(byPath.get(path)!),
        }));
      };
      const top = nodesBelow({ path: '', count: 0, in: counted.map(() => TOP) });
      return { kind: 'tree', label: rule.label, separator, nodes: top, more, missing };
    },
  } satisfies Facet;
};

/** What the last of some nodes that is listed counts. */
function leastOf(nodes: Uint32Array, counts: Uint32Array, size: number): number {
  if (nodes.length <= size || size === Infinity) return 1;
  return Math.max(
    1,
    leastListed(
      nodes.map((node) => counts[node + 1]!),
      size,
    ),
  );
}
