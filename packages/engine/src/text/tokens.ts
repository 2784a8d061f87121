import { eachWord, sourceEnd } from './words.ts';

/** Visits one token: folded text, `[start, end)` in UTF-16 units, and the place of its (first) word, counted from 0. */
export type VisitToken = (text: string, start: number, end: number, place: number) => void;

/** What may stand between the parts of one name or code: `AG-204/B`, `wi-fi`, `3.5`, `R&D`. */
const CONNECTORS = new Set([..."-‐‑‒–/_.·+&’'"].map((char) => char.charCodeAt(0)));
const ASCII_CONNECTORS = Uint8Array.from({ length: 128 }, (_, unit) => (CONNECTORS.has(unit) ? 1 : 0));

/** Asked behind every word, so plain text must cost one look; NaN past the end is none. */
function isConnector(unit: number): boolean {
  return unit < 128 ? ASCII_CONNECTORS[unit] === 1 : unit > 128 && CONNECTORS.has(unit);
}
/** Longer chains are paths and sentences without spaces, not names. */
const LONGEST_CHAIN = 4;

interface Chain {
  texts: string[];
  starts: number[];
  ends: number[];
  place: number;
}

/**
 * Visits everything a text can be found by. Besides its words these are
 *
 *   parts    `204b` holds `204` and `b`, so that `3.5 mm` finds `3.5mm`;
 *   joined   `wi-fi` is also `wifi`, `AG-204/B` is also `ag204b` (the whole, and neighbours).
 *
 * Parts and joined forms stand at the place of the word they come from, so phrases and closeness do not notice them.
 * Answers the number of words.
 */
export function eachToken(source: string, visit: VisitToken): number {
  let place = 0;
  let chain: Chain | null = null;
  eachWord(source, (text, start, end) => {
    visit(text, start, end, place);
    if (mixesDigits(text)) visitParts(source, text, start, end, place, visit);
    if (chain !== null && start - chain.ends.at(-1)! === 1 && isConnector(source.charCodeAt(start - 1))) {
      chain.texts.push(text);
      chain.starts.push(start);
      chain.ends.push(end);
    } else {
      if (chain !== null && chain.texts.length > 1) visitJoined(chain, visit);
      // A chain begins only where a connector follows: most words have a space behind them.
      chain = isConnector(source.charCodeAt(end)) ? { texts: [text], starts: [start], ends: [end], place } : null;
    }
    place++;
  });
  const last = chain as Chain | null;
  if (last !== null && last.texts.length > 1) visitJoined(last, visit);
  return place;
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
  return text.match(/[0-9]+|[^0-9]+/g) ?? [];
}

function visitParts(source: string, text: string, start: number, end: number, place: number, visit: VisitToken): void {
  let letters = 0;
  let from = start;
  for (const part of splitAtDigits(text)) {
    letters += part.length;
    const to = letters === text.length ? end : sourceEnd(source, start, end, letters);
    visit(part, from, to, place);
    from = to;
  }
}

function visitJoined({ texts, starts, ends, place }: Chain, visit: VisitToken): void {
  const count = texts.length;
  const join = (from: number, to: number): void =>
    visit(texts.slice(from, to).join(''), starts[from]!, ends[to - 1]!, place + from);
  if (count <= LONGEST_CHAIN) join(0, count);
  if (count > 2) for (let i = 0; i + 2 <= count; i++) join(i, i + 2);
}

/** A token as a list entry. */
export interface Token {
  text: string;
  start: number;
  end: number;
  place: number;
}

export function tokens(source: string): Token[] {
  const found: Token[] = [];
  eachToken(source, (text, start, end, place) => found.push({ text, start, end, place }));
  return found;
}

/** Tokens in the order of their places, as the index keeps them: joined forms stand with their first word. */
export function tokensInPlace(source: string): Token[] {
  const found = tokens(source);
  for (let i = 1; i < found.length; i++) {
    if (found[i]!.place < found[i - 1]!.place) return found.sort((a, b) => a.place - b.place);
  }
  return found;
}

/** HTML with its tags and character references blanked out, so that what is left stands where it stood. */
export function blankTags(html: string): string {
  return html.replace(/<[^>]*>|&#?\w{1,31};/g, (tag) => ' '.repeat(tag.length));
}
