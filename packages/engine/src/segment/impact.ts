/**
 * Impact classes: how well a word stands in a field, whatever the tuning: how near the start, and in how short a text.
 * The postings of a frequent word are kept in the order of their classes, so that ranking can begin with the documents
 * that may score best and stop long before the end (see query/rank/threshold.ts).
 */

/** The least position, and the fewest words, of each step. */
export const POSITION_STEPS = [0, 1, 2, 4, 8] as const;
export const LENGTH_STEPS = [1, 2, 3, 5, 7, 9, 13, 25] as const;
export const CLASSES = POSITION_STEPS.length * LENGTH_STEPS.length;

/** Groups with fewer postings are not parted: they are gone through at once. */
export const PARTED_FROM = 128;

const stepOf = (steps: readonly number[], value: number): number => {
  let step = 0;
  while (step + 1 < steps.length && steps[step + 1]! <= value) step++;
  return step;
};

const POSITIONS = Uint8Array.from({ length: 1024 }, (_, position) => stepOf(POSITION_STEPS, position));
const LENGTHS = Uint8Array.from({ length: 256 }, (_, words) => stepOf(LENGTH_STEPS, Math.max(1, words)));

/** The step a position belongs to. */
export const positionStep = (position: number): number => POSITIONS[position]!;

/** The step a number of words belongs to. */
export const lengthStep = (words: number): number => LENGTHS[Math.min(words, 255)]!;

/** The class of a word at a position of a field that holds so many words. */
export function impactClass(position: number, fieldWords: number): number {
  return POSITIONS[position]! * LENGTH_STEPS.length + LENGTHS[fieldWords]!;
}

/** The best position and the shortest text of a class. */
export function bestOfClass(impact: number): { position: number; words: number } {
  return {
    position: POSITION_STEPS[Math.floor(impact / LENGTH_STEPS.length)]!,
    words: LENGTH_STEPS[impact % LENGTH_STEPS.length]!,
  };
}
