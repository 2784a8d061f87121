import type { FacetValue, ValuesFacet } from '@yucca/contract';
import type { ValueColumn } from '../columns/column.ts';
import { addFlagged } from '../filter/evaluate.ts';
import type { Segment } from '../segment/segment.ts';
import { DocSet } from '../sets/doc-set.ts';
import type { Results } from '../sets/results.ts';
import { countGroups, knownGroups } from './buckets-of-values.ts';
import { chosenValues, type Facet, type MakeFacet } from './facet.ts';
import { listed } from './order.ts';

/** Values as they stand in the field: texts, numbers and booleans as their text. */
export const valuesFacet: MakeFacet = (rule, choice) => {
  const selected = new Set(chosenValues(choice));
  const totals = new Map<string, number>();
  const labels = new Map<string, string>();
  let missing = 0;
  return {
    chosen: (segment) => chosenIn(segment, rule.field, [...selected], rule.match),
    count(segment, results) {
      const column = segment.values(rule.field);
      if (column === null) {
        missing += results.count;
        return;
      }
      missing += countValues(column, results, (value, count) => {
        const text = column.text(value);
        totals.set(text, (totals.get(text) ?? 0) + count);
        if (!labels.has(text)) {
          const label = column.label(value);
          if (label !== null) labels.set(text, label);
        }
      });
    },
    answer(): ValuesFacet {
      for (const value of selected) if (!totals.has(value)) totals.set(value, 0);
      const all: FacetValue[] = [...totals].map(([value, count]) => ({
        value,
        label: labels.get(value) ?? value,
        count,
        selected: selected.has(value),
      }));
      const values = listed(all, rule.order, rule.size);
      return { kind: 'values', label: rule.label, values, more: values.length < all.length, missing };
    },
  } satisfies Facet;
};

/** Documents with any, or all, of some values. */
export function chosenIn(segment: Segment, field: string, wanted: readonly string[], match: 'any' | 'all'): DocSet {
  const column = segment.values(field);
  const none = new DocSet(segment.docs);
  if (column === null) return none;
  const holding = (texts: ReadonlySet<string>): DocSet => {
    const flags = new Uint8Array(column.size);
    for (let value = 0; value < column.size; value++) if (texts.has(column.text(value))) flags[value] = 1;
    const set = new DocSet(segment.docs);
    addFlagged(column, segment.docs, flags, set);
    return set;
  };
  if (match === 'any') return holding(new Set(wanted));
  return wanted.map((text) => holding(new Set([text]))).reduce((all, one) => all.and(one));
}

/** Counts documents by value; answers how many hold none. An empty text is no value. */
function countValues(column: ValueColumn, results: Results, visit: (value: number, count: number) => void): number {
  if (hasOddValues(column)) return countOddValues(column, results, visit);
  let counts: Uint32Array;
  if (results.isMost) {
    // Of most documents, the others are counted and taken away from all.
    const others = countPlain(column, results.rest);
    counts = countsOfAll(column, results.set.docs).map((count, value) => count - others[value]!);
  } else {
    counts = countPlain(column, results.list);
  }
  for (let value = 0; value < column.size; value++) if (counts[value + 1]! > 0) visit(value, counts[value + 1]!);
  return counts[0]!;
}

/** How many documents hold each value, at 1 + its number; at 0 those that hold none. */
function countPlain({ size, docStarts, docValues }: ValueColumn, docs: Uint32Array): Uint32Array {
  const counts = new Uint32Array(size + 1);
  if (docStarts === null) {
    // One value a document, counted where it stands.
    for (let i = 0; i < docs.length; i++) counts[docValues[docs[i]!]!]!++;
    return counts;
  }
  for (let i = 0; i < docs.length; i++) {
    const doc = docs[i]!;
    const end = docStarts[doc + 1]!;
    let at = docStarts[doc]!;
    if (at === end) counts[0]!++;
    for (; at < end; at++) counts[docValues[at]! + 1]!++;
  }
  return counts;
}

const knownCounts = new WeakMap<ValueColumn, Uint32Array>();

function countsOfAll(column: ValueColumn, docs: number): Uint32Array {
  let counts = knownCounts.get(column);
  if (counts === undefined) {
    counts = countPlain(
      column,
      Uint32Array.from({ length: docs }, (_, doc) => doc),
    );
    knownCounts.set(column, counts);
  }
  return counts;
}

/** Where texts are empty or stand as two types: documents are counted once a text. */
function countOddValues(column: ValueColumn, { list }: Results, visit: (value: number, count: number) => void): number {
  const groups = knownGroups(column, 'values', (text) => (text === '' ? [] : [text]));
  const counts = new Uint32Array(groups.names.length);
  const without = countGroups(column, groups, list, counts);
  const first = new Map<string, number>();
  for (let value = column.size - 1; value >= 0; value--) first.set(column.text(value), value);
  counts.forEach((count, group) => {
    if (count > 0) visit(first.get(groups.names[group]!)!, count);
  });
  return without;
}

const odd = new WeakMap<ValueColumn, boolean>();

/** Whether a column holds an empty text, or one text as two types: then counting needs a closer look. */
function hasOddValues(column: ValueColumn): boolean {
  let found = odd.get(column);
  if (found === undefined) {
    found = column.size > 0 && column.text(0) === '';
    if (new Set(column.types).size > 1) {
      for (let value = 1; value < column.size && !found; value++) found = column.text(value) === column.text(value - 1);
    }
    odd.set(column, found);
  }
  return found;
}
