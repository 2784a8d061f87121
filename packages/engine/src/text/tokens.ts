import { cut, eachWord, lettersOfRun, partsOf, sourceEnd, wordsOfRun, type WordVisitor } from './words.ts';

/**
 * Which rules make words of texts. An index that was made by other rules is made again, beside the one that answers:
 * this number grows with every change of what `eachToken` visits.
 */
export const TEXT_RULES = 2;

/**
 * Visits one token: folded text, `[start, end)` in UTF-16 units, and the position of its (first) word, counted from 0.
 */
export type VisitToken = (text: string, start: number, end: number, position: number) => void;

/** What may stand between the parts of one name or code: `AG-204/B`, `wi-fi`, `3.5`, `R&D`. */
const CONNECTORS = new Set([..."-‐‑‒–/_.·+&’'"].map((char) => char.charCodeAt(0)));
const ASCII_CONNECTORS = Uint8Array.from({ length: 128 }, (_, unit) => (CONNECTORS.has(unit) ? 1 : 0));

/** Asked behind every word, so plain text must cost one look; NaN past the end is none. */
function isConnector(unit: number): boolean {
  return unit < 128 ? ASCII_CONNECTORS[unit] === 1 : unit > 128 && CONNECTORS.has(unit);
}
/** Longer chains are paths and sentences without spaces, not names. */
export const LONGEST_CHAIN = 4;

interface Chain {
  texts: string[];
  starts: number[];
  ends: number[];
  position: number;
}

/** A part of one letter is no word: the `l` of `l'érable`, the `s` of `plant's`. */
const LEAST_PART = 2;

/**
 * Visits everything a text can be found by. Besides its words these are
 *
 *   parts    `204b` holds `204` and `b`, so that `3.5 mm` finds `3.5mm`; `l'érable` holds `erable`;
 *   joined   `wi-fi` is also `wifi`, `AG-204/B` is also `ag204b` (the whole, and neighbours);
 *   pairs    a run without spaces holds each two letters that stand side by side, and the last one alone, so that no
 *            way to part it into words hides what it holds; its words of other lengths count besides;
 *   signs    one that touches a word stands at its position, another is a word of its own.
 *
 * All but words and pairs stand at the position of the word they come from, behind it, so phrases and closeness do not
 * notice them. Returns the number of words.
 */
export function eachToken(source: string, visit: VisitToken): number {
  const reader = new TokenReader(source, visit);
  eachWord(source, reader);
  return reader.end();
}

/** The same, of no more than the beginning of a text that `isEnough`, as far as all before it is told. */
function eachTokenUntil(source: string, visit: VisitToken, isEnough: () => boolean): void {
  const reader = new TokenReader(source, visit);
  eachWord(source, reader, () => reader.isSettled && isEnough());
  reader.end();
}

class TokenReader implements WordVisitor {
  readonly #source: string;
  readonly #visit: VisitToken;
  #position = 0;
  #chain: Chain | null = null;
  /** Signs that belong to the word that comes. */
  #signs: { text: string; start: number; end: number }[] | null = null;

  constructor(source: string, visit: VisitToken) {
    this.#source = source;
    this.#visit = visit;
  }

  word(text: string, start: number, end: number, apostrophes: readonly number[] | null): void {
    const source = this.#source;
    const position = this.#position++;
    this.#visit(text, start, end, position);
    if (mixesDigits(text)) visitParts(source, text, start, end, position, this.#visit);
    if (apostrophes !== null)
      for (const part of partsOf(source, start, end, apostrophes))
        if (part.text.length >= LEAST_PART) this.#visit(part.text, part.start, part.end, position);
    if (this.#signs !== null) this.#visitSigns(position);
    const chain = this.#chain;
    if (chain !== null && start - chain.ends.at(-1)! === 1 && isConnector(source.charCodeAt(start - 1))) {
      chain.texts.push(text);
      chain.starts.push(start);
      chain.ends.push(end);
    } else {
      if (chain !== null) this.#endChain(chain);
      // A chain begins only where a connector follows: most words have a space behind them.
      if (isConnector(source.charCodeAt(end))) this.#chain = { texts: [text], starts: [start], ends: [end], position };
    }
  }

  /** The pairs and the words of a run without spaces; it takes a position for each letter. */
  run(start: number, end: number): void {
    const letters = lettersOfRun(this.#source, start, end);
    const found = wordsOfRun(this.#source, start, end);
    let word = 0;
    for (const [i, letter] of letters.entries()) {
      const next = letters[i + 1];
      const position = this.#position++;
      const pairEnd = (next ?? letter).end;
      this.#visit(cut(next === undefined ? letter.text : letter.text + next.text), letter.start, pairEnd, position);
      if (i === 0 && this.#signs !== null) this.#visitSigns(position);
      for (; word < found.length && found[word]!.start <= letter.start; word++) {
        const { text, start: from, end: to } = found[word]!;
        if (from === letter.start && to > pairEnd) this.#visit(text, from, to, position);
      }
    }
  }

  symbol(text: string, start: number, end: number, beside: -1 | 0 | 1): void {
    if (beside === 1) (this.#signs ??= []).push({ text, start, end });
    else this.#visit(text, start, end, beside === -1 ? this.#position - 1 : this.#position++);
  }

  /** Whether what comes stands behind all that was told. */
  get isSettled(): boolean {
    return this.#chain === null && this.#signs === null;
  }

  /** The number of words. */
  end(): number {
    if (this.#chain !== null) this.#endChain(this.#chain);
    return this.#position;
  }

  #visitSigns(position: number): void {
    for (const { text, start, end } of this.#signs!) this.#visit(text, start, end, position);
    this.#signs = null;
  }

  #endChain(chain: Chain): void {
    if (chain.texts.length > 1) visitJoined(chain, this.#visit);
    this.#chain = null;
  }
}

function mixesDigits(text: string): boolean {
  let digits = false;
  let letters = false;
  for (let i = 0; i < text.length; i++) {
    if (isDigit(text.charCodeAt(i))) digits = true;
    else letters = true;
  }
  return digits && letters;
}

const isDigit = (unit: number): boolean => unit >= 48 && unit <= 57;

/** `ag204b` as `ag`, `204`, `b`: where letters meet digits. */
export function splitAtDigits(text: string): string[] {
  const parts: string[] = [];
  for (let from = 0; from < text.length;) {
    const isOfDigits = isDigit(text.charCodeAt(from));
    let to = from + 1;
    while (to < text.length && isDigit(text.charCodeAt(to)) === isOfDigits) to++;
    parts.push(text.slice(from, to));
    from = to;
  }
  return parts;
}

function visitParts(
  source: string,
  text: string,
  start: number,
  end: number,
  position: number,
  visit: VisitToken,
): void {
  let letters = 0;
  let from = start;
  for (const part of splitAtDigits(text)) {
    letters += part.length;
    const to = letters === text.length ? end : sourceEnd(source, start, end, letters);
    visit(part, from, to, position);
    from = to;
  }
}

function visitJoined({ texts, starts, ends, position }: Chain, visit: VisitToken): void {
  const count = texts.length;
  const join = (from: number, to: number): void =>
    visit(texts.slice(from, to).join(''), starts[from]!, ends[to - 1]!, position + from);
  if (count <= LONGEST_CHAIN) join(0, count);
  if (count > 2) for (let i = 0; i + 2 <= count; i++) join(i, i + 2);
}

/** The words a text is compared by when it is a whole: one for each position. */
export function wholeWords(source: string): string[] {
  const found: string[] = [];
  for (const { text, position } of tokensInPlace(source)) if (position === found.length) found.push(text);
  return found;
}

/**
 * The words of a text that is looked for as it stands. A run at its end may go on in what holds it: its last letter
 * stands alone only at the end of a run.
 */
export function phraseWords(source: string): string[] {
  const found = tokensInPlace(source);
  const last = found.at(-1)?.position ?? -1;
  const ending = found.find(({ position }) => position === last);
  const before = found.find(({ position }) => position === last - 1);
  const isPaired = ending !== undefined && before !== undefined && before.end === ending.end;
  return wholeWords(source).slice(0, isPaired ? -1 : undefined);
}

/** A token as a list entry. */
export interface Token {
  text: string;
  start: number;
  end: number;
  position: number;
}

export function tokens(source: string): Token[] {
  return firstTokens(source, Infinity);
}

/** So many tokens of a text or some more; all of it where there are not as many. */
function firstTokens(source: string, count: number): Token[] {
  const found: Token[] = [];
  const visit: VisitToken = (text, start, end, position) => void found.push({ text, start, end, position });
  if (count === Infinity) eachToken(source, visit);
  else eachTokenUntil(source, visit, () => found.length >= count);
  return found;
}

/**
 * Tokens in the order of their positions, as the index keeps them: joined forms stand with their first word. `count`:
 * how many of them are wanted; there may be more.
 */
export function tokensInPlace(source: string, count = Infinity): Token[] {
  const found = firstTokens(source, count);
  for (let i = 1; i < found.length; i++) {
    if (found[i]!.position < found[i - 1]!.position) return found.sort((a, b) => a.position - b.position);
  }
  return found;
}

/** HTML with its tags and character references blanked out, so that what is left stands where it stood. */
export function blankTags(html: string): string {
  return html.replace(/<[^>]*>|&#?\w{1,31};/g, (tag) => ' '.repeat(tag.length));
}
