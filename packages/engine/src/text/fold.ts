/**
 * Folding: what makes `Ficus Á` and `ficus a` the same word, in every script.
 *
 * Each code point is folded alone, so that the place of every folded letter in the written text stays known and marks
 * fall on what is on the screen. Folding lower-cases, decomposes by compatibility (Unicode NFKD, UAX #15), drops the
 * accents, takes the digits of all scripts for those of ASCII, and spells out the letters of the table below. What is
 * decomposed already comes out as what is composed: both end as the same letters.
 */

/** Letters that carry no separable accent, and letters that are written in several ways for one and the same. */
const SPELLED: Readonly<Record<string, string>> = {
  ...{ ß: 'ss', ø: 'o', ł: 'l', đ: 'd', ð: 'd', æ: 'ae', œ: 'oe', þ: 'th', ħ: 'h', ŧ: 't' },
  // Turkish and Azeri tell them apart; who types on another keyboard cannot.
  ı: 'i',
  // Greek writes the last letter of a word in its own form, Hebrew five of them.
  ...{ ς: 'σ', ך: 'כ', ם: 'מ', ן: 'נ', ף: 'פ', ץ: 'צ' },
  // Arabic: forms of alef, ta marbuta and alef maqsura (Larkey, Ballesteros and Connell 2002); letters of Persian and
  // Urdu keyboards that look the same to their readers. What carries a hamza loses it as an accent.
  ...{ ٱ: 'ا', ة: 'ه', ى: 'ي', ی: 'ي', ک: 'ك', ە: 'ه', ہ: 'ه', ۃ: 'ه', ھ: 'ه' },
  // Indic scripts: the sign of a nasal vowel, written as one or the other.
  ...{ '\u0901': '\u0902', '\u0981': '\u0982', '\u0a81': '\u0a82' },
  ...{ '\u0b01': '\u0b02', '\u0c01': '\u0c02', '\u0c81': '\u0c82' },
};

/**
 * Accents of Latin, Greek and Cyrillic, the optional points of Hebrew and Arabic with the Arabic stroke that only
 * stretches a word, the points below letters of Indic scripts (nukta), and variation selectors; as ranges of code
 * points. Vowel signs are letters to their readers and stay.
 */
const ACCENTS: readonly (readonly [number, number])[] = [
  [0x0300, 0x036f],
  [0x0483, 0x0487],
  [0x0591, 0x05c7],
  [0x0610, 0x061a],
  [0x0640, 0x0640],
  [0x064b, 0x065f],
  [0x0670, 0x0670],
  [0x06d6, 0x06ed],
  [0x08ca, 0x08ff],
  ...[0x093c, 0x09bc, 0x0a3c, 0x0abc, 0x0b3c, 0x0c3c, 0x0cbc].map((nukta) => [nukta, nukta] as const),
  [0x1ab0, 0x1aff],
  [0x1dc0, 0x1dff],
  [0x20d0, 0x20ff],
  [0xfe00, 0xfe0f],
  [0xfe20, 0xfe2f],
  [0xe0100, 0xe01ef],
];

const isAccent = (code: number): boolean => ACCENTS.some(([from, to]) => code >= from && code <= to);

const WORD = /[\p{L}\p{N}\p{M}]/u;
const NOT_WORD = /[^\p{L}\p{N}\p{M}]/u;
/** By script extensions, so that sound marks, the long vowel and iteration signs of kana belong to it (UAX #24). */
const SPACELESS =
  /[\p{scx=Han}\p{scx=Hiragana}\p{scx=Katakana}\p{Script=Thai}\p{Script=Lao}\p{Script=Khmer}\p{Script=Myanmar}]/u;
/** What is neither seen nor parts words: joiners, soft hyphens, marks of direction. A space without width does part. */
// eslint-disable-next-line no-misleading-character-class -- the joiner is meant alone
export const IGNORED = /[\u00ad\u034f\u061c\u200c-\u200f\u202a-\u202e\u2060-\u2064\u2066-\u206f\ufeff]/;
/** Apostrophes, and the letters and primes that are typed for them. */
export const JOINERS = "'’‘‛´ʼʹʻꞌ′＇";
const SYMBOL = /[\p{So}\p{Sc}\p{Extended_Pictographic}\p{Regional_Indicator}]|(?![\0-\x7f])\p{Sm}/u;
const PICTOGRAPH = /\p{Extended_Pictographic}/u;
/** A letter that was lost, an object that is not text, and the mark of a service: signs of nothing. */
const NO_SYMBOL = '\ufffd\ufffc\u2120';

/**
 * What one code point is to the splitter. A `Joiner` is part of a word only between letters; `Accent` and `Ignored`
 * leave no letter, and only an accent belongs to the letter before it.
 */
export const CharKind = { Other: 0, Word: 1, Spaceless: 2, Joiner: 3, Accent: 4, Ignored: 5, Symbol: 6 } as const;
export type CharKind = (typeof CharKind)[keyof typeof CharKind];

export interface FoldedChar {
  kind: CharKind;
  /** The folded letters: usually one, none for a bare accent, several for a ligature. */
  text: string;
}

const cache = new Map<number, FoldedChar>();
const of = (kind: CharKind, text = ''): FoldedChar => ({ kind, text });

function compute(codePoint: number): FoldedChar {
  // A lone surrogate is half a character: never part of a word.
  if (codePoint >= 0xd800 && codePoint <= 0xdfff) return of(CharKind.Other);
  const char = String.fromCodePoint(codePoint);
  if (JOINERS.includes(char)) return of(CharKind.Joiner);
  if (isAccent(codePoint)) return of(CharKind.Accent);
  if (IGNORED.test(char)) return of(CharKind.Ignored);
  const plain = char.toLowerCase().normalize('NFKD').toLowerCase();
  if (!WORD.test(char)) {
    // `㎏` is the letters it is made of; an emoji of a letter is itself.
    // A sign of ASCII with a stroke through it is as little a word as that sign alone.
    const isPlain = codePoint > 127 && char.normalize('NFD').charCodeAt(0) < 128;
    if (!SYMBOL.test(char) || NO_SYMBOL.includes(char) || isPlain) return of(CharKind.Other);
    if (NOT_WORD.test(plain) || PICTOGRAPH.test(char)) return of(CharKind.Symbol, char);
  }
  let text = '';
  for (const letter of lettersOf(char, plain)) text += letter;
  if (text === '') return of(CharKind.Accent);
  return of(SPACELESS.test(text) ? CharKind.Spaceless : CharKind.Word, text);
}

function lettersOf(char: string, plain: string): string[] {
  // To its readers it is no `и` with an accent.
  if (char === 'й' || char === 'Й') return ['й'];
  return [...plain].flatMap((letter) => {
    const code = letter.codePointAt(0)!;
    if (isAccent(code) || NOT_WORD.test(letter)) return [];
    if (code >= 0x1100 && code <= 0x11ff) return [jamo(code)];
    return [SPELLED[letter] ?? digit(letter, code)];
  });
}

/**
 * Korean syllables become their letters (jamo), so that a syllable that is still being typed finds what it will be: the
 * consonant that ends `잠` begins the next syllable of `자미`. Each consonant is one letter wherever it stands in a
 * syllable; of two that end one, both.
 */
const FINALS = 'ㄱㄲㄳㄴㄵㄶㄷㄹㄺㄻㄼㄽㄾㄿㅀㅁㅂㅄㅅㅆㅇㅈㅊㅋㅌㅍㅎ';
const INITIALS = 'ㄱㄲㄴㄷㄸㄹㅁㅂㅃㅅㅆㅇㅈㅉㅊㅋㅌㅍㅎ';
const CLUSTERS: Readonly<Record<string, string>> = {
  ...{ ㄳ: 'ㄱㅅ', ㄵ: 'ㄴㅈ', ㄶ: 'ㄴㅎ', ㄺ: 'ㄹㄱ', ㄻ: 'ㄹㅁ', ㄼ: 'ㄹㅂ' },
  ...{ ㄽ: 'ㄹㅅ', ㄾ: 'ㄹㅌ', ㄿ: 'ㄹㅍ', ㅀ: 'ㄹㅎ', ㅄ: 'ㅂㅅ' },
};

function jamo(code: number): string {
  const final = FINALS[code - 0x11a8];
  if (final !== undefined) return CLUSTERS[final] ?? final;
  return INITIALS[code - 0x1100] ?? String.fromCodePoint(code);
}

const DIGIT = /\p{Nd}/u;

/** The digits of a script stand in a row, from 0 to 9 (Unicode Standard, 4.6). */
function digit(letter: string, code: number): string {
  if (code < 128 || !DIGIT.test(letter)) return letter;
  let value = 0;
  while (value < 9 && DIGIT.test(String.fromCodePoint(code - value - 1))) value++;
  return String(value);
}

const ASCII: FoldedChar[] = Array.from({ length: 128 }, (_, code) => compute(code));

/** Folds one code point. Cached: text of one language uses few distinct ones. */
export function foldCodePoint(codePoint: number): FoldedChar {
  if (codePoint < 128) return ASCII[codePoint]!;
  let folded = cache.get(codePoint);
  if (folded === undefined) {
    folded = compute(codePoint);
    cache.set(codePoint, folded);
  }
  return folded;
}

const BREVE = 0x0306;

/** Adds the letters of one code point to what is folded of a word so far. */
export function appendFolded(text: string, codePoint: number, folded: FoldedChar): string {
  // The one accent that makes another letter: `й`, decomposed.
  if (codePoint === BREVE && text.endsWith('и')) return `${text.slice(0, -1)}й`;
  return text + folded.text;
}

/** The folded letters of a text, with whatever stands between its words left out. */
export function foldLetters(source: string): string {
  let text = '';
  for (const char of source) {
    const code = char.codePointAt(0)!;
    const folded = foldCodePoint(code);
    if (folded.kind !== CharKind.Symbol) text = appendFolded(text, code, folded);
  }
  return text;
}
