import { CharKind, foldCodePoint } from './fold.ts';

/** A word longer than this (in folded UTF-16 units) is cut: nobody types more, and the dictionary stays shallow. */
export const MAX_WORD = 64;

export interface Word {
  /** Folded. */
  text: string;
  /** `[start, end)` in UTF-16 units of the text as written. */
  start: number;
  end: number;
}

export type VisitWord = (text: string, start: number, end: number) => void;

let segmenter: Intl.Segmenter | undefined;

const Ascii = { Other: 0, Plain: 1, Capital: 2, Slow: 3 } as const;

/** What each ASCII unit is to the quick way through plain text; apostrophes need the slow way. */
const ASCII_KINDS = Uint8Array.from({ length: 128 }, (_, code) => {
  const char = String.fromCharCode(code);
  if (/[a-z0-9]/.test(char)) return Ascii.Plain;
  if (/[A-Z]/.test(char)) return Ascii.Capital;
  return char === "'" ? Ascii.Slow : Ascii.Other;
});

/**
 * Splits written text into folded words, in order. Letters and digits together make a word; an apostrophe between
 * letters joins them (`O'Neill` is `oneill`). Scripts written without spaces are split by `Intl.Segmenter` (UAX #29
 * with dictionaries). A word's range covers its accents and never cuts a surrogate pair.
 */
export function eachWord(source: string, visit: VisitWord): void {
  const length = source.length;
  let at = 0;
  while (at < length) {
    const unit = source.charCodeAt(at);
    if (unit < 128) {
      const kind = ASCII_KINDS[unit]!;
      if (kind === Ascii.Plain || kind === Ascii.Capital) at = readPlain(source, at, visit);
      else at++;
      continue;
    }
    const code = source.codePointAt(at)!;
    const size = code > 0xffff ? 2 : 1;
    const { kind } = foldCodePoint(code);
    if (kind === CharKind.Word) at = readWord(source, at, visit);
    else if (kind === CharKind.Spaceless) at = readSpaceless(source, at, visit);
    else at += size;
  }
}

/** A word of ASCII letters and digits is a slice of the text; anything else in it sends it the slow way from its start. */
function readPlain(source: string, start: number, visit: VisitWord): number {
  const length = source.length;
  let at = start;
  let capitals = false;
  for (; at < length; at++) {
    const unit = source.charCodeAt(at);
    if (unit >= 128) return readWord(source, start, visit);
    const kind = ASCII_KINDS[unit]!;
    if (kind === Ascii.Plain) continue;
    if (kind === Ascii.Capital) capitals = true;
    else if (kind === Ascii.Slow) return readWord(source, start, visit);
    else break;
  }
  const end = Math.min(at, start + MAX_WORD);
  const text = source.slice(start, end);
  visit(capitals ? text.toLowerCase() : text, start, at);
  return at;
}

function readWord(source: string, start: number, visit: VisitWord): number {
  const length = source.length;
  let at = start;
  let end = start;
  let text = '';
  while (at < length) {
    const code = source.codePointAt(at)!;
    const folded = foldCodePoint(code);
    if (folded.kind === CharKind.Joiner) {
      if (at !== end || at + 1 >= length || foldCodePoint(source.codePointAt(at + 1)!).kind !== CharKind.Word) break;
      at += 1;
      continue;
    }
    if (folded.kind !== CharKind.Word && folded.kind !== CharKind.Accent) break;
    text += folded.text;
    at += code > 0xffff ? 2 : 1;
    end = at;
  }
  visit(text.length > MAX_WORD ? cut(text) : text, start, end);
  return end;
}

function readSpaceless(source: string, start: number, visit: VisitWord): number {
  let end = start;
  while (end < source.length) {
    const code = source.codePointAt(end)!;
    const { kind } = foldCodePoint(code);
    if (kind !== CharKind.Spaceless && kind !== CharKind.Accent) break;
    end += code > 0xffff ? 2 : 1;
  }
  segmenter ??= new Intl.Segmenter(undefined, { granularity: 'word' });
  for (const { segment, index } of segmenter.segment(source.slice(start, end))) {
    const text = foldText(segment);
    if (text !== '') visit(cut(text), start + index, start + index + segment.length);
  }
  return end;
}

function cut(text: string): string {
  if (text.length <= MAX_WORD) return text;
  const last = text.charCodeAt(MAX_WORD - 1);
  return text.slice(0, last >= 0xd800 && last <= 0xdbff ? MAX_WORD - 1 : MAX_WORD);
}

function foldText(source: string): string {
  let text = '';
  for (const char of source) text += foldCodePoint(char.codePointAt(0)!).text;
  return text;
}

/** The words of a text as a list. */
export function words(source: string): Word[] {
  const found: Word[] = [];
  eachWord(source, (text, start, end) => found.push({ text, start, end }));
  return found;
}

/** The folded words of a text: the same for texts that differ in case, in accents and in what stands between the words. */
export function foldWords(source: string): string {
  return words(source)
    .map(({ text }) => text)
    .join(' ');
}

/**
 * Where, in the written text, the first `letters` folded units of the word `[start, end)` end; an accent that belongs to
 * the last of them is taken along. This is what lets the typed part of a longer word be marked.
 */
export function sourceEnd(source: string, start: number, end: number, letters: number): number {
  let at = start;
  let count = 0;
  while (at < end) {
    const code = source.codePointAt(at)!;
    const { text, kind } = foldCodePoint(code);
    // Only an accent belongs to the letter before it; an apostrophe or a hyphen belongs to what follows.
    if (count >= letters && kind !== CharKind.Accent) break;
    count += text.length;
    at += code > 0xffff ? 2 : 1;
  }
  return at;
}
