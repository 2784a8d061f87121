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
  const size = most >= least ? most - least + 1 : 0;
  return {
    numbers: Float64Array.from({ length: size }, (_, i) => least + i),
    ranks: Uint16Array.from(numbers, (number) => (number === NO_INT ? 0 : number - least + 1)),
  };
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
  return { numbers: sorted, ranks: Uint16Array.from(numbers, (number) => rankOf.get(number) ?? 0) };
}

/** How many documents hold each number, at its rank. */
export function countRanks({ numbers, ranks }: NumberRanks, docs: Uint32Array): Uint32Array {
  const counts = new Uint32Array(numbers.length + 1);
  for (let i = 0; i < docs.length; i++) counts[ranks[docs[i]!]!]!++;
  return counts;
}
