import type { NumberBucket, NumbersFacet } from '@yucca/contract';
import { memoByName } from '../memo/by-object.ts';
import { eachNumber, type NumberColumn } from '../columns/column.ts';
import { GrowingArray } from '../bytes/growing-array.ts';
import { addInRanges, Ranges } from '../filter/column-scan.ts';
import type { Segment } from '../segment/segment.ts';
import { DocSet } from '../sets/doc-set.ts';
import type { Results } from '../sets/results.ts';
import { countIn } from './known-counts.ts';
import { countRanks, numberRanks } from './number-ranks.ts';
import { chosenRange, chosenValues, type Facet, type MakeFacet } from './facet.ts';

/** About so many buckets when the rule names none. */
const BUCKETS = 12;

/** A range of numbers. A list of values, as a form may send it, chooses exactly those numbers. */
export const numbersFacet: MakeFacet = (rule, choice) => {
  const range = chosenRange(choice);
  const exact = [...new Set(chosenValues(choice).map(Number))].filter((number) => !Number.isNaN(number));
  exact.sort((a, b) => a - b);
  const [low, high] = [Number(range?.min ?? -Infinity), Number(range?.max ?? Infinity)];
  const found = new Tally(rule.buckets);
  return {
    chosen(segment) {
      const set = new DocSet(segment.docs);
      const column = segment.numbers(rule.field);
      if (column === null) return set;
      const ranges = range === null ? exact.map((number) => ({ from: number, to: number })) : [{ from: low, to: high }];
      if (ranges.length > 0) addInRanges(column, segment.docs, new Ranges(ranges), set);
      return set;
    },
    count: (segment, results) => found.add(segment, rule.field, results),
    answer(): NumbersFacet {
      const selected =
        range === null
          ? null
          : { ...(low === -Infinity ? {} : { min: low }), ...(high === Infinity ? {} : { max: high }) };
      return { kind: 'numbers', label: rule.label, ...found.result(), selected };
    },
  } satisfies Facet;
};

/** The numbers of the counted documents. With several numbers a document counts once a bucket. */
class Tally {
  readonly #edges: readonly number[] | null;
  readonly #numbers = new GrowingArray(Float64Array);
  /** Where the numbers of each document with several of them begin: only those can count twice. */
  readonly #docs = new GrowingArray(Uint32Array);
  readonly #counted: { number: number; count: number }[] = [];
  #nextDoc = 0;
  #min = Infinity;
  #max = -Infinity;
  #missing = 0;
  #notNumbers = 0;

  constructor(edges: readonly number[] | null) {
    this.#edges = edges;
  }

  add(segment: Segment, field: string, results: Results): void {
    const column = segment.numbers(field);
    const others = othersOf(segment, field);
    const ranked = column === null || others !== null ? null : numberRanks(column);
    if (ranked === null) return this.#addEach(column, others, results.list);
    const counts = countIn(results, ranked, ranked.numbers.length + 1, (docs) => countRanks(ranked, docs));
    this.#missing += counts[0]!;
    for (let rank = 1; rank < counts.length; rank++) {
      if (counts[rank]! > 0) this.#addCounted(ranked.numbers[rank - 1]!, counts[rank]!);
    }
  }

  /** So many documents that hold one number each, and the same. */
  #addCounted(number: number, count: number): void {
    if (number < this.#min) this.#min = number;
    if (number > this.#max) this.#max = number;
    this.#counted.push({ number, count });
  }

  #addEach(column: NumberColumn | null, others: DocSet | null, docs: Uint32Array): void {
    for (let i = 0; i < docs.length; i++) {
      const doc = docs[i]!;
      let any = false;
      if (column !== null) {
        eachNumber(column, doc, (number) => {
          any = true;
          if (number < this.#min) this.#min = number;
          if (number > this.#max) this.#max = number;
          this.#numbers.push(number);
          this.#docs.push(this.#nextDoc);
        });
      }
      this.#nextDoc++;
      if (any) continue;
      this.#missing++;
      if (others?.has(doc)) this.#notNumbers++;
    }
  }

  result(): Pick<NumbersFacet, 'min' | 'max' | 'buckets' | 'other' | 'missing' | 'notNumbers'> {
    const edges = this.#edges ?? evenEdges(this.#min, this.#max);
    const buckets: NumberBucket[] = edges.slice(1).map((to, i) => ({ from: edges[i]!, to, count: 0 }));
    const [numbers, docs] = [this.#numbers.view(), this.#docs.view()];
    const last = new Int32Array(buckets.length + 1).fill(-1);
    let other = 0;
    for (let i = 0; i < numbers.length; i++) {
      const bucket = bucketOf(edges, numbers[i]!);
      const slot = bucket === -1 ? buckets.length : bucket;
      if (last[slot] === docs[i]) continue;
      last[slot] = docs[i]!;
      if (bucket === -1) other++;
      else buckets[bucket]!.count++;
    }
    for (const { number, count } of this.#counted) {
      const bucket = bucketOf(edges, number);
      if (bucket === -1) other += count;
      else buckets[bucket]!.count += count;
    }
    const any = numbers.length + this.#counted.length > 0;
    return {
      min: any ? this.#min : null,
      max: any ? this.#max : null,
      buckets,
      other,
      missing: this.#missing,
      notNumbers: this.#notNumbers,
    };
  }
}

/** Documents that hold something in a field that is no number. */
const othersOf = memoByName((segment: Segment, field: string): DocSet | null => {
  const column = segment.numbers(field);
  if (column === null) return valuesIn(segment, field)?.keep() ?? null;
  const { others } = column;
  return others === null || others.length === 0 ? null : DocSet.of(segment.docs, others).keep();
});

function valuesIn(segment: Segment, field: string): DocSet | null {
  const column = segment.values(field);
  if (column === null) return null;
  const set = new DocSet(segment.docs);
  for (let doc = 0; doc < segment.docs; doc++) {
    const { docStarts, docValues } = column;
    if (docStarts === null ? docValues[doc]! > 0 : docStarts[doc]! < docStarts[doc + 1]!) set.add(doc);
  }
  return set;
}

/** The bucket `[from, to)` a number falls into, the last one closed; -1 = none. */
function bucketOf(edges: readonly number[], number: number): number {
  const last = edges.length - 2;
  if (last < 0 || number < edges[0]! || number > edges[last + 1]!) return -1;
  let low = 0;
  let high = last;
  while (low < high) {
    const middle = (low + high + 1) >>> 1;
    if (edges[middle]! <= number) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Edges at round numbers (1, 2 or 5 times a power of ten apart) from below `min` to above `max`. */
export function evenEdges(min: number, max: number): number[] {
  if (!(max >= min)) return [];
  if (max === min) return [min, min + 1];
  const rough = (max - min) / BUCKETS;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 5, 10].map((factor) => factor * power).find((size) => size >= rough * (1 - 1e-9))!;
  // Multiples of the step, not sums of it: sums would drift away from round numbers.
  const digits = Math.min(20, Math.max(0, -Math.floor(Math.log10(power))));
  const edge = (i: number): number => Number((i * step).toFixed(digits));
  // Division rounds, and so does printing: the outermost edges are checked against what they must hold.
  const below = Math.floor(min / step);
  const above = Math.ceil(max / step);
  const first = edge(below) > min ? below - 1 : below;
  const end = edge(above) < max ? above + 1 : above;
  return Array.from({ length: Math.max(1, end - first) + 1 }, (_, i) => edge(first + i));
}
