import { memoByName } from '../../memo/by-object.ts';
import type { Generation } from '../../segment/generation.ts';
import type { Segment } from '../../segment/segment.ts';
import { endWord, findNode, findWord, firstWord, wordAt } from '../../segment/trie.ts';
import { eachEndingWith } from '../../segment/word-ends.ts';
import { beginsCompound, endsCompound, LEAST_COMPOUND, LEAST_PART } from '../../text/compounds.ts';

/** Words remembered for each state of a collection. */
const MOST_KEPT = 1_000;
const LETTERS = /^\p{L}+$/u;

type Visit = (segment: Segment, word: string, visit: (whole: string) => void) => void;

/**
 * The words of a collection of which one word is a part, while the rest are words that the collection holds as well. No
 * list of words comes with the engine.
 */
const wholesOf = (each: Visit, isRest: (whole: string, word: string, isWord: (text: string) => boolean) => boolean) =>
  memoByName<Generation, readonly string[]>((generation, word) => {
    if (word.length < LEAST_PART || !LETTERS.test(word)) return [];
    const segments = generation.segments.map(({ segment }) => segment);
    const known = new Map<string, boolean>();
    const isWord = (text: string): boolean => {
      let isKnown = known.get(text);
      if (isKnown === undefined) known.set(text, (isKnown = segments.some(({ trie }) => findWord(trie, text) !== -1)));
      return isKnown;
    };
    const found = new Set<string>();
    for (const segment of segments)
      each(segment, word, (whole) => {
        if (isRest(whole, word, isWord)) found.add(whole);
      });
    return [...found];
  }, MOST_KEPT);

/** Compounds that a word ends: `schere` ends `gartenschere` where `garten` stands somewhere. */
export const compoundsEndingWith = wholesOf(eachEndingWith, (whole, word, isWord) =>
  beginsCompound(whole.slice(0, -word.length), isWord),
);

/** Compounds that a word begins. */
export const compoundsBeginningWith = wholesOf(eachBeginningWith, (whole, word, isWord) =>
  endsCompound(whole.slice(word.length), isWord),
);

function eachBeginningWith({ trie }: Segment, beginning: string, visit: (word: string) => void): void {
  const node = findNode(trie, beginning);
  if (node <= 0) return;
  for (let term = firstWord(trie, node); term < endWord(trie, node); term++) {
    const word = wordAt(trie, term);
    if (word.length >= LEAST_COMPOUND && word.length > beginning.length && LETTERS.test(word)) visit(word);
  }
}
