import { eachNumber, NO_INT, type NumberColumn, type ValueColumn } from '../columns/column.ts';
import type { DocSet } from '../sets/doc-set.ts';
import type { Range } from './value-test.ts';

/*
 * Going through a column once, for a set of documents. The loops make 32 bits at a time and decide without branches:
 * which documents pass is a coin toss for the machine, and guessing wrong costs it more than both comparisons. That
 * took a million documents from 10 ms to 3.
 */

/** Adds the documents that hold a flagged value. */
export function addFlagged(column: ValueColumn, docs: number, flags: Uint8Array, { bits }: DocSet): void {
  const { docStarts, docValues } = column;
  if (docStarts !== null) {
    for (let doc = 0; doc < docs; doc++) {
      let passes = 0;
      for (let at = docStarts[doc]!, end = docStarts[doc + 1]!; at < end; at++) passes |= flags[docValues[at]!]!;
      bits[doc >>> 5]! |= passes << (doc & 31);
    }
    return;
  }
  // A document without a value has 0, so the flag of value 0 stands at 1.
  const shifted = new Uint8Array(flags.length + 1);
  shifted.set(flags, 1);
  const whole = docs & ~31;
  for (let doc = 0; doc < whole; doc += 32) {
    let found = 0;
    for (let bit = 0; bit < 32; bit += 4) {
      const at = doc + bit;
      const four =
        shifted[docValues[at]!]! |
        (shifted[docValues[at + 1]!]! << 1) |
        (shifted[docValues[at + 2]!]! << 2) |
        (shifted[docValues[at + 3]!]! << 3);
      found |= four << bit;
    }
    bits[doc >>> 5]! |= found;
  }
  for (let doc = whole; doc < docs; doc++) bits[doc >>> 5]! |= shifted[docValues[doc]!]! << (doc & 31);
}

/** Adds the documents that hold a number in one of some ranges. */
export function addInRanges(column: NumberColumn, docs: number, ranges: Ranges, { bits }: DocSet): void {
  const { docStarts, numbers } = column;
  if (docStarts !== null) {
    for (let doc = 0; doc < docs; doc++) {
      eachNumber(column, doc, (number) => (bits[doc >>> 5]! |= ranges.has(number) << (doc & 31)));
    }
    return;
  }
  // NaN, which stands for no number, is in no range; its counterpart of whole numbers has to be kept out.
  const least = numbers instanceof Int32Array ? NO_INT + 1 : -Infinity;
  if (ranges.single !== null) {
    addInRange(numbers, docs, Math.max(ranges.single.from, least), ranges.single.to, bits);
    return;
  }
  if (numbers instanceof Int32Array && ranges.whole !== null) {
    addInTable(numbers, docs, ranges.whole, bits);
    return;
  }
  for (let doc = 0; doc < docs; doc++) {
    const number = numbers[doc]!;
    if (ranges.mayHold(number)) bits[doc >>> 5]! |= (Number(number >= least) & ranges.has(number)) << (doc & 31);
  }
}

function addInTable(numbers: Int32Array, docs: number, { first, flags }: WholeTable, bits: Uint32Array): void {
  const last = flags.length - 1;
  for (let doc = 0; doc < docs; doc++) {
    const number = numbers[doc]!;
    const flag = flags[Math.min(Math.max(number - first, 0), last)]!;
    bits[doc >>> 5]! |= (Number(number !== NO_INT) & flag) << (doc & 31);
  }
}

function addInRange(numbers: NumberColumn['numbers'], docs: number, from: number, to: number, bits: Uint32Array): void {
  const whole = docs & ~31;
  for (let doc = 0; doc < whole; doc += 32) {
    let found = 0;
    for (let bit = 0; bit < 32; bit += 2) {
      const [one, other] = [numbers[doc + bit]!, numbers[doc + bit + 1]!];
      const first = Number(one >= from) & Number(one <= to);
      const second = Number(other >= from) & Number(other <= to);
      found |= (first | (second << 1)) << bit;
    }
    bits[doc >>> 5]! |= found;
  }
  for (let doc = whole; doc < docs; doc++) {
    bits[doc >>> 5]! |= (Number(numbers[doc]! >= from) & Number(numbers[doc]! <= to)) << (doc & 31);
  }
}

const SLOTS = 16_384;
/** Ranges within one slot up to which all of them are tried. */
const FEW = 4;

/**
 * For each whole number from one to another whether it is in some range; the first and last stand for all beyond them.
 */
interface WholeTable {
  first: number;
  flags: Uint8Array;
}

/** Whole numbers that are put into a table. */
const MOST_WHOLE = 65_536;

function wholeTable(ranges: readonly Range[], least: number, most: number): WholeTable | null {
  const width = most - least;
  if (!(width >= 0 && width <= MOST_WHOLE)) return null;
  const first = Math.floor(least) - 1;
  const flags = new Uint8Array(Math.ceil(most) + 2 - first);
  for (const { from, to } of ranges) {
    flags.fill(1, Math.max(Math.ceil(from) - first, 0), Math.min(Math.floor(to) - first + 1, flags.length));
  }
  return { first, flags };
}

/** Ranges to ask whether a number is in one of them: slots of equal width lead to the few that can hold it. */
export class Ranges {
  /** What one number takes, in nanoseconds. */
  readonly ns: number;
  /** The range, when there is one alone. */
  readonly single: Range | null;
  /** What decides on whole numbers, when the ends lie close together. */
  readonly whole: WholeTable | null;
  readonly #froms: Float64Array;
  readonly #tos: Float64Array;
  readonly #least: number;
  readonly #scale: number;
  /** For each slot the first range that reaches into it or stands after it. */
  readonly #firsts = new Uint16Array(SLOTS + 1);
  /** For each slot whether any range reaches into it. */
  readonly #reached = new Uint8Array(SLOTS + 1);
  readonly #most: number;

  /** Ascending and apart from each other. */
  constructor(ranges: readonly Range[]) {
    this.single = ranges.length === 1 ? ranges[0]! : null;
    // Behind the last ones no number is in, so that trying some more needs no question.
    const padded = [...ranges, ...Array.from({ length: FEW }, () => ({ from: Infinity, to: -Infinity }))];
    this.#froms = Float64Array.from(padded, ({ from }) => from);
    this.#tos = Float64Array.from(padded, ({ to }) => to);
    const ends = ranges.flatMap(({ from, to }) => [from, to]).filter(Number.isFinite);
    this.#least = Math.min(...ends);
    const width = Math.max(...ends) - this.#least;
    this.whole = ranges.length > 1 ? wholeTable(ranges, this.#least, Math.max(...ends)) : null;
    this.#scale = width > 0 && Number.isFinite(width) ? (SLOTS - 2) / width : 0;
    // A single one stands in every slot.
    this.#most = this.single === null ? this.#fill(ranges) : 1;
    this.ns = this.single !== null ? 4 : this.#most <= FEW ? 20 : 10 * Math.log2(ranges.length + 1);
  }

  /** Sets where each slot begins; returns the most ranges that reach into one. */
  #fill(ranges: readonly Range[]): number {
    let most = 0;
    let first = 0;
    let last = 0;
    for (let slot = 0; slot <= SLOTS; slot++) {
      while (first < ranges.length && this.#slotOf(ranges[first]!.to) < slot) first++;
      while (last < ranges.length && this.#slotOf(ranges[last]!.from) <= slot) last++;
      this.#firsts[slot] = first;
      this.#reached[slot] = last > first ? 1 : 0;
      most = Math.max(most, last - first);
    }
    return most;
  }

  /** The first slot is for what lies below all ends; without a width there is no other. */
  #slotOf(number: number): number {
    if (this.#scale === 0) return 0;
    return Math.min(Math.max((number - this.#least) * this.#scale + 1, 0), SLOTS) | 0;
  }

  /** Whether a number lies in a slot that some range reaches into: of a list of numbers, few do. */
  mayHold(number: number): boolean {
    return this.#reached[this.#slotOf(number)] === 1;
  }

  /** 1 when a number is in one of the ranges, else 0. */
  has(number: number): number {
    const froms = this.#froms;
    const tos = this.#tos;
    if (this.#most <= FEW) {
      const first = this.#firsts[this.#slotOf(number)]!;
      let found = 0;
      for (let i = first; i < first + this.#most; i++) found |= Number(number >= froms[i]!) & Number(number <= tos[i]!);
      return found;
    }
    let low = 0;
    let high = tos.length - FEW;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (tos[middle]! < number) low = middle + 1;
      else high = middle;
    }
    return Number(number >= froms[low]!) & Number(number <= tos[low]!);
  }
}
