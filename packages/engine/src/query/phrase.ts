import {
  headField,
  headStart,
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
  const terms = words.map((word) => findWord(segment.trie, word));
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
 * The first place in a document where the words stand together, or -1. `reached[i]` is the place at which the first `i + 1`
 * words end, so one pass does.
 */
function firstTogether(
  { forward, forwardStarts }: Segment,
  doc: number,
  terms: readonly number[],
  counts: (field: number) => boolean,
): number {
  const reached = new Int32Array(terms.length).fill(-2);
  let [field, place, best] = [0, -1, -1];
  for (let at = forwardStarts[doc]!; at < forwardStarts[doc + 1]!; at++) {
    const entry = forward[at]!;
    if (isHead(entry)) {
      field = headField(entry);
      place = headStart(entry) - 1;
      reached.fill(-2);
      continue;
    }
    if (!tokenStays(entry)) place++;
    const term = tokenTerm(entry);
    for (let i = terms.length - 1; i >= 0; i--) {
      if (term === terms[i] && (i === 0 || reached[i - 1] === place - 1)) reached[i] = place;
    }
    if (reached[terms.length - 1] !== place || !counts(field)) continue;
    const found = (field << POSITION_BITS) | Math.min(place - terms.length + 1, MAX_POSITION);
    if (best === -1 || found < best) best = found;
  }
  return best;
}
