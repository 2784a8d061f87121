/**
 * Folding: what makes `Ficus Á` and `ficus a` the same word.
 *
 * Each code point is folded alone, so that the place of every folded letter in the written text stays known and marks
 * fall on what is on the screen. Folding lower-cases, decomposes by compatibility (Unicode NFKD, UAX #15), drops the
 * accents, and spells out the few letters that carry no separable accent (ß, ø, æ).
 */

const SPELLED: Readonly<Record<string, string>> = {
  ß: 'ss',
  ø: 'o',
  ł: 'l',
  đ: 'd',
  ð: 'd',
  æ: 'ae',
  œ: 'oe',
  þ: 'th',
  ı: 'i',
  ħ: 'h',
  ŧ: 't',
  ς: 'σ',
};

/**
 * Accents of Latin, Greek and Cyrillic, and the optional points of Hebrew and Arabic, as ranges of code points. Vowel
 * signs of other scripts are letters to their readers and stay.
 */
const ACCENTS: readonly (readonly [number, number])[] = [
  [0x0300, 0x036f],
  [0x0591, 0x05c7],
  [0x064b, 0x0652],
  [0x0670, 0x0670],
  [0x1ab0, 0x1aff],
  [0x1dc0, 0x1dff],
  [0x20d0, 0x20ff],
  [0xfe20, 0xfe2f],
];

function withoutAccents(text: string): string {
  let kept = '';
  for (const char of text) {
    const code = char.codePointAt(0)!;
    if (!ACCENTS.some(([from, to]) => code >= from && code <= to)) kept += char;
  }
  return kept;
}

const WORD = /[\p{L}\p{N}\p{M}]/u;
const NOT_WORD = /[^\p{L}\p{N}\p{M}]/gu;
// With the two sound marks of kana, which belong to no script of their own.
const SPACELESS =
  /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Thai}\p{Script=Lao}\p{Script=Khmer}\p{Script=Myanmar}\u3099\u309a]/u;

/** What one code point is to the splitter. `Joiner` (apostrophes) is part of a word only between letters. */
export const CharKind = { Other: 0, Word: 1, Spaceless: 2, Joiner: 3, Accent: 4 } as const;
export type CharKind = (typeof CharKind)[keyof typeof CharKind];

export interface FoldedChar {
  kind: CharKind;
  /** The folded letters: usually one, none for a bare accent, several for a ligature. */
  text: string;
}

const cache = new Map<number, FoldedChar>();

function compute(codePoint: number): FoldedChar {
  // A lone surrogate is half a character: never part of a word.
  if (codePoint >= 0xd800 && codePoint <= 0xdfff) return { kind: CharKind.Other, text: '' };
  const char = String.fromCodePoint(codePoint);
  if (char === "'" || char === '’' || char === 'ʼ') return { kind: CharKind.Joiner, text: '' };
  if (!WORD.test(char)) return { kind: CharKind.Other, text: '' };
  // Hangul syllables stay whole: a syllable is what a Korean reader would call a letter here.
  const isHangul = codePoint >= 0xac00 && codePoint <= 0xd7a3;
  const plain = isHangul ? char : withoutAccents(char.toLowerCase().normalize('NFKD')).toLowerCase();
  let text = '';
  for (const letter of plain.replace(NOT_WORD, '')) text += SPELLED[letter] ?? letter;
  if (text === '') return { kind: CharKind.Accent, text: '' };
  return { kind: SPACELESS.test(char) ? CharKind.Spaceless : CharKind.Word, text };
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
