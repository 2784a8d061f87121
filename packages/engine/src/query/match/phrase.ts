import { LIMITS } from '@yucca/contract';
import { GrowingArray } from '../../bytes/growing-array.ts';
import { ForwardCursor, isHead, isTokenOf, MAX_POSITION, POSITION_BITS, tokenStays } from '../../segment/forward.ts';
import type { Segment } from '../../segment/segment.ts';
import { findWord } from '../../segment/trie.ts';
import { DocSet } from '../../sets/doc-set.ts';

/** Where some words stand together: the first location in each document. Parallel arrays, documents ascending. */
export interface Occurrences {
  /** The words' numbers, in their order. */
  terms: readonly number[];
  docs: Uint32Array;
  /** `field << 10 | position` of the first word. */
  locations: Uint16Array;
}

const NOWHERE: Occurrences = { terms: [], docs: new Uint32Array(0), locations: new Uint16Array(0) };

/** Documents of a word beyond this are not gone through for a word that might be two: such a pair says nothing. */
export const MOST_FOR_SPLIT = 20_000;

/**
 * Finds the documents in which words stand side by side, in order, in a field that has a weight. Intersects the words'
 * documents field by field, or takes those the index names for two frequent words, and reads them.
 */
export function findTogether(
  segment: Segment,
  words: readonly string[],
  weights: ArrayLike<number>,
  mostDocs = Infinity,
): Occurrences {
  const terms = termsOf(segment, words);
  if (terms === null) return NOWHERE;
  const fewest = fewestPostings(segment, terms);
  if (fewest > mostDocs) return NOWHERE;
  const pair = rarestPair(segment, terms);
  if (pair !== -1 && terms.length === 2) return { terms, ...placesOf(segment, pair, weights) };
  const isKnown = pair !== -1 && segment.pairs.most(pair) < fewest;
  const likely = isKnown
    ? placesOf(segment, pair, weights).docs
    : holdingAll(segment, [...new Set(terms)], weights).list();
  const docs = new GrowingArray(Uint32Array);
  const locations = new GrowingArray(Uint16Array);
  readTogether(segment, likely, terms, weights, (doc, location) => {
    docs.push(doc);
    locations.push(location);
  });
  return { terms, docs: docs.view().slice(), locations: locations.view().slice() };
}

/** The words' numbers; null when one of them stands nowhere. */
function termsOf(segment: Segment, words: readonly string[]): number[] | null {
  // A synonym may be longer than any query; so much text hardly stands anywhere twice.
  const terms = words.slice(0, LIMITS.queryWords).map((word) => findWord(segment.trie, word));
  return terms.includes(-1) ? null : terms;
}

/** The most documents that some words can stand together in: those of the rarest, a document for each of its fields. */
export function mostTogether(segment: Segment, words: readonly string[]): number {
  const terms = termsOf(segment, words);
  return terms === null ? 0 : fewestPostings(segment, terms);
}

/** The documents in which the index says that a pair stands in a field with a weight, and its first location there. */
function placesOf({ pairs }: Segment, pair: number, weights: ArrayLike<number>): Omit<Occurrences, 'terms'> {
  const docs = new GrowingArray(Uint32Array);
  const locations = new GrowingArray(Uint16Array);
  pairs.each(pair, (doc, field, position) => {
    if (weights[field] === 0) return;
    const location = (field << POSITION_BITS) | position;
    const last = docs.length - 1;
    if (last === -1 || docs.array[last] !== doc) {
      docs.push(doc);
      locations.push(location);
    } else if (location < locations.array[last]!) {
      locations.array[last] = location;
    }
  });
  return { docs: docs.view(), locations: locations.view() };
}

/** How many documents have to be read to find some words together. */
export function workTogether(segment: Segment, words: readonly string[]): number {
  const terms = termsOf(segment, words);
  if (terms === null) return 0;
  const pair = rarestPair(segment, terms);
  const fewest = fewestPostings(segment, terms);
  return pair === -1 ? fewest : Math.min(fewest, segment.pairs.most(pair));
}

/** Of the pairs of neighbours that the index knows, the one in the fewest documents; -1 when it knows none. */
function rarestPair({ pairs }: Segment, terms: readonly number[]): number {
  let rarest = -1;
  for (let i = 1; i < terms.length; i++) {
    const pair = pairs.pairOf(terms[i - 1]!, terms[i]!);
    if (pair !== -1 && (rarest === -1 || pairs.most(pair) < pairs.most(rarest))) rarest = pair;
  }
  return rarest;
}

const fewestPostings = (segment: Segment, terms: readonly number[]): number =>
  Math.min(...terms.map((term) => segment.postStart(term + 1) - segment.postStart(term)));

/** Documents that hold all of some words in one field. */
function holdingAll(segment: Segment, terms: readonly number[], weights: ArrayLike<number>): DocSet {
  const { groupStarts, groupFields, groupPosts, postDocs } = segment;
  const groupOf = (term: number, field: number): number => {
    for (let group = groupStarts[term]!; group < groupStarts[term + 1]!; group++) {
      if (groupFields[group] === field) return group;
    }
    return -1;
  };
  const all = new DocSet(segment.docs);
  for (let field = 0; field < weights.length; field++) {
    if (weights[field] === 0) continue;
    const groups = terms.map((term) => groupOf(term, field));
    if (groups.includes(-1)) continue;
    const sets = groups.map((group) => {
      const set = new DocSet(segment.docs);
      for (let at = groupPosts[group]!; at < groupPosts[group + 1]!; at++) set.add(postDocs[at]!);
      return set;
    });
    all.or(sets.reduce((both, one) => both.and(one)));
  }
  return all;
}

/** The last bits of the words looked for: most other words are passed over by them. */
const likely = new Uint8Array(256);

/**
 * Visits the documents of a list in which words stand together, with the first such location. Document by document in
 * functions of their own: what is called often is compiled soon, a loop that is entered once runs long as it is
 * written.
 */
function readTogether(
  { forward, forwardStarts }: Segment,
  docs: Uint32Array,
  terms: readonly number[],
  weights: ArrayLike<number>,
  visit: (doc: number, location: number) => void,
): void {
  likely.fill(0);
  for (const term of terms) likely[term & 255] = 1;
  for (let i = 0; i < docs.length; i++) {
    const doc = docs[i]!;
    const [from, to] = [forwardStarts[doc]!, forwardStarts[doc + 1]!];
    // Most documents that hold all words do not hold them together, and that is seen much sooner.
    if (!holdsPair(forward, from, to, terms[0]!, terms[1]!)) continue;
    const location = firstTogether(forward, from, to, terms, weights);
    if (location !== -1) visit(doc, location);
  }
}

/**
 * The first location among some entries where words stand together, -1 without one: shift-and (Baeza-Yates and Gonnet
 * 1992) over locations instead of letters. Bit `i` of a state says that the first `i + 1` words end at that location;
 * parts and joined forms share a location, so the state of a location grows from the one before it.
 */
function firstTogether(
  forward: Int32Array,
  from: number,
  to: number,
  terms: readonly number[],
  weights: ArrayLike<number>,
): number {
  const last = terms.length - 1;
  let best = -1;
  let [before, here] = [0, 0];
  const at = new ForwardCursor(forward, from, to);
  while (at.next()) {
    const { field, term } = at;
    // A field with fewer words than the phrase cannot hold it; MOST_WORDS stands for any number above.
    if (at.fieldWords <= last || weights[field]! === 0) continue;
    if (at.token === 0) here = 0;
    if (!at.stays) {
      before = here;
      here = 0;
    }
    if (likely[term & 255] === 0) continue;
    here |= ((before << 1) | 1) & placesIn(terms, term);
    if ((here & (1 << last)) === 0) continue;
    const found = (field << POSITION_BITS) | Math.min(at.position - last, MAX_POSITION);
    if (best === -1 || found < best) best = found;
  }
  return best;
}

/** Whether a word stands right before another anywhere among some entries. */
function holdsPair(forward: Int32Array, from: number, to: number, first: number, second: number): boolean {
  for (let at = from; at < to; at++) {
    if (!isTokenOf(forward[at]!, first)) continue;
    let next = at + 1;
    while (next < to && !isHead(forward[next]!) && tokenStays(forward[next]!)) next++;
    if (next === to || isHead(forward[next]!)) continue;
    do {
      if (isTokenOf(forward[next]!, second)) return true;
      next++;
    } while (next < to && !isHead(forward[next]!) && tokenStays(forward[next]!));
  }
  return false;
}

/** Where a word stands in the phrase, as bits. */
function placesIn(terms: readonly number[], term: number): number {
  let bits = 0;
  for (let i = 0; i < terms.length; i++) if (terms[i] === term) bits |= 1 << i;
  return bits;
}
