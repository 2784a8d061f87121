import { LIMITS, type Tuning, type TypoRules } from '@yucca/contract';
import { words, type Word } from '../../text/words.ts';

/** One word of a query, or a quoted phrase, and how far the data may be from it. */
export interface QueryWord {
  /** Folded; of a phrase, its words with a space between them. */
  text: string;
  /** As typed. */
  typed: string;
  /** Whether it may be the beginning of a longer word. */
  prefix: boolean;
  /** Typos allowed: 0, 1 or 2. */
  typos: 0 | 1 | 2;
  /** The words of a quoted phrase: they must stand together, as written. */
  phrase: string[] | null;
  /** A stop word: a record may lack it. */
  optional: boolean;
}

export interface ParsedQuery {
  words: QueryWord[];
  /** What no result may hold as written: phrases, of one word too. */
  excluded: QueryWord[];
  /** Words and phrases past the limits, as typed: ignored, and said so. */
  dropped: string[];
}

/** A quoted part, with a minus or without; or a minus before a word. Everything else is plain words. */
const QUOTED = /(^|\s)(-?)["“”„]([^"“”„]*)["“”„]/g;
const MINUS = /(^|\s)-(?=[\p{L}\p{N}])(\S+)/gu;

/**
 * Reads what a person typed. The last word counts as unfinished while nothing follows it: "red ro" looks for words that
 * begin with `ro`, "red ro " does not. A quotation mark that is not closed yet is no quotation mark.
 */
export function parseQuery(q: string, tuning: Tuning): ParsedQuery {
  const excluded: QueryWord[] = [];
  const pieces: { word: QueryWord; start: number }[] = [];
  const take = (text: string): string[] => words(text).map((word) => word.text);
  const blank = (part: string): string => ' '.repeat(part.length);
  let rest = q.replace(QUOTED, (part: string, before: string, minus: string, inside: string, offset: number) => {
    const phrase = take(inside);
    if (phrase.length > 0 && minus !== '') excluded.push(phraseWord(phrase, part.trim()));
    else if (phrase.length > 0) pieces.push({ word: phraseWord(phrase, part.trim()), start: offset + before.length });
    return blank(part);
  });
  rest = rest.replace(MINUS, (part: string, _before: string, word: string) => {
    const taken = take(word);
    if (taken.length > 0) excluded.push(phraseWord(taken, part.trim()));
    return blank(part);
  });
  const rules = rulesOf(tuning);
  for (const word of words(rest)) pieces.push({ word: plainWord(word, q, tuning, rules), start: word.start });
  pieces.sort((a, b) => a.start - b.start);
  return limited(
    pieces.map(({ word }) => word),
    excluded,
  );
}

interface FoldedRules {
  exactWords: ReadonlySet<string>;
  stopWords: ReadonlySet<string>;
}

const known = new WeakMap<Tuning, FoldedRules>();

function rulesOf(tuning: Tuning): FoldedRules {
  let rules = known.get(tuning);
  if (rules === undefined) {
    const fold = (list: readonly string[]) => new Set(list.flatMap((word) => words(word).map(({ text }) => text)));
    known.set(tuning, (rules = { exactWords: fold(tuning.typos.exactWords), stopWords: fold(tuning.stopWords) }));
  }
  return rules;
}

function phraseWord(phrase: string[], typed: string): QueryWord {
  return { text: phrase.join(' '), typed, prefix: false, typos: 0, phrase, optional: false };
}

function plainWord(
  { text, start, end }: Word,
  q: string,
  { typos, words: { prefix } }: Tuning,
  { exactWords, stopWords }: FoldedRules,
): QueryWord {
  return {
    text,
    typed: q.slice(start, end),
    prefix: prefix === 'all' || (prefix === 'last' && end === q.length),
    typos: exactWords.has(text) ? 0 : typosAllowed(text, typos),
    phrase: null,
    optional: stopWords.has(text),
  };
}

/**
 * Holds the query to the limits of words, those of phrases counted, and of phrases, each of which may mean reading most of
 * all documents; says what was left out. Excluded words have the same limit of their own; of phrases there is but one.
 */
function limited(all: readonly QueryWord[], allExcluded: readonly QueryWord[]): ParsedQuery {
  const [words, leftOut] = within(all, LIMITS.queryPhrases);
  const phrases = words.filter(isPhrase).length;
  const [excluded, leftIn] = within(allExcluded, LIMITS.queryPhrases - phrases);
  // With nothing but stop words, they are what is meant.
  if (words.every(({ optional }) => optional)) words.forEach((word) => (word.optional = false));
  return { words, excluded, dropped: [...leftOut, ...leftIn].map(({ typed }) => typed) };
}

const isPhrase = ({ phrase }: QueryWord): boolean => phrase !== null && phrase.length > 1;

/** The first of some words and phrases that the limits allow, and the rest. */
function within(all: readonly QueryWord[], mostPhrases: number): [kept: QueryWord[], left: QueryWord[]] {
  let [words, phrases] = [0, 0];
  const kept: QueryWord[] = [];
  const left: QueryWord[] = [];
  for (const one of all) {
    const count = one.phrase?.length ?? 1;
    const fits = words + count <= LIMITS.queryWords && (!isPhrase(one) || phrases < mostPhrases);
    if (fits) {
      words += count;
      if (isPhrase(one)) phrases++;
    }
    (fits ? kept : left).push(one);
  }
  return [kept, left];
}

/** How many typos a word may hold: the longer it is, the more. */
export function typosAllowed(word: string, rules: TypoRules): 0 | 1 | 2 {
  if (!rules.enabled || (!rules.numbers && /\p{N}/u.test(word))) return 0;
  const letters = [...word].length;
  if (letters >= rules.twoFrom) return 2;
  return letters >= rules.oneFrom ? 1 : 0;
}
