import type { Tuning, TypoExample, TypoExamples } from '@yucca/contract';
import type { Segment } from '../segment/segment.ts';
import { wordAt } from '../segment/trie.ts';
import { words } from '../text/words.ts';
import { typosAllowed } from './parse/parse-query.ts';
import type { Generation } from '../segment/generation.ts';
import { walkTypos } from './match/typo-walk.ts';

/** Words tried: the most common ones of the data are what is typed most. */
const TRIED = 400;
const LEAST_LETTERS = 3;

/**
 * What a change of the typo rules lets in and keeps out: for each of the most common words of the data, the other words
 * it is taken for under one tuning and not under the other. Those that bring the most records come first. Takes some 20
 * µs for each word tried and thousand words of the dictionary, so it is for a bench and not for a keystroke.
 */
export function typoExamples({ segments }: Generation, before: Tuning, after: Tuning, most = 6): TypoExamples {
  const largest = segments.reduce<Segment | null>(
    (best, { segment }) => (best === null || segment.docs > best.docs ? segment : best),
    null,
  );
  const none: TypoExamples = { tried: 0, gained: [], lost: [], gainedCount: 0, lostCount: 0 };
  if (largest === null || JSON.stringify(before.typos) === JSON.stringify(after.typos)) return none;
  const leftOut = stopWordsOf(after);
  const tried = commonWords(largest, leftOut);
  const gained: Pair[] = [];
  const lost: Pair[] = [];
  for (const typed of tried) {
    const [old, now] = [readAs(largest, typed, before), readAs(largest, typed, after)];
    for (const [term, typos] of now) if (!old.has(term)) gained.push({ typed, term, typos });
    for (const [term, typos] of old) if (!now.has(term)) lost.push({ typed, term, typos });
  }
  return {
    tried: tried.length,
    gained: mostFrequent(largest, gained, most, leftOut),
    lost: mostFrequent(largest, lost, most, leftOut),
    gainedCount: gained.length,
    lostCount: lost.length,
  };
}

/** A word that is typed, and the number of one it is taken for. */
interface Pair {
  typed: string;
  term: number;
  typos: number;
}

const postings = (segment: Segment, term: number): number => segment.postStart(term + 1) - segment.postStart(term);

const stopWordsOf = ({ stopWords }: Tuning): ReadonlySet<string> =>
  new Set(stopWords.flatMap((one) => words(one).map(({ text }) => text)));

function commonWords(segment: Segment, leftOut: ReadonlySet<string>): string[] {
  const terms = Array.from({ length: segment.meta.terms }, (_, term) => term);
  terms.sort((a, b) => postings(segment, b) - postings(segment, a));
  const found: string[] = [];
  for (const term of terms) {
    if (found.length === TRIED) break;
    const word = wordAt(segment.trie, term);
    if (word.length >= LEAST_LETTERS && !leftOut.has(word)) found.push(word);
  }
  return found;
}

/** The words a finished word is taken for with a typo, by their number, and how many typos that takes. */
function readAs(segment: Segment, typed: string, { typos: rules }: Tuning): Map<number, number> {
  const exact = new Set(rules.exactWords.flatMap((one) => words(one).map(({ text }) => text)));
  const maxTypos = exact.has(typed) ? 0 : typosAllowed(typed, rules);
  const found = new Map<number, number>();
  if (maxTypos === 0) return found;
  walkTypos(segment.trie, typed, { maxTypos, prefix: false, firstLetter: rules.firstLetter }, ({ from, to, typos }) => {
    for (let term = from; term < to && typos > 0; term++) found.set(term, typos);
  });
  return found;
}

function recordsOf(segment: Segment, term: number): number {
  // A record that holds a word in two fields stands there twice.
  return new Set(segment.postDocs.subarray(segment.postStart(term), segment.postStart(term + 1))).size;
}

/** The pairs that bring the most, each word in one of them. */
function mostFrequent(
  segment: Segment,
  all: readonly Pair[],
  most: number,
  leftOut: ReadonlySet<string>,
): TypoExample[] {
  const sorted = [...all].sort((a, b) => postings(segment, b.term) - postings(segment, a.term));
  const seen = new Set(leftOut);
  const found: TypoExample[] = [];
  for (const { typed, term, typos } of sorted) {
    const as = wordAt(segment.trie, term);
    if (seen.has(typed) || seen.has(as)) continue;
    seen.add(typed).add(as);
    found.push({ typed, as, typos, records: recordsOf(segment, term) });
    if (found.length === most) break;
  }
  return found;
}
