const collator = new Intl.Collator('en', { numeric: true });

/** Longer runs of digits are compared in parts (UTS 35, numeric ordering, as ICU does it). */
const MOST_DIGITS = 254;

/** The places of ASCII characters in the order of the collator; both cases of a letter have one. */
const RANKS = ranksOf(Array.from({ length: 95 }, (_, i) => String.fromCharCode(32 + i)));

function ranksOf(characters: string[]): Uint8Array {
  const { compare } = new Intl.Collator('en', { sensitivity: 'base' });
  const ranks = new Uint8Array(128);
  let rank = 0;
  characters.sort(compare).forEach((character, i, sorted) => {
    if (i > 0 && compare(sorted[i - 1]!, character) !== 0) rank++;
    ranks[character.charCodeAt(0)] = rank;
  });
  return ranks;
}

/**
 * Names as people put them in order: the Unicode Collation Algorithm (UTS 10) with numbers by their value, so that
 * "10 cm" follows "9 cm". What the collator of the system says, told in a fraction of the time where both are plain
 * ASCII: by the first character that differs in more than its case, then lower case first.
 */
export function compareNatural(a: string, b: string): number {
  let i = 0;
  let j = 0;
  let byCase = 0;
  while (i < a.length && j < b.length) {
    const x = a.charCodeAt(i);
    const y = b.charCodeAt(j);
    if (isDigit(x) && isDigit(y)) {
      const [from, other] = [endOfZeros(a, i), endOfZeros(b, j)];
      i = endOfDigits(a, from);
      j = endOfDigits(b, other);
      const longer = i - from - (j - other);
      if (i - from > MOST_DIGITS || j - other > MOST_DIGITS) return collator.compare(a, b);
      let more = longer;
      for (let at = 0; more === 0 && at < i - from; at++) more = a.charCodeAt(from + at) - b.charCodeAt(other + at);
      if (more === 0) continue;
      return isPlainAt(a, i) && isPlainAt(b, j) ? more : collator.compare(a, b);
    }
    if (!isPlain(x) || !isPlain(y)) return collator.compare(a, b);
    const later = RANKS[x]! - RANKS[y]!;
    if (later !== 0) return isPlainAt(a, i + 1) && isPlainAt(b, j + 1) ? later : collator.compare(a, b);
    // Capitals come before small letters in ASCII, and behind them here.
    if (byCase === 0) byCase = y - x;
    i++;
    j++;
  }
  if (i < a.length) return isPlainAt(a, i) ? 1 : collator.compare(a, b);
  if (j < b.length) return isPlainAt(b, j) ? -1 : collator.compare(a, b);
  return byCase;
}

/** Printable ASCII: nearly all that names are written in. */
const isPlain = (unit: number): boolean => unit >= 0x20 && unit < 0x7f;

/** Whether what stands somewhere cannot change what stands before it, as an accent does. */
const isPlainAt = (text: string, at: number): boolean => at >= text.length || isPlain(text.charCodeAt(at));

const isDigit = (unit: number): boolean => unit >= 0x30 && unit <= 0x39;

function endOfZeros(text: string, at: number): number {
  while (text.charCodeAt(at) === 0x30) at++;
  return at;
}

function endOfDigits(text: string, at: number): number {
  while (isDigit(text.charCodeAt(at))) at++;
  return at;
}
