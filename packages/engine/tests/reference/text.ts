import { newStemmer } from 'snowball-stemmers';

export interface Token {
  text: string;
  start: number;
  end: number;
}

/** A token with the place of its word; parts and joined forms share the place of the word they begin with. */
export interface PlacedToken extends Token {
  place: number;
}

/** Folds a whole text; good for the plain Latin text the properties use. */
export function tokens(text: string): Token[] {
  const found: Token[] = [];
  for (const match of text.matchAll(
    /[\p{L}\p{N}][\p{L}\p{N}\u0300-\u036f]*(?:['’][\p{L}\p{N}][\p{L}\p{N}\u0300-\u036f]*)*/gu,
  )) {
    const folded = match[0]
      .toLowerCase()
      .normalize('NFD')
      .replace(/[\u0300-\u036f'’]/g, '')
      .replace(/ß/g, 'ss')
      .replace(/æ/g, 'ae')
      .replace(/ø/g, 'o');
    found.push({ text: folded, start: match.index, end: match.index + match[0].length });
  }
  return found;
}

/** Words, the parts of words that mix letters and digits, and words joined over a connector, alone or in chains. */
export function placedTokens(source: string): PlacedToken[] {
  const words = tokens(source);
  const found: PlacedToken[] = words.map((word, place) => ({ ...word, place }));
  words.forEach(({ text, start }, place) => {
    const parts = text.match(/\d+|\D+/g) ?? [];
    let at = start;
    for (const part of parts.length > 1 ? parts : []) {
      found.push({ text: part, start: at, end: at + part.length, place });
      at += part.length;
    }
  });
  const linked = (i: number): boolean =>
    i + 1 < words.length && /^[-/_.+&]$/.test(source.slice(words[i]!.end, words[i + 1]!.start));
  for (let from = 0; from < words.length; from++) {
    if (from > 0 && linked(from - 1)) continue;
    let to = from;
    while (linked(to)) to++;
    const count = to - from + 1;
    const join = (first: number, last: number): void => {
      found.push({
        text: words
          .slice(first, last + 1)
          .map(({ text }) => text)
          .join(''),
        start: words[first]!.start,
        end: words[last]!.end,
        place: first,
      });
    };
    if (count > 1 && count <= 4) join(from, to);
    if (count > 2) for (let i = from; i < to; i++) join(i, i + 1);
  }
  return found;
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

const english = newStemmer('english');

const stems = new Map<string, string>();

/** The English stem of a word; codes and short words are their own. */
export function stem(word: string): string {
  if (word.length < 3 || word.length > 32 || /\d/.test(word)) return word;
  const known = stems.get(word) ?? english.stem(word);
  stems.set(word, known);
  return known;
}
