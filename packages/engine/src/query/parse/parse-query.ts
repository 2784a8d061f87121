import { LIMITS, type Tuning, type TypoRules } from '@yucca/contract';
import { memoByObject } from '../../memo/by-object.ts';
import { IGNORED, JOINERS } from '../../text/fold.ts';
import { languagesOf } from '../../text/languages.ts';
import { phraseWords, wholeWords } from '../../text/tokens.ts';
import { words, type Word } from '../../text/words.ts';
import { otherWritings, type Writing } from './other-writings.ts';

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
  /** Other ways to write it. */
  writings: readonly Writing[];
}

export interface ParsedQuery {
  words: QueryWord[];
  /** What no result may hold as written: phrases, of one word too. */
  excluded: QueryWord[];
  /** Words and phrases past the limits, as typed: ignored, and said so. */
  dropped: string[];
  /** The words of all that is not excluded, as those of a value are: what a value is compared with. */
  whole: string[];
  /** Something was typed, and there is no word in it, nor a sign that could be found. */
  isWordless: boolean;
}

/** What is typed on the way to a phrase, or to a word that shall not be there. */
const NOTHING_YET = /^[\s"“”„-]*$/;
/** What may follow the last word while it is being typed: `м'` on the way to `м'ята`, a joiner within a family. */
const GOES_ON = new RegExp(`^[${JOINERS}]?${IGNORED.source}*$`);

/** More signs that cannot be seen are not looked at. */
const MOST_AFTER = 3;

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
  const blank = (part: string): string => ' '.repeat(part.length);
  let rest = q.replace(QUOTED, (part: string, before: string, minus: string, inside: string, offset: number) => {
    const phrase = phraseWords(inside);
    if (phrase.length > 0 && minus !== '') excluded.push(phraseWord(phrase, part.trim()));
    else if (phrase.length > 0) pieces.push({ word: phraseWord(phrase, part.trim()), start: offset + before.length });
    return blank(part);
  });
  rest = rest.replace(MINUS, (part: string, _before: string, word: string) => {
    const taken = phraseWords(word);
    if (taken.length > 0) excluded.push(phraseWord(taken, part.trim()));
    return blank(part);
  });
  const rules = rulesOf(tuning);
  const plain = words(rest);
  for (const word of plain) pieces.push({ word: plainWord(word, q, tuning, rules), start: word.start });
  pieces.sort((a, b) => a.start - b.start);
  const asked = limited(
    pieces.map(({ word }) => word),
    excluded,
  );
  const isWordless = pieces.length === 0 && excluded.length === 0 && !NOTHING_YET.test(q);
  const isPlain = pieces.length === plain.length && excluded.length === 0 && plain.every(({ letters }) => !letters);
  const whole = isPlain ? plain.map(({ text }) => text) : wholeWords(withoutSyntax(q));
  return { ...asked, whole, isWordless };
}

/** What is asked for, without its quotation marks and without what is excluded. */
function withoutSyntax(q: string): string {
  return q
    .replace(QUOTED, (_part, before: string, minus: string, inside: string) =>
      minus === '' ? `${before} ${inside} ` : ' ',
    )
    .replace(MINUS, ' ');
}

interface FoldedRules {
  exactWords: ReadonlySet<string>;
  stopWords: ReadonlySet<string>;
}

const rulesOf = memoByObject(({ typos, stopWords }: Tuning): FoldedRules => {
  const fold = (list: readonly string[]) => new Set(list.flatMap((word) => words(word).map(({ text }) => text)));
  return { exactWords: fold(typos.exactWords), stopWords: fold(stopWords) };
});

function phraseWord(phrase: string[], typed: string): QueryWord {
  return { text: phrase.join(' '), typed, prefix: false, typos: 0, phrase, optional: false, writings: [] };
}

function plainWord(word: Word, q: string, tuning: Tuning, { exactWords, stopWords }: FoldedRules): QueryWord {
  const { text, start, end, letters } = word;
  const { typos } = tuning;
  const rule = tuning.words.prefix;
  const typed = q.slice(start, end);
  const isBeginning =
    rule === 'all' ||
    (rule === 'last' && (end === q.length || (q.length - end <= MOST_AFTER && GOES_ON.test(q.slice(end)))));
  return {
    text,
    typed,
    // A letter of a run without spaces begins every pair that it stands in.
    prefix: isBeginning || letters?.length === 1,
    typos: exactWords.has(text) ? 0 : typosAllowed(text, typos),
    phrase: null,
    optional: stopWords.has(text),
    writings: otherWritings(word, typed, isBeginning, languagesOf(tuning)),
  };
}

/**
 * Holds the query to the limits of words, those of phrases counted, and of phrases, each of which may mean reading most
 * of all documents; says what was left out. Excluded words have the same limit of their own; of phrases there is but
 * one.
 */
function limited(
  all: readonly QueryWord[],
  allExcluded: readonly QueryWord[],
): Omit<ParsedQuery, 'whole' | 'isWordless'> {
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

/** Signs have no misspellings. */
const isSign = (word: string): boolean => (word.charCodeAt(0) < 128 ? word === '$' : !/[\p{L}\p{N}]/u.test(word));

const DIGITS = /\p{N}/u;
const SURROGATE = /[\ud800-\udfff]/;

/** How many typos a word may hold: the longer it is, the more. */
export function typosAllowed(word: string, rules: TypoRules): 0 | 1 | 2 {
  if (!rules.enabled || isSign(word) || (!rules.numbers && DIGITS.test(word))) return 0;
  const letters = SURROGATE.test(word) ? [...word].length : word.length;
  if (letters >= rules.twoFrom) return 2;
  return letters >= rules.oneFrom ? 1 : 0;
}
