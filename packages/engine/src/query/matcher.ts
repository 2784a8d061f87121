import type { Segment } from '../segment/segment.ts';
import type { Tombstones } from '../segment/tombstones.ts';
import type { QueryWord } from './parse.ts';
import { closenessFactor, formFactor, lengthFactor, pairCloseness, roundScore, startFactor } from './score.ts';
import type { WordRun } from './typo-walk.ts';

/** What each indexed field of a segment counts: 0 = not searched. */
export interface FieldWeights {
  /** By field number, the heaviest searched field 1. */
  weights: Float64Array;
  /** By field number: 1 = never matches with a typo. */
  exact: Uint8Array;
}

/** The records of one segment that match every word, with what the order needs. Parallel arrays. */
export interface Matches {
  count: number;
  docs: Uint32Array;
  typos: Uint8Array;
  scores: Float64Array;
}

const POSITION_BITS = 10;
const POSITION_MASK = (1 << POSITION_BITS) - 1;

// Factors of the score looked up, not computed: the loop over postings is where a short beginning spends its time.
const START = Float64Array.from({ length: 1 << POSITION_BITS }, (_, position) => startFactor(position));

/**
 * Working memory for one segment size, kept between queries so that a keystroke allocates next to nothing. `stamp`
 * tells, for each record, the word of the query it was last touched for, so nothing needs clearing.
 */
class Scratch {
  readonly stamps: Uint32Array;
  readonly wordTypos: Uint8Array;
  readonly wordPoints: Float64Array;
  readonly wordPlaces: Uint16Array;
  readonly lastPlaces: Uint16Array;
  readonly typos: Uint8Array;
  readonly text: Float64Array;
  readonly closeness: Float64Array;
  readonly touched: Uint32Array;
  #stamp = 0;

  constructor(docs: number) {
    this.stamps = new Uint32Array(docs);
    this.wordTypos = new Uint8Array(docs);
    this.wordPoints = new Float64Array(docs);
    this.wordPlaces = new Uint16Array(docs);
    this.lastPlaces = new Uint16Array(docs);
    this.typos = new Uint8Array(docs);
    this.text = new Float64Array(docs);
    this.closeness = new Float64Array(docs);
    this.touched = new Uint32Array(docs);
  }

  /** `count` fresh consecutive stamps; the first of them. */
  takeStamps(count: number): number {
    if (this.#stamp + count > 0xffff_ffff) {
      this.stamps.fill(0);
      this.#stamp = 0;
    }
    const first = this.#stamp + 1;
    this.#stamp += count;
    return first;
  }
}

const scratches = new WeakMap<Segment, Scratch>();

/**
 * Finds the records that match every word. For each word, each record keeps its best reading: fewest typos, then most
 * points, then the earliest place. `tellings` are the words' weights, one a word, alike for all segments.
 */
export function matchWords(
  segment: Segment,
  dead: Tombstones,
  words: readonly QueryWord[],
  runs: readonly WordRun[][],
  fields: FieldWeights,
  tellings: readonly number[],
): Matches {
  let scratch = scratches.get(segment);
  if (scratch === undefined) scratches.set(segment, (scratch = new Scratch(segment.docs)));
  const stamp = scratch.takeStamps(words.length);
  let count = 0;
  words.forEach((word, index) => {
    count = matchWord(
      { segment, dead, word, runs: runs[index]!, fields, queryWords: words.length, index, stamp: stamp + index },
      scratch!,
    );
    settleWord(scratch!, index, count, tellings[index]!);
  });
  return score(scratch, count, words.length, tellings);
}

interface WordPass {
  segment: Segment;
  dead: Tombstones;
  word: QueryWord;
  runs: readonly WordRun[];
  fields: FieldWeights;
  queryWords: number;
  index: number;
  /** Of this word; the word before has one less. */
  stamp: number;
}

/** Goes over the postings of one word; answers how many records it left, listed in `scratch.touched`. */
function matchWord(
  { segment, dead, word, runs, fields, queryWords, index, stamp }: WordPass,
  scratch: Scratch,
): number {
  const { postStarts, postDocs, postPlaces, fieldWords, termLengths } = segment;
  const { stamps, wordTypos, wordPoints, wordPlaces, touched } = scratch;
  const { weights, exact } = fields;
  const width = segment.meta.searchFields.length;
  const noDead = dead.count === 0;
  const lengths = Float64Array.from({ length: 256 }, (_, words) => lengthFactor(queryWords, words));
  let count = 0;
  for (const { from, to, typos, whole } of runs) {
    for (let term = from; term < to; term++) {
      const form = formFactor(typos, whole, word.text.length, termLengths[term]!);
      for (let at = postStarts[term]!, end = postStarts[term + 1]!; at < end; at++) {
        const doc = postDocs[at]!;
        const seen = stamps[doc]!;
        // A record must have matched the word before; and a better reading of this word is never replaced.
        if (seen !== stamp && index > 0 && seen !== stamp - 1) continue;
        if (seen === stamp && wordTypos[doc]! < typos) continue;
        const place = postPlaces[at]!;
        const field = place >>> POSITION_BITS;
        const weight = weights[field]!;
        if (weight === 0 || (typos > 0 && exact[field] === 1)) continue;
        const points = weight * form * START[place & POSITION_MASK]! * lengths[fieldWords[doc * width + field]!]!;
        if (seen !== stamp) {
          if (!noDead && dead.has(doc)) continue;
          stamps[doc] = stamp;
          touched[count++] = doc;
        } else if (points < wordPoints[doc]! || (points === wordPoints[doc]! && place >= wordPlaces[doc]!)) {
          continue;
        }
        wordTypos[doc] = typos;
        wordPoints[doc] = points;
        wordPlaces[doc] = place;
      }
    }
  }
  return count;
}

/** Adds a finished word to the running sums of the records it matched. */
function settleWord(scratch: Scratch, index: number, count: number, weight: number): void {
  const { touched, wordTypos, wordPoints, wordPlaces, lastPlaces, typos, text, closeness } = scratch;
  for (let i = 0; i < count; i++) {
    const doc = touched[i]!;
    const place = wordPlaces[doc]!;
    if (index === 0) {
      typos[doc] = wordTypos[doc]!;
      text[doc] = weight * wordPoints[doc]!;
      closeness[doc] = 0;
    } else {
      const last = lastPlaces[doc]!;
      typos[doc]! += wordTypos[doc]!;
      text[doc]! += weight * wordPoints[doc]!;
      closeness[doc]! += pairCloseness(
        last >>> POSITION_BITS,
        last & POSITION_MASK,
        place >>> POSITION_BITS,
        place & POSITION_MASK,
      );
    }
    lastPlaces[doc] = place;
  }
}

function score(scratch: Scratch, count: number, words: number, tellings: readonly number[]): Matches {
  const docs = scratch.touched.slice(0, count);
  const typos = new Uint8Array(count);
  const scores = new Float64Array(count);
  let total = 0;
  for (const weight of tellings) total += weight;
  for (let i = 0; i < count; i++) {
    const doc = docs[i]!;
    const close = words > 1 ? closenessFactor(scratch.closeness[doc]! / (words - 1)) : 1;
    typos[i] = scratch.typos[doc]!;
    scores[i] = roundScore((100 * close * scratch.text[doc]!) / total);
  }
  return { count, docs, typos, scores };
}

/** Every living record of a segment, for the empty query. */
export function matchAll(segment: Segment, dead: Tombstones): Matches {
  const docs = new Uint32Array(segment.docs - dead.count);
  let count = 0;
  for (let doc = 0; doc < segment.docs; doc++) if (dead.count === 0 || !dead.has(doc)) docs[count++] = doc;
  return { count, docs, typos: new Uint8Array(count), scores: new Float64Array(count) };
}
