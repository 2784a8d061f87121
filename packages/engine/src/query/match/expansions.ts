import type { MatchKind, Tuning } from '@yucca/contract';
import type { Generation } from '../../segment/generation.ts';
import type { Segment } from '../../segment/segment.ts';
import { compoundLanguages } from '../../text/compounds.ts';
import { compoundsBeginningWith, compoundsEndingWith } from './compounds.ts';
import { endsWord, endWord, findNode, findWord, firstWord } from '../../segment/trie.ts';
import { splitAtDigits } from '../../text/tokens.ts';
import { languagesOf, only, type OnlyIn } from '../../text/languages.ts';
import { stemmerFor } from '../../text/stem.ts';
import type { FieldWeights } from './field-weights.ts';
import type { QueryWord } from '../parse/parse-query.ts';
import { findTogether, MOST_FOR_SPLIT, mostTogether, type Occurrences } from './phrase.ts';
import { synonymSpans } from '../parse/synonyms.ts';
import { walkTypos } from './typo-walk.ts';

/** One way to read a query word in one segment: words of the dictionary `[from, to)`, or locations found by hand. */
export interface Expansion {
  how: MatchKind;
  typos: number;
  /** The whole word matches, not only its beginning. */
  whole: boolean;
  /** Letters that were typed of it: what a beginning is measured by. */
  letters: number;
  from: number;
  to: number;
  /** Places of several words that stand together, in place of dictionary words. */
  together: Occurrences | null;
  /** What is read, when it is one thing: for explanations. */
  text: string | null;
  /** The letters that match are the last ones of the word, and not the first. */
  isEnd?: boolean;
  /** A number in `languagesOf`: it is one in texts of this language alone. Of single words only. */
  language?: number;
}

/** What a word may also be, whatever the segment: several words of the query as one, one as several, synonyms. */
export interface Alternative {
  how: 'synonym' | 'joined' | 'split' | 'stem' | 'compound';
  words: string[];
  /** joined: the rest of a longer word may follow. */
  prefix: boolean;
  /** split: the last one tried, though the word falls apart in further ways. */
  isCapped?: boolean;
  /** compound: which letters of it were typed. */
  part?: { letters: number; isEnd: boolean };
  /** As of an Expansion. */
  language?: number;
}

/** Splits tried for one word: names and compounds have few, and short words would fall apart into anything. */
const MOST_SPLITS = 8;
const LEAST_PART = 2;
const LONGEST_JOIN = 3;

/** For each word of the query, what else it may be. */
export function alternativesFor(query: readonly QueryWord[], tuning: Tuning, generation: Generation): Alternative[][] {
  const segments = generation.segments.map(({ segment }) => segment);
  const alternatives: Alternative[][] = query.map(() => []);
  const plain = query.map(({ text, phrase }) => (phrase === null ? text : null));
  for (const { from, to, as } of synonymSpans(tuning, plain)) {
    for (let i = from; i < to; i++) alternatives[i]!.push({ how: 'synonym', words: as, prefix: false });
  }
  for (let from = 0; from < query.length; from++) {
    for (let to = from + 2; to <= Math.min(query.length, from + LONGEST_JOIN); to++) {
      const parts = plain.slice(from, to);
      if (parts.includes(null)) break;
      const joined: Alternative = { how: 'joined', words: [parts.join('')], prefix: query[to - 1]!.prefix };
      for (let i = from; i < to; i++) alternatives[i]!.push(joined);
    }
  }
  query.forEach(({ writings }, i) => alternatives[i]!.push(...writings));
  const languages = languagesOf(tuning);
  for (const number of tuning.compounds ? compoundLanguages(languages) : []) {
    const language = only(number, languages);
    query.forEach(({ text, phrase, prefix }, i) => {
      if (phrase === null)
        alternatives[i]!.push(...compoundsWith(generation, text, prefix).map((one) => ({ ...one, ...language })));
    });
  }
  plain.forEach((text, i) => {
    if (text !== null) alternatives[i]!.push(...splitsOf(text, segments));
  });
  return alternatives;
}

/** Words that a word is a part of. An unfinished one finds what it begins as a beginning. */
function compoundsWith(generation: Generation, text: string, isUnfinished: boolean): Alternative[] {
  const asPart =
    (isEnd: boolean) =>
    (word: string): Alternative => ({
      how: 'compound',
      words: [word],
      prefix: false,
      part: { letters: text.length, isEnd },
    });
  const begun = isUnfinished ? [] : compoundsBeginningWith(generation, text);
  return [...begun.map(asPart(false)), ...compoundsEndingWith(generation, text).map(asPart(true))];
}

/** Two words that were run together; only when nobody wrote them as one. And codes, where letters meet digits. */
function splitsOf(text: string, segments: readonly Segment[]): Alternative[] {
  const parts = splitAtDigits(text);
  const splits: Alternative[] =
    parts.length > 1 && parts.length <= 4 ? [{ how: 'split', words: parts, prefix: false }] : [];
  if (text.length < 2 * LEAST_PART || segments.some(({ trie }) => findWord(trie, text) !== -1)) return splits;
  for (let at = LEAST_PART; at <= text.length - LEAST_PART; at++) {
    const pair = [text.slice(0, at), text.slice(at)];
    if (!segments.some(({ trie }) => pair.every((part) => findWord(trie, part) !== -1))) continue;
    if (splits.length === MOST_SPLITS) {
      splits.at(-1)!.isCapped = true;
      break;
    }
    splits.push({ how: 'split', words: pair, prefix: false });
  }
  return splits;
}

/**
 * Whether a word has expansions as two words that are not looked up: too many of them, or of words too common to tell.
 */
export function isCapped(alternatives: readonly Alternative[], segments: readonly Segment[]): boolean {
  return alternatives.some(
    ({ how, words, isCapped = false }) =>
      how === 'split' && (isCapped || segments.some((segment) => mostTogether(segment, words) > MOST_FOR_SPLIT)),
  );
}

/** The expansions of a word that depend on nothing but itself: as written, by its stem, as a beginning, with typos. */
export function ownExpansions(
  segment: Segment,
  word: QueryWord,
  tuning: Tuning,
  { weights }: FieldWeights,
): Expansion[] {
  const { trie } = segment;
  const { text, phrase } = word;
  const letters = text.length;
  if (phrase !== null) {
    const together = phrase.length > 1 ? findTogether(segment, phrase, weights) : null;
    const term = together ? -1 : findWord(trie, text);
    if (together === null && term === -1) return [];
    return [{ how: 'phrase', typos: 0, whole: true, letters, from: term, to: term + 1, together, text }];
  }
  const expansions: Expansion[] = [];
  const add = (how: MatchKind, from: number, to: number, whole: boolean, typos = 0, language?: OnlyIn): void => {
    expansions.push({ how, typos, whole, letters, from, to, together: null, text: null, ...language });
  };
  const node = findNode(trie, text);
  if (node > 0 && endsWord(trie, node)) add('exact', firstWord(trie, node), firstWord(trie, node) + 1, true);
  if (tuning.stems) {
    const languages = languagesOf(tuning);
    languages.forEach((tag, number) => {
      const language = only(number, languages);
      for (const term of sameStem(segment, text, tag)) add('stem', term, term + 1, true, 0, language);
    });
  }
  if (node > 0 && word.prefix) add('prefix', firstWord(trie, node), endWord(trie, node), false);
  if (word.typos > 0) {
    const { firstLetter } = tuning.typos;
    const found: { from: number; to: number; typos: number; whole: boolean }[] = [];
    walkTypos(trie, text, { maxTypos: word.typos, prefix: word.prefix, firstLetter }, (run) => {
      if (run.typos > 0) found.push(run);
    });
    found.sort((a, b) => a.typos - b.typos || Number(b.whole) - Number(a.whole));
    for (const { from, to, typos, whole } of found) add('typo', from, to, whole, typos);
  }
  return expansions;
}

/** Words of the segment that share the stem of `text`, itself left out. */
function sameStem(segment: Segment, text: string, language: string): number[] {
  const stemmer = stemmerFor(language);
  const table = segment.stems(language);
  if (stemmer === null || table === null) return [];
  const stem = stemmer(text);
  const itself = findWord(segment.trie, text);
  const group = findWord(table.trie, stem);
  if (group !== -1) {
    const terms = table.terms.subarray(table.starts[group], table.starts[group + 1]);
    return [...terms].filter((term) => term !== itself);
  }
  const alone = findWord(segment.trie, stem);
  return alone !== -1 && alone !== itself && stemmer(stem) === stem ? [alone] : [];
}

/** The expansions an alternative gives in one segment. */
export function alternativeExpansions(
  segment: Segment,
  { how, words, prefix, part, language }: Alternative,
  { weights }: FieldWeights,
): Expansion[] {
  const text = words.join(' ');
  const base = { how, typos: 0, letters: text.length, together: null, ...(language === undefined ? {} : { language }) };
  if (words.length > 1) {
    const together = findTogether(segment, words, weights, how === 'split' ? MOST_FOR_SPLIT : Infinity);
    return together.docs.length === 0 ? [] : [{ ...base, whole: true, from: -1, to: 0, together, text }];
  }
  const node = findNode(segment.trie, text);
  if (node <= 0) return [];
  const first = firstWord(segment.trie, node);
  if (part !== undefined)
    return endsWord(segment.trie, node) ? [{ ...base, ...part, whole: false, from: first, to: first + 1, text }] : [];
  const expansions: Expansion[] = [];
  if (endsWord(segment.trie, node)) expansions.push({ ...base, whole: true, from: first, to: first + 1, text });
  if (prefix) expansions.push({ ...base, whole: false, from: first, to: endWord(segment.trie, node), text: null });
  return expansions;
}
