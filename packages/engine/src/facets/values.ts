import type { FacetValue, ValuesFacet } from '@yucca/contract';
import type { ValueColumn } from '../columns/column.ts';
import { memoByObject } from '../memo/by-object.ts';
import { addFlagged } from '../filter/column-scan.ts';
import type { Segment } from '../segment/segment.ts';
import { DocSet } from '../sets/doc-set.ts';
import type { Results } from '../sets/results.ts';
import { chosenValues, type Facet, type MakeFacet } from './facet.ts';
import { countFew, isFew } from './few-counts.ts';
import { countIn } from './known-counts.ts';
import { firstNamed, mostCommon, type Counted } from './most-common.ts';
import { listed } from './order.ts';
import { plainValues, type PlainValues } from './plain-values.ts';

/** Values as they stand in the field: texts, numbers and booleans as their text. */
export const valuesFacet: MakeFacet = (rule, choice) => {
  const selected = new Set(chosenValues(choice));
  const counted: Counted[] = [];
  let missing = 0;
  return {
    chosen: (segment) => chosenIn(segment, rule.field, [...selected], rule.match),
    count(segment, results) {
      const column = segment.values(rule.field);
      if (column === null) {
        missing += results.count;
        return;
      }
      const plain = plainValues(column);
      if (isFew(plain, results.count)) {
        const few = countFew(plain, results.list);
        missing += few.missing;
        counted.push({ column, values: few.values, counts: few.counts });
        return;
      }
      const counts = countValues(plain, results);
      missing += counts[0]!;
      counted.push({ column, values: null, counts: ofValues(counts) });
    },
    answer(): ValuesFacet {
      const { totals, found } = (rule.order === 'count' ? mostCommon : firstNamed)(counted, rule.size, selected);
      // A choice that finds nothing is listed all the same.
      const lost = [...selected].filter((value) => !totals.has(value));
      for (const value of lost) totals.set(value, { label: null, count: 0 });
      const all: FacetValue[] = [...totals].map(([value, { label, count }]) => ({
        value,
        label: label ?? value,
        count,
        selected: selected.has(value),
      }));
      const values = listed(all, rule.order, rule.size);
      return { kind: 'values', label: rule.label, values, more: values.length < found + lost.length, missing };
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

/** The counts of the values alone: the same object for the same counts. */
const ofValues = memoByObject((counts: Uint32Array) => counts.subarray(1));

/** How many documents hold each value, at 1 + its number; at 0 those that hold none. Not to be changed. */
function countValues(column: PlainValues, results: Results): Uint32Array {
  return countIn(results, column, column.size + 1, (docs) => countPlain(column, docs));
}

function countPlain({ size, docStarts, docValues }: PlainValues, docs: Uint32Array): Uint32Array {
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
