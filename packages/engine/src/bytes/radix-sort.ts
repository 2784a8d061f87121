import { room } from './room.ts';

const DIGIT_BITS = 11;
const DIGITS = 1 << DIGIT_BITS;

/**
 * The order of rows by some columns of numbers of 32 bits, the first column counting most; rows that are alike keep
 * theirs. A radix sort from the least digit (Knuth, TAOCP 3, 5.2.5): three passes a column, whatever the numbers.
 */
export function orderBy(columns: readonly Uint32Array[]): Uint32Array {
  const rows = columns[0]!.length;
  let from = room(Uint32Array, rows);
  for (let row = 0; row < rows; row++) from[row] = row;
  let to = room(Uint32Array, rows);
  for (const column of [...columns].reverse()) {
    for (let shift = 0; shift < 32; shift += DIGIT_BITS) {
      const starts = new Uint32Array(DIGITS + 1);
      for (let row = 0; row < rows; row++) starts[((column[row]! >>> shift) & (DIGITS - 1)) + 1]!++;
      // All alike: behind the end of short words, say.
      if (starts.includes(rows)) continue;
      for (let digit = 0; digit < DIGITS; digit++) starts[digit + 1]! += starts[digit]!;
      for (let i = 0; i < rows; i++) {
        const row = from[i]!;
        to[starts[(column[row]! >>> shift) & (DIGITS - 1)]!++] = row;
      }
      [from, to] = [to, from];
    }
  }
  return from;
}
