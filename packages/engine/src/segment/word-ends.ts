import type { Segment } from './segment.ts';
import { wordAt } from './trie.ts';

/** Long words of letters alone: what may be a compound. */
const MAY_BE = /^\p{L}+$/u;

const reversed = (word: string): string => [...word].reverse().join('');

/** The words of a dictionary with so many letters at least, by their letters from the last to the first. */
export function orderByEnds(sorted: readonly string[], least: number): Uint32Array {
  const long = sorted.flatMap((word, term) =>
    word.length >= least && MAY_BE.test(word) ? [{ term, back: reversed(word) }] : [],
  );
  long.sort((a, b) => (a.back < b.back ? -1 : 1));
  return Uint32Array.from(long, ({ term }) => term);
}

/** Visits the words of a segment that end with some letters, and are longer. Two binary searches and what is found. */
export function eachEndingWith({ trie, wordEnds }: Segment, ending: string, visit: (word: string) => void): void {
  const back = reversed(ending);
  const at = (i: number): string => reversed(wordAt(trie, wordEnds[i]!));
  let [low, high] = [0, wordEnds.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (at(middle) < back) low = middle + 1;
    else high = middle;
  }
  for (let i = low; i < wordEnds.length; i++) {
    const word = wordAt(trie, wordEnds[i]!);
    if (!word.endsWith(ending)) return;
    if (word.length > ending.length) visit(word);
  }
}
