import { LIMITS, type TypoRules } from '@yucca/contract';
import { words } from '../text/words.ts';

/** One word of a query and how far a word of the data may be from it. */
export interface QueryWord {
  /** Folded. */
  text: string;
  /** As typed. */
  typed: string;
  /** Whether it may be the beginning of a longer word. */
  prefix: boolean;
  /** Typos allowed: 0, 1 or 2. */
  typos: 0 | 1 | 2;
}

export interface ParsedQuery {
  words: QueryWord[];
  /** Words past the limit, as typed: ignored, and said so. */
  dropped: string[];
}

/**
 * Reads what a person typed. The last word counts as unfinished while nothing follows it: "red ro" looks for words that
 * begin with `ro`, "red ro " does not.
 */
export function parseQuery(q: string, typos: TypoRules): ParsedQuery {
  const found = words(q);
  const exactWords = new Set(typos.exactWords.flatMap((word) => words(word).map(({ text }) => text)));
  return {
    words: found.slice(0, LIMITS.queryWords).map(({ text, start, end }) => ({
      text,
      typed: q.slice(start, end),
      prefix: end === q.length,
      typos: exactWords.has(text) ? 0 : typosAllowed(text, typos),
    })),
    dropped: found.slice(LIMITS.queryWords).map(({ start, end }) => q.slice(start, end)),
  };
}

/** How many typos a word may hold: the longer it is, the more. */
export function typosAllowed(word: string, rules: TypoRules): 0 | 1 | 2 {
  if (!rules.enabled || (!rules.numbers && /\p{N}/u.test(word))) return 0;
  const letters = [...word].length;
  if (letters >= rules.twoFrom) return 2;
  return letters >= rules.oneFrom ? 1 : 0;
}
