import type { MatchKind } from '@yucca/contract';

/**
 * The text score, 0 to 100. For one word of the query in one position of a record:
 *
 *   points = field × form × start × length                                            each from 0 to 1
 *
 * and for the record, over the words of the query, each weighed by its idf:
 *
 *   text = 100 × closeness × Σ idf × points ÷ Σ idf
 *
 * Typos are no factor to trade against the others: results are ordered by typos first and by text after. `form` lets a
 * word as written stand above its synonyms and other forms, those above a beginning, within the same typos.
 */

/** How far each typo takes the points down: only results with other typos elsewhere are compared by it. */
const TRUST_BY_TYPOS = [1, 0.7, 0.5] as const;

/**
 * How much each way of matching a whole word is trusted. A beginning, and a part of a compound, never reaches the least
 * of them.
 */
const TRUST: Readonly<Record<MatchKind, number>> = {
  exact: 1,
  phrase: 1,
  joined: 0.97,
  split: 0.95,
  synonym: 0.92,
  stem: 0.9,
  compound: 1,
  prefix: 1,
  typo: 1,
};

/** How much an expansion counts at best: what `formFactor` gives a whole word. */
export function trustIn(how: MatchKind, typos: number): number {
  return TRUST[how] * (TRUST_BY_TYPOS[typos] ?? 0);
}

/** A whole word counts in full; a beginning the more, the more of the word is typed. */
export function formFactor(trust: number, whole: boolean, typedLetters: number, wordLetters: number): number {
  return whole ? trust : trust * (0.6 + 0.3 * Math.min(1, typedLetters / wordLetters));
}

/** The nearer the start of the field, the better. `position` counts words from 0. */
export function startFactor(position: number): number {
  return 0.9 + 0.1 / (1 + position);
}

/** A field that holds nothing but the query counts in full, a long text less. Counts are of words. */
export function lengthFactor(queryWords: number, fieldWords: number): number {
  return 0.8 + 0.2 * Math.min(1, queryWords / Math.max(1, fieldWords));
}

const knownLengths = new Map<number, Float64Array>();

/** `lengthFactor` by the words of a field, 0 to 255, for a query of so many words. */
export function lengthFactors(queryWords: number): Float64Array {
  let factors = knownLengths.get(queryWords);
  if (factors === undefined) {
    factors = Float64Array.from({ length: 256 }, (_, count) => lengthFactor(queryWords, count));
    knownLengths.set(queryWords, factors);
  }
  return factors;
}

/**
 * Inverse document frequency: the rarer a word, the more it counts (as in Robertson and Spärck Jones 1976, with 1
 * added so that it stays above 0). `found` is the number of records that hold it.
 */
export function idf(records: number, found: number): number {
  return Math.log(1 + (records + 1) / (Math.min(found, records) + 0.5));
}

/** Neighbouring words of the query found side by side in one field: 1 side by side in order, less the further apart. */
export function pairCloseness(fieldA: number, positionA: number, fieldB: number, positionB: number): number {
  if (fieldA !== fieldB) return 0;
  const step = positionB - positionA;
  if (step === 1) return 1;
  return 1 / (1 + Math.abs(step));
}

/** From the mean closeness of the pairs; 1 for a single word. */
export function closenessFactor(meanCloseness: number): number {
  return 0.8 + 0.2 * meanCloseness;
}

/** Points are whole numbers of this many, so that two bytes hold them and equal ones are equal. */
export const FULL_POINTS = 65_535;

/** Scores are compared at a thousandth of a point, so that the order does not hang on rounding. */
export function roundScore(score: number): number {
  return Math.round(score * 1000) / 1000;
}
