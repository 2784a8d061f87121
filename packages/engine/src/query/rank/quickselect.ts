import { GrowingArray } from '../../bytes/growing-array.ts';
import { inPieces } from './in-pieces.ts';

/** One number in so many is looked at first, when there are many. */
const STRIDE = 64;
const MANY = 20_000;

/**
 * The `rank`-th smallest of some numbers, from 1. What a sample says is a little more than that number parts off the
 * few that can be it, which are then looked at closely: one pass over all numbers, and no copy of them. When the sample
 * says too little, all of them are looked at (Floyd and Rivest, Algorithm 489, 1975, have the idea).
 */
export function smallest(numbers: Float64Array, rank: number): number {
  if (numbers.length > MANY) {
    // A loop: `from` with a function takes a hundred times as long.
    const sample = new Float64Array(Math.floor(numbers.length / STRIDE));
    for (let i = 0; i < sample.length; i++) sample[i] = numbers[i * STRIDE]!;
    const bound = select(sample, Math.min(sample.length, Math.ceil((1.5 * rank) / STRIDE) + 10));
    const few = new GrowingArray(Float64Array);
    inPieces(numbers.length, (from, to) => {
      for (let i = from; i < to; i++) if (numbers[i]! <= bound) few.push(numbers[i]!);
    });
    if (few.length >= rank) return select(few.view(), rank);
  }
  return select(numbers.slice(), rank);
}

/**
 * Quickselect (Hoare, Algorithm 65, 1961) with the middle of three as what parts the rest. Puts the numbers in another
 * order.
 */
function select(numbers: Float64Array, rank: number): number {
  let [low, high] = [0, numbers.length - 1];
  const wanted = rank - 1;
  while (low < high) {
    const [left, right] = part(numbers, low, high, middleOf(numbers, low, high));
    if (wanted <= right) high = right;
    else if (wanted >= left) low = left;
    else break;
  }
  return numbers[wanted]!;
}

/**
 * Puts what is smaller than a number before what is greater; returns where the greater and where the smaller ones begin
 * from.
 */
function part(numbers: Float64Array, low: number, high: number, pivot: number): [left: number, right: number] {
  while (low <= high) {
    while (numbers[low]! < pivot) low++;
    while (numbers[high]! > pivot) high--;
    if (low > high) break;
    const held = numbers[low]!;
    numbers[low++] = numbers[high]!;
    numbers[high--] = held;
  }
  return [low, high];
}

function middleOf(numbers: Float64Array, low: number, high: number): number {
  const [a, b, c] = [numbers[low]!, numbers[(low + high) >>> 1]!, numbers[high]!];
  return a < b ? (b < c ? b : Math.max(a, c)) : a < c ? a : Math.max(b, c);
}
