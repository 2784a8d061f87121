import { appendFolded, CharKind, foldCodePoint, foldLetters } from './fold.ts';
import { foldSymbol, symbolEnd } from './symbols.ts';

/** A word longer than this (in folded UTF-16 units) is cut: nobody types more, and the dictionary stays shallow. */
export const MAX_WORD = 64;

export interface Word {
  /** Folded. */
  text: string;
  /** `[start, end)` in UTF-16 units of the text as written. */
  start: number;
  end: number;
  /** The parts between the apostrophes of a word that has some, folded: `l'érable` is `l` and `erable`. */
  parts?: string[];
  /** The letters of a word of a run without spaces, folded. */
  letters?: string[];
}

/** Is told what a text holds, in order. */
export interface WordVisitor {
  /**
   * A word of letters and digits. `apostrophes` says where those inside it stand, from the first on; null when it has
   * none, which is nearly always.
   */
  word(text: string, start: number, end: number, apostrophes: readonly number[] | null): void;
  /** `[start, end)` is written in a script without spaces. */
  run(start: number, end: number): void;
  /** A sign: `beside` is -1 when it touches the word before it, 1 when it touches the one after it, else 0. */
  symbol(text: string, start: number, end: number, beside: -1 | 0 | 1): void;
}

let segmenter: Intl.Segmenter | undefined;

const Ascii = { Other: 0, Plain: 1, Capital: 2, Slow: 3, Symbol: 4 } as const;

/** What each ASCII unit is to the quick way through plain text; apostrophes need the slow way. */
const ASCII_KINDS = Uint8Array.from({ length: 128 }, (_, code) => {
  const char = String.fromCodePoint(code);
  if (/[a-z0-9]/.test(char)) return Ascii.Plain;
  if (/[A-Z]/.test(char)) return Ascii.Capital;
  if (char === '$') return Ascii.Symbol;
  return char === "'" ? Ascii.Slow : Ascii.Other;
});

/**
 * Splits written text into folded words, in order. Letters and digits together make a word; an apostrophe between
 * letters joins them (`O'Neill` is `oneill`). A word's range covers its accents and never cuts a surrogate pair. Goes
 * on to the end of the text, or until `isEnough` says so behind some word.
 */
export function eachWord(source: string, visitor: WordVisitor, isEnough?: () => boolean): void {
  const length = source.length;
  let at = 0;
  let wordEnd = -1;
  while (at < length) {
    const unit = source.charCodeAt(at);
    if (isEnough !== undefined && at === wordEnd && isEnough()) return;
    if (unit < 128) {
      const kind = ASCII_KINDS[unit]!;
      if (kind === Ascii.Plain || kind === Ascii.Capital) {
        at = wordEnd = readPlain(source, at, visitor);
        continue;
      }
      if (kind !== Ascii.Symbol) {
        at++;
        continue;
      }
    }
    const code = source.codePointAt(at)!;
    const { kind } = foldCodePoint(code);
    if (kind === CharKind.Word) at = wordEnd = readWord(source, at, visitor);
    else if (kind === CharKind.Spaceless) {
      const end = runEnd(source, at);
      visitor.run(at, end);
      at = wordEnd = end;
    } else if (kind === CharKind.Symbol) {
      const end = symbolEnd(source, at);
      const beside = at === wordEnd ? -1 : beginsWord(source, end) ? 1 : 0;
      visitor.symbol(foldSymbol(source.slice(at, end)), at, end, beside);
      at = end;
    } else at += code > 0xffff ? 2 : 1;
  }
}

function beginsWord(source: string, at: number): boolean {
  if (at >= source.length) return false;
  const { kind } = foldCodePoint(source.codePointAt(at)!);
  return kind === CharKind.Word || kind === CharKind.Spaceless;
}

/**
 * A word of ASCII letters and digits is a slice of the text; anything else in it sends it the slow way from its start.
 */
function readPlain(source: string, start: number, visitor: WordVisitor): number {
  const length = source.length;
  let at = start;
  let capitals = false;
  for (; at < length; at++) {
    const unit = source.charCodeAt(at);
    if (unit >= 128) return readWord(source, start, visitor);
    const kind = ASCII_KINDS[unit]!;
    if (kind === Ascii.Plain) continue;
    if (kind === Ascii.Capital) capitals = true;
    else if (kind === Ascii.Slow) return readWord(source, start, visitor);
    else break;
  }
  const end = Math.min(at, start + MAX_WORD);
  const text = source.slice(start, end);
  visitor.word(capitals ? text.toLowerCase() : text, start, at, null);
  return at;
}

function readWord(source: string, start: number, visitor: WordVisitor): number {
  const length = source.length;
  let at = start;
  let end = start;
  let text = '';
  let apostrophes: number[] | null = null;
  while (at < length) {
    const code = source.codePointAt(at)!;
    const size = code > 0xffff ? 2 : 1;
    const folded = foldCodePoint(code);
    if (folded.kind === CharKind.Joiner) {
      const isBetween = at === end && at + 1 < length;
      if (!isBetween || foldCodePoint(source.codePointAt(at + 1)!).kind !== CharKind.Word) break;
      (apostrophes ??= []).push(at);
      at += 1;
      continue;
    }
    if (folded.kind === CharKind.Ignored) {
      at += size;
      continue;
    }
    if (folded.kind !== CharKind.Word && folded.kind !== CharKind.Accent) break;
    text = appendFolded(text, code, folded);
    at += size;
    end = at;
  }
  visitor.word(text.length > MAX_WORD ? cut(text) : text, start, end, apostrophes);
  return at;
}

function runEnd(source: string, start: number): number {
  let at = start;
  let end = start;
  while (at < source.length) {
    const code = source.codePointAt(at)!;
    const { kind } = foldCodePoint(code);
    at += code > 0xffff ? 2 : 1;
    if (kind === CharKind.Spaceless || kind === CharKind.Accent) end = at;
    else if (kind !== CharKind.Ignored) break;
  }
  return end;
}

export function cut(text: string): string {
  if (text.length <= MAX_WORD) return text;
  const last = text.charCodeAt(MAX_WORD - 1);
  return text.slice(0, last >= 0xd800 && last <= 0xdbff ? MAX_WORD - 1 : MAX_WORD);
}

/**
 * The words of a run without spaces, by `Intl.Segmenter` (UAX #29 with dictionaries). It is given composed letters of
 * full width, whatever is written: dictionaries know no others.
 */
export function wordsOfRun(source: string, start: number, end: number): Word[] {
  segmenter ??= new Intl.Segmenter(undefined, { granularity: 'word' });
  const letters = lettersOfRun(source, start, end);
  const composed = letters.map((letter) => {
    const written = source.slice(letter.start, letter.end);
    return written.normalize(NARROW_OR_WIDE.test(written) ? 'NFKC' : 'NFC');
  });
  const found: Word[] = [];
  let [letter, read] = [0, 0];
  for (const { segment, index } of segmenter.segment(composed.join(''))) {
    const from = letter;
    while (letter < letters.length && read < index + segment.length) read += composed[letter++]!.length;
    if (letter === from) continue;
    const own = textsOf(letters.slice(from, letter));
    found.push({ text: cut(own.join('')), start: letters[from]!.start, end: letters[letter - 1]!.end, letters: own });
  }
  return found;
}

const NARROW_OR_WIDE = /[\uff00-\uffef]/;

const textsOf = (words: readonly Word[]): string[] => words.map(({ text }) => text);

const MARK = /[\p{M}\uff9e\uff9f]/u;

/** The letters of a run without spaces, each with the signs that stand on it. */
export function lettersOfRun(source: string, start: number, end: number): Word[] {
  const found: Word[] = [];
  for (let at = start; at < end;) {
    const code = source.codePointAt(at)!;
    const from = at;
    const { text } = foldCodePoint(code);
    at += code > 0xffff ? 2 : 1;
    const last = found.at(-1);
    if (last !== undefined && (text === '' || MARK.test(source.slice(from, at)))) {
      last.text += text;
      last.end = at;
    } else if (text !== '') found.push({ text, start: from, end: at });
  }
  return found;
}

/** The parts between the apostrophes of a word, with where they stand. */
export function partsOf(source: string, start: number, end: number, apostrophes: readonly number[]): Word[] {
  return [start, ...apostrophes.map((at) => at + 1)].map((from, i) => {
    const to = apostrophes[i] ?? end;
    return { text: cut(foldLetters(source.slice(from, to))), start: from, end: to };
  });
}

/** Makes a list of what it is told; `ofRun` says what a run without spaces is. */
class WordList implements WordVisitor {
  readonly found: Word[] = [];
  readonly #source: string;
  readonly #ofRun: (source: string, start: number, end: number) => Word[];

  constructor(source: string, ofRun: (source: string, start: number, end: number) => Word[]) {
    this.#source = source;
    this.#ofRun = ofRun;
  }

  word(text: string, start: number, end: number, apostrophes: readonly number[] | null): void {
    if (apostrophes === null) this.found.push({ text, start, end });
    else this.found.push({ text, start, end, parts: textsOf(partsOf(this.#source, start, end, apostrophes)) });
  }

  run(start: number, end: number): void {
    this.found.push(...this.#ofRun(this.#source, start, end));
  }

  symbol(text: string, start: number, end: number, beside: -1 | 0 | 1): void {
    // One that touches a word belongs to it, like a full stop: `Acme®` is typed and meant as `Acme`.
    if (beside === 0) this.found.push({ text, start, end });
  }
}

function listed(source: string, ofRun: (source: string, start: number, end: number) => Word[]): Word[] {
  const list = new WordList(source, ofRun);
  eachWord(source, list);
  return list.found;
}

/** The words of a text as a list, and the signs that stand alone. */
export function words(source: string): Word[] {
  return listed(source, wordsOfRun);
}

/**
 * The words of a name, for finding what begins one: a run without spaces may be entered at each of its letters,
 * wherever a dictionary would part it.
 */
export function wordsOfName(source: string): Word[] {
  return listed(source, (_, start, end) =>
    lettersOfRun(source, start, end).map((letter) => {
      return { text: cut(foldLetters(source.slice(letter.start, end))), start: letter.start, end };
    }),
  );
}

/** The words of a text, a run without spaces as one: what is typed so far is then a beginning of what will be. */
export function stretches(source: string): Word[] {
  return listed(source, (_, start, end) => [{ text: foldLetters(source.slice(start, end)), start, end }]);
}

/**
 * The folded words of a text: the same for texts that differ in case, in accents and in what stands between the words.
 */
export function foldWords(source: string): string {
  return stretches(source)
    .map(({ text }) => text)
    .join(' ');
}

/**
 * Where, in the written text, the first `letters` folded units of the word `[start, end)` end; an accent that belongs
 * to the last of them is taken along. This is what lets the typed part of a longer word be marked.
 */
export function sourceEnd(source: string, start: number, end: number, letters: number): number {
  let at = start;
  let count = 0;
  while (at < end) {
    const code = source.codePointAt(at)!;
    const { text, kind } = foldCodePoint(code);
    // Only an accent belongs to the letter before it; an apostrophe or a hyphen belongs to what follows.
    if (count >= letters && kind !== CharKind.Accent) break;
    count += kind === CharKind.Symbol ? symbolLetters(source, at) : text.length;
    at = kind === CharKind.Symbol ? symbolEnd(source, at) : at + (code > 0xffff ? 2 : 1);
  }
  return at;
}

const symbolLetters = (source: string, at: number): number =>
  foldSymbol(source.slice(at, symbolEnd(source, at))).length;
