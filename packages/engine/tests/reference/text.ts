/* eslint-disable no-misleading-character-class -- accents, selectors and joiners are meant alone */
import { newStemmer } from 'snowball-stemmers';

export interface Token {
  text: string;
  start: number;
  end: number;
}

/** A token with the place of its word; parts and joined forms share the place of the word they begin with. */
export interface PlacedToken extends Token {
  place: number;
  /** The first token of its place. */
  main: boolean;
}

const ACCENT =
  '[\\u0300-\\u036f\\u0483-\\u0487\\u0591-\\u05c7\\u0610-\\u061a\\u0640\\u064b-\\u065f\\u0670\\u06d6-\\u06ed\\u08ca-\\u08ff' +
  '\\u093c\\u09bc\\u0a3c\\u0abc\\u0b3c\\u0c3c\\u0cbc\\u1ab0-\\u1aff\\u1dc0-\\u1dff\\u20d0-\\u20ff\\ufe00-\\ufe0f\\ufe20-\\ufe2f]';
const APOSTROPHE = "['’‘‛´ʼʹʻꞌ′＇]";
const IGNORED = '[\\u00ad\\u200c-\\u200f\\ufeff]';
const SPACELESS = '[[\\p{scx=Han}\\p{scx=Hira}\\p{scx=Kana}\\p{sc=Thai}\\p{sc=Lao}]&&[\\p{L}\\p{N}\\p{M}]]';
const LETTER = `[[㎏\\p{L}\\p{N}\\p{M}]--${SPACELESS}--${ACCENT}--${APOSTROPHE}]`;
const WORD = `${LETTER}(?:${LETTER}|${ACCENT}|${APOSTROPHE}(?=${LETTER})|${IGNORED}+(?=${LETTER}|${ACCENT}))*`;
const RUN = `${SPACELESS}(?:${SPACELESS}|${ACCENT}|${IGNORED}+(?=${SPACELESS}|${ACCENT}))*`;
const PICTURE = '\\p{Extended_Pictographic}(?:[\\ufe0e\\ufe0f]|\\p{EMod})*';
const SYMBOL = `\\p{RI}\\p{RI}|${PICTURE}(?:\\u200d${PICTURE})*|[\\p{So}\\p{Sc}][\\ufe0e\\ufe0f]?|[\\p{Sm}--[\\0-\\x7f]][\\ufe0e\\ufe0f]?`;

const everything = (): RegExp => new RegExp(`(?<word>${WORD})|(?<run>${RUN})|(?<symbol>${SYMBOL})`, 'gv');

const SAME: [RegExp, string][] = [
  ...(['ßss', 'øo', 'łl', 'đd', 'ðd', 'æae', 'œoe', 'þth', 'ħh', 'ŧt', 'ıi', 'ςσ'] as const),
  ...(['ךכ', 'םמ', 'ןנ', 'ףפ', 'ץצ', 'ٱا', 'ةه', 'ىي', 'یي', 'کك', '\u0901\u0902'] as const),
].map((pair) => [new RegExp(pair[0]!, 'g'), pair.slice(1)]);

const digits = Array.from({ length: 0x1ffff }, (_, code) => String.fromCodePoint(code)).filter((char) =>
  /^\p{Nd}$/u.test(char),
);
const FIRST = [...'ㄱㄲㄴㄷㄸㄹㅁㅂㅃㅅㅆㅇㅈㅉㅊㅋㅌㅍㅎ'];
const LAST =
  'ㄱ ㄲ ㄱㅅ ㄴ ㄴㅈ ㄴㅎ ㄷ ㄹ ㄹㄱ ㄹㅁ ㄹㅂ ㄹㅅ ㄹㅌ ㄹㅍ ㄹㅎ ㅁ ㅂ ㅂㅅ ㅅ ㅆ ㅇ ㅈ ㅊ ㅋ ㅌ ㅍ ㅎ'.split(' ');

/** Folds a piece of text, all of it at once. */
export function fold(written: string): string {
  let text = written.toLowerCase().normalize('NFKD').toLowerCase().normalize('NFKD');
  text = text.replaceAll('и\u0306', 'й').replace(new RegExp(`${ACCENT}|${APOSTROPHE}|${IGNORED}`, 'gv'), '');
  for (const [letter, as] of SAME) text = text.replace(letter, as);
  return text
    .replace(/[\u1100-\u1112]/g, (jamo) => FIRST[jamo.charCodeAt(0) - 0x1100]!)
    .replace(/[\u11a8-\u11c2]/g, (jamo) => LAST[jamo.charCodeAt(0) - 0x11a8]!)
    .replace(/\p{Nd}/gu, (digit) => String(digits.indexOf(digit) % 10));
}

const foldSymbol = (symbol: string): string => symbol.replace(/[\ufe0e\ufe0f]|(?<=.)\p{EMod}/gsu, '');

/** A letter of a run without spaces with the signs on it. */
const lettersOf = (run: string, start: number): Token[] =>
  [...run.matchAll(/[^\p{M}\uff9e\uff9f][\p{M}\uff9e\uff9f]*/gu)].map(({ 0: text, index }) => ({
    text: fold(text),
    start: start + index,
    end: start + index + text.length,
  }));

const segmenter = new Intl.Segmenter(undefined, { granularity: 'word' });

/** The words of a run as a dictionary parts it, given the letters that dictionaries are made of. */
function segmentsOf(run: string, start: number): Token[] {
  const letters = lettersOf(run, start);
  const composed = letters.map((letter) => {
    const written = run.slice(letter.start - start, letter.end - start);
    return written.normalize(/[\uff00-\uffef]/.test(written) ? 'NFKC' : 'NFC');
  });
  const borders = composed.map((_, i) => composed.slice(0, i).join('').length);
  return [...segmenter.segment(composed.join(''))].flatMap(({ segment, index }) => {
    const own = letters.filter((_, i) => borders[i]! >= index && borders[i]! < index + segment.length);
    if (own.length === 0) return [];
    return [{ text: own.map(({ text }) => text).join(''), start: own[0]!.start, end: own.at(-1)!.end }];
  });
}

/** The words of a query: those of runs as a dictionary parts them, and signs that stand alone. */
export function tokens(text: string): Token[] {
  const found: Token[] = [];
  for (const { word, run, symbol, start, end } of pieces(text)) {
    if (word !== undefined) found.push({ text: fold(word), start, end });
    if (run !== undefined) found.push(...segmentsOf(run, start));
    if (symbol !== undefined && !touches(text, start, end)) found.push({ text: foldSymbol(symbol), start, end });
  }
  return found;
}

interface Piece {
  word?: string | undefined;
  run?: string | undefined;
  symbol?: string | undefined;
  start: number;
  end: number;
}

const pieces = (text: string): Piece[] =>
  [...text.matchAll(everything())].map(({ 0: all, index, groups }) => ({
    ...groups,
    start: index,
    end: index + all.length,
  }));

/** Whether a word or a run ends where a sign begins, or begins where it ends. */
function touches(text: string, start: number, end: number): 'before' | 'after' | null {
  const words = pieces(text).filter(({ symbol }) => symbol === undefined);
  if (words.some((word) => word.end === start)) return 'before';
  return words.some((word) => word.start === end) ? 'after' : null;
}

/**
 * Words, the parts of words that mix letters and digits or hold apostrophes, words joined over a connector, alone or in
 * chains, the pairs and words of runs without spaces, and signs.
 */
export function placedTokens(source: string): PlacedToken[] {
  const found: PlacedToken[] = [];
  const words: (Token & { place: number })[] = [];
  let place = 0;
  const add = (token: Token, at: number, main = false): unknown => found.push({ ...token, place: at, main });
  for (const { word, run, symbol, start, end } of pieces(source)) {
    if (word !== undefined) {
      const own = { text: fold(word), start, end, place };
      words.push(own);
      add(own, place, true);
      addParts(own, word, place, add);
      place++;
    } else if (run !== undefined) {
      const letters = lettersOf(run, start);
      letters.forEach((letter, i) => {
        const next = letters[i + 1];
        add({ ...letter, text: letter.text + (next?.text ?? ''), end: (next ?? letter).end }, place + i, true);
      });
      for (const one of segmentsOf(run, start)) {
        const first = letters.findIndex((letter) => letter.start === one.start);
        if (first !== -1 && lettersOf(source.slice(one.start, one.end), 0).length > 2) add(one, place + first);
      }
      place += letters.length;
    } else {
      const token = { text: foldSymbol(symbol!), start, end };
      const beside = touches(source, start, end);
      if (beside === 'before') add(token, place - 1);
      else if (beside === 'after') add(token, place);
      else add(token, place++, true);
    }
  }
  const linked = (i: number): boolean =>
    i + 1 < words.length && /^[-/_.+&’']$/.test(source.slice(words[i]!.end, words[i + 1]!.start));
  for (let from = 0; from < words.length; from++) {
    if (from > 0 && linked(from - 1)) continue;
    let to = from;
    while (linked(to)) to++;
    const count = to - from + 1;
    const join = (first: number, last: number): void => {
      const text = words
        .slice(first, last + 1)
        .map((word) => word.text)
        .join('');
      add({ text, start: words[first]!.start, end: words[last]!.end }, words[first]!.place);
    };
    if (count > 1 && count <= 4) join(from, to);
    if (count > 2) for (let i = from; i < to; i++) join(i, i + 1);
  }
  return found;
}

/** The words of a text by which a whole is compared and counted: one for each place. */
export const wordsInPlace = (source: string): PlacedToken[] => placedTokens(source).filter(({ main }) => main);

function addParts(own: Token, word: string, place: number, add: (token: Token, place: number) => unknown): void {
  const parts = own.text.match(/[0-9]+|[^0-9]+/g) ?? [];
  if (parts.length > 1) {
    let letters = 0;
    let from = own.start;
    for (const part of parts) {
      letters += part.length;
      const to = letters === own.text.length ? own.end : endOfLetters(word, letters) + own.start;
      add({ text: part, start: from, end: to }, place);
      from = to;
    }
  }
  const between = word.split(new RegExp(APOSTROPHE, 'v'));
  let at = own.start;
  for (const part of between) {
    if (between.length > 1 && fold(part).length > 1) add({ text: fold(part), start: at, end: at + part.length }, place);
    at += part.length + 1;
  }
}

/** Where the first so many folded letters of a text end, the accents on the last of them taken along: `AG-2` has 3. */
export function endOfLetters(text: string, letters: number): number {
  let count = 0;
  let at = 0;
  for (const char of text) {
    const isAccent = new RegExp(`^${ACCENT}$`, 'v').test(char);
    if (count >= letters && !isAccent) break;
    count += isAccent || /^[\p{P}+]$/u.test(char) ? 0 : fold(char).length;
    at += char.length;
  }
  return at;
}

const clusters = new Intl.Segmenter(undefined, { granularity: 'grapheme' });

/** A range widened to whole grapheme clusters. */
export function whole(text: string, [start, end]: [number, number]): [number, number] {
  const borders = [...[...clusters.segment(text)].map(({ index }) => index), text.length];
  return [borders.filter((at) => at <= start).at(-1)!, borders.find((at) => at >= end)!];
}

/** What follows a word says that it is still being typed: nothing, half a word's apostrophe, a joiner of signs. */
export const goesOn = (rest: string): boolean =>
  rest.length <= 3 && new RegExp(`^${APOSTROPHE}?${IGNORED}*$`, 'v').test(rest);

/** The pairs of neighbouring letters of a run; of one letter, itself. */
export function pairs(run: string): string[] {
  const letters = lettersOf(run, 0).map(({ text }) => text);
  return letters.length === 1 ? letters : letters.slice(1).map((letter, i) => letters[i]! + letter);
}

export const isRun = (text: string): boolean => new RegExp(`^${RUN}$`, 'v').test(text);

/** The other kind of kana: what is hiragana as katakana, else the reverse. */
export function otherKana(text: string): string {
  const shifted = (kana: RegExp, by: number): string =>
    text.replace(kana, (char) => String.fromCharCode(char.charCodeAt(0) + by));
  const katakana = shifted(/[\u3041-\u3096\u309d\u309e]/g, 0x60);
  return katakana === text ? shifted(/[\u30a1-\u30f6\u30fd\u30fe]/g, -0x60) : katakana;
}

/** Full-matrix distance with swaps of neighbours (optimal string alignment). */
export function distance(a: string, b: string): number {
  const d: number[][] = Array.from({ length: a.length + 1 }, (_, i) =>
    Array.from({ length: b.length + 1 }, (_, j) => (i === 0 ? j : j === 0 ? i : 0)),
  );
  for (let i = 1; i <= a.length; i++) {
    for (let j = 1; j <= b.length; j++) {
      const options = [d[i - 1]![j]! + 1, d[i]![j - 1]! + 1, d[i - 1]![j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1)];
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) options.push(d[i - 2]![j - 2]! + 1);
      d[i]![j] = Math.min(...options);
    }
  }
  return d[a.length]![b.length]!;
}

const STEMMERS: Record<string, { stem: (word: string) => string }> = {
  en: newStemmer('english'),
  de: newStemmer('german'),
  fr: newStemmer('french'),
};

const stems = new Map<string, string>();

/** The stem of a word in a language; codes and short words are their own. */
export function stem(word: string, language = 'en'): string {
  const stemmer = STEMMERS[language];
  if (stemmer === undefined || word.length < 3 || word.length > 32 || /\d/.test(word)) return word;
  const key = `${language} ${word}`;
  const known = stems.get(key) ?? stemmer.stem(word);
  stems.set(key, known);
  return known;
}
