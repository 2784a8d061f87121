import { memoByObject } from '../memo/by-object.ts';
import { NO_INT, type NumberColumn } from '../columns/column.ts';

/** A column of numbers by the few that there are: prices, sizes, years. */
export interface NumberRanks {
  /** The different numbers, ascending; of whole ones all between the least and the greatest. */
  numbers: Float64Array;
  /** By document: 1 + the rank of its number among them; 0 = it has none. */
  ranks: Uint16Array;
}

const MOST = 0xfffe;

/** The numbers of a column by rank, worked out once; null when a document may hold several, or there are too many. */
export const numberRanks = memoByObject(makeRanks);

function makeRanks({ docStarts, numbers }: NumberColumn): NumberRanks | null {
  if (docStarts !== null) return null;
  return numbers instanceof Int32Array ? ranksOfWhole(numbers) : ranksOfAny(numbers);
}

function ranksOfWhole(numbers: Int32Array): NumberRanks | null {
  let [least, most] = [Infinity, -Infinity];
  for (let doc = 0; doc < numbers.length; doc++) {
    const number = numbers[doc]!;
    if (number === NO_INT) continue;
    if (number < least) least = number;
    if (number > most) most = number;
  }
  if (most - least >= MOST) return null;
  const all = new Float64Array(most >= least ? most - least + 1 : 0);
  for (let i = 0; i < all.length; i++) all[i] = least + i;
  // Loops: `from` with a function takes a hundred times as long, and the first search of an index waits for it.
  const ranks = new Uint16Array(numbers.length);
  for (let doc = 0; doc < numbers.length; doc++) {
    const number = numbers[doc]!;
    if (number !== NO_INT) ranks[doc] = number - least + 1;
  }
  return { numbers: all, ranks };
}

function ranksOfAny(numbers: Float64Array): NumberRanks | null {
  const different = new Set<number>();
  for (let doc = 0; doc < numbers.length && different.size <= MOST; doc++) {
    if (!Number.isNaN(numbers[doc]!)) different.add(numbers[doc]!);
  }
  if (different.size > MOST) return null;
  const sorted = Float64Array.from(different).sort();
  const rankOf = new Map<number, number>();
  sorted.forEach((number, i) => rankOf.set(number, i + 1));
  const ranks = new Uint16Array(numbers.length);
  for (let doc = 0; doc < numbers.length; doc++) ranks[doc] = rankOf.get(numbers[doc]!) ?? 0;
  return { numbers: sorted, ranks };
}

/** How many documents hold each number, at its rank. */
export function countRanks({ numbers, ranks }: NumberRanks, docs: Uint32Array): Uint32Array {
  const counts = new Uint32Array(numbers.length + 1);
  for (let i = 0; i < docs.length; i++) counts[ranks[docs[i]!]!]!++;
  return counts;
}
