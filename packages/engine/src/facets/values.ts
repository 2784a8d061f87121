import type { FacetValue, ValuesFacet } from '@yucca/contract';
import type { ValueColumn } from '../columns/column.ts';
import { addFlagged } from '../filter/column-scan.ts';
import type { Segment } from '../segment/segment.ts';
import { DocSet } from '../sets/doc-set.ts';
import type { Results } from '../sets/results.ts';
import { countGroups, knownGroups } from './buckets-of-values.ts';
import { chosenValues, type Facet, type MakeFacet } from './facet.ts';
import { countIn } from './known-counts.ts';
import { leastListed, listed } from './order.ts';

/** Values as they stand in the field: texts, numbers and booleans as their text. */
export const valuesFacet: MakeFacet = (rule, choice) => {
  const selected = new Set(chosenValues(choice));
  const counted: { column: ValueColumn; counts: Uint32Array }[] = [];
  let missing = 0;
  return {
    chosen: (segment) => chosenIn(segment, rule.field, [...selected], rule.match),
    count(segment, results) {
      const column = segment.values(rule.field);
      if (column === null) {
        missing += results.count;
        return;
      }
      const counts = countValues(column, results);
      missing += counts[0]!;
      counted.push({ column, counts });
    },
    answer(): ValuesFacet {
      const totals = new Map<string, { label: string | null; count: number }>();
      // Of one segment, what can surely not be listed need not even get a name.
      const isSure = counted.length === 1 && selected.size === 0 && rule.order === 'count';
      const least = isSure ? Math.max(1, leastListed(counted[0]!.counts.slice(1), rule.size)) : 1;
      let found = 0;
      for (const { column, counts } of counted) {
        for (let value = 0; value < column.size; value++) {
          const count = counts[value + 1]!;
          if (count > 0) found++;
          if (count < least) continue;
          const text = column.text(value);
          const total = totals.get(text);
          if (total === undefined) totals.set(text, { label: column.label(value), count });
          else {
            total.label ??= column.label(value);
            total.count += count;
          }
        }
      }
      for (const value of selected) if (!totals.has(value)) totals.set(value, { label: null, count: 0 });
      const all: FacetValue[] = [...totals].map(([value, { label, count }]) => ({
        value,
        label: label ?? value,
        count,
        selected: selected.has(value),
      }));
      const values = listed(all, rule.order, rule.size);
      const more = values.length < (isSure ? found : all.length);
      return { kind: 'values', label: rule.label, values, more, missing };
    },
  } satisfies Facet;
};

/** Documents with any, or all, of some values. */
export function chosenIn(segment: Segment, field: string, wanted: readonly string[], match: 'any' | 'all'): DocSet {
  const column = segment.values(field);
  const set = new DocSet(segment.docs);
  if (column === null) return set;
  const texts = new Set(wanted);
  const found = column.find(texts).filter((value) => texts.has(column.text(value)));
  if (match === 'all' && texts.size > 1) {
    addHoldingAll(column, segment.docs, found, texts.size, set);
    return set;
  }
  const flags = new Uint8Array(column.size);
  for (const value of found) flags[value] = 1;
  addFlagged(column, segment.docs, flags, set);
  return set;
}

/** Adds the documents that hold all of some texts, in one pass however many those are. */
function addHoldingAll(
  { docStarts, docValues, size, text }: ValueColumn,
  docs: number,
  found: readonly number[],
  count: number,
  set: DocSet,
): void {
  /** 1 + the number of the text a value reads like: a number and a text may read alike, and are one choice. */
  const texts = new Map<string, number>();
  const numbers = new Uint16Array(size);
  for (const value of found) {
    const written = text(value);
    if (!texts.has(written)) texts.set(written, texts.size + 1);
    numbers[value] = texts.get(written)!;
  }
  // Without a list no document holds two values.
  if (docStarts === null || texts.size < count) return;
  const heldBy = new Uint32Array(count + 1);
  for (let doc = 0; doc < docs; doc++) {
    let held = 0;
    for (let at = docStarts[doc]!, end = docStarts[doc + 1]!; at < end; at++) {
      const number = numbers[docValues[at]!]!;
      if (number === 0 || heldBy[number] === doc + 1) continue;
      heldBy[number] = doc + 1;
      held++;
    }
    if (held === count) set.add(doc);
  }
}

/** How many documents hold each value, at 1 + its number; at 0 those that hold none. An empty text is no value. */
function countValues(column: ValueColumn, results: Results): Uint32Array {
  if (hasOddValues(column)) return countOddValues(column, results);
  return countIn(results, column, column.size + 1, (docs) => countPlain(column, docs));
}

/** The same for a column without such. */
function countPlain({ size, docStarts, docValues }: ValueColumn, docs: Uint32Array): Uint32Array {
  const counts = new Uint32Array(size + 1);
  if (docStarts === null) {
    // One value a document, counted where it stands.
    const end = docs.length - 3;
    let i = 0;
    if (end > 4 * counts.length) {
      // Side by side in four tables: a common value would keep each step waiting for the one before it.
      const [second, third, fourth] = [counts.slice(), counts.slice(), counts.slice()];
      for (; i < end; i += 4) {
        counts[docValues[docs[i]!]!]!++;
        second[docValues[docs[i + 1]!]!]!++;
        third[docValues[docs[i + 2]!]!]!++;
        fourth[docValues[docs[i + 3]!]!]!++;
      }
      for (let value = 0; value <= size; value++) counts[value]! += second[value]! + third[value]! + fourth[value]!;
    }
    for (; i < docs.length; i++) counts[docValues[docs[i]!]!]!++;
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

/** Where texts are empty or stand as two types: documents are counted once a text, at the first value that reads so. */
function countOddValues(column: ValueColumn, results: Results): Uint32Array {
  const groups = knownGroups(column, 'values', (text) => (text === '' ? [] : [text]));
  const byGroup = countGroups(column, groups, results);
  const counts = new Uint32Array(column.size + 1);
  counts[0] = byGroup[0]!;
  const first = new Map<string, number>();
  for (let value = column.size - 1; value >= 0; value--) first.set(column.text(value), value);
  groups.names.forEach((name, group) => (counts[first.get(name)! + 1] = byGroup[group + 1]!));
  return counts;
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
