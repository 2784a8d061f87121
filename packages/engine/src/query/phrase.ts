import { LIMITS } from '@yucca/contract';
import {
  headField,
  headStart,
  headWords,
  isHead,
  MAX_POSITION,
  POSITION_BITS,
  tokenStays,
  tokenTerm,
} from '../segment/forward.ts';
import type { Segment } from '../segment/segment.ts';
import { findWord } from '../segment/trie.ts';
import { DocSet } from '../sets/doc-set.ts';

/** Where some words stand together: the first place in each document. Parallel arrays, documents ascending. */
export interface Occurrences {
  /** The words' numbers, in their order. */
  terms: readonly number[];
  docs: Uint32Array;
  /** `field << 10 | position` of the first word. */
  places: Uint16Array;
}

const NOWHERE: Occurrences = { terms: [], docs: new Uint32Array(0), places: new Uint16Array(0) };

/** Documents of a word beyond this are not gone through for a word that might be two: such words are no telling pair. */
export const MOST_FOR_SPLIT = 20_000;

/**
 * Finds the documents in which words stand side by side, in order, in a field that `counts`. Intersects the words'
 * documents, then reads those documents.
 */
export function findTogether(
  segment: Segment,
  words: readonly string[],
  counts: (field: number) => boolean,
  mostDocs = Infinity,
): Occurrences {
  // A synonym may be longer than any query; so much text hardly stands anywhere twice.
  const terms = words.slice(0, LIMITS.queryWords).map((word) => findWord(segment.trie, word));
  if (terms.includes(-1)) return NOWHERE;
  const size = (term: number): number => segment.postStart(term + 1) - segment.postStart(term);
  const byRarity = [...new Set(terms)].sort((a, b) => size(a) - size(b));
  if (size(byRarity[0]!) > mostDocs) return NOWHERE;
  const set = byRarity.map((term) => docsOf(segment, term)).reduce((all, one) => all.and(one));
  const docs: number[] = [];
  const places: number[] = [];
  for (const doc of set.list()) {
    const place = firstTogether(segment, doc, terms, counts);
    if (place === -1) continue;
    docs.push(doc);
    places.push(place);
  }
  return { terms, docs: Uint32Array.from(docs), places: Uint16Array.from(places) };
}

function docsOf(segment: Segment, term: number): DocSet {
  const set = new DocSet(segment.docs);
  for (let at = segment.postStart(term); at < segment.postStart(term + 1); at++) set.add(segment.postDocs[at]!);
  return set;
}

/**
 * The first place in a document where the words stand together, or -1: shift-and (Baeza-Yates and Gonnet 1992) over places
 * instead of letters. Bit `i` of a state says that the first `i + 1` words end at that place; parts and joined forms share
 * a place, so the state of a place grows from the one before it.
 */
function firstTogether(
  { forward, forwardStarts }: Segment,
  doc: number,
  terms: readonly number[],
  counts: (field: number) => boolean,
): number {
  const last = terms.length - 1;
  prepare(terms);
  let field = 0;
  let place = -1;
  let best = -1;
  let fits = false;
  let before = 0;
  let here = 0;
  for (let at = forwardStarts[doc]!, end = forwardStarts[doc + 1]!; at < end; at++) {
    const entry = forward[at]!;
    if (isHead(entry)) {
      field = headField(entry);
      place = headStart(entry) - 1;
      // A field with fewer words than the phrase cannot hold it; 255 stands for any number above.
      fits = headWords(entry) > last && counts(field);
      here = 0;
      continue;
    }
    if (!fits) continue;
    if (!tokenStays(entry)) {
      place++;
      before = here;
      here = 0;
    }
    const term = tokenTerm(entry);
    if (known[term & 255] === 0) continue;
    here |= ((before << 1) | 1) & placesIn(terms, term);
    if ((here & (1 << last)) === 0) continue;
    const found = (field << POSITION_BITS) | Math.min(place - last, MAX_POSITION);
    if (best === -1 || found < best) best = found;
  }
  return best;
}

/** Where a word stands in the phrase, as bits. */
function placesIn(terms: readonly number[], term: number): number {
  let bits = 0;
  for (let i = 0; i < terms.length; i++) if (terms[i] === term) bits |= 1 << i;
  return bits;
}

/** The last bits of the words looked for: most other words are passed over by them. */
const known = new Uint8Array(256);
let prepared: readonly number[] = [];

function prepare(terms: readonly number[]): void {
  if (prepared === terms) return;
  known.fill(0);
  for (const term of terms) known[term & 255] = 1;
  prepared = terms;
}
