import { headField, isHead, tokenStays, tokenTerm } from '../../segment/forward.ts';
import { CLASSES, lengthStep } from '../../segment/impact.ts';
import type { Segment } from '../../segment/segment.ts';
import { findWord } from '../../segment/trie.ts';
import { firstNotBelow } from '../../sets/sorted.ts';
import { DocSet } from '../../sets/doc-set.ts';
import { LONGEST_CHAIN } from '../../text/tokens.ts';
import { LeafType } from '../../columns/leaf-type.ts';
import { WholeField, type FieldWeights } from '../match/field-weights.ts';
import type { ParsedQuery } from '../parse/parse-query.ts';

/**
 * A value that *is* what was typed stands before one that holds it: asked "jfk", the airport whose code is JFK before
 * the one that is named after him; asked "fe", iron. Within the same words and typos, and below what a placement lifts,
 * records come in these classes:
 *
 *   code    one value of a code is the query (codes: the key, and fields that are set to match without typos);
 *   value   one value of another of the heavier fields is (at least half the weight of the heaviest);
 *   rest    all others.
 *
 * A value is the query when its words are the query's words, or when both are the same letters and digits run together
 * and the value is a code of a few parts: `AG-204/B` is `ag204b`. Of a list each value counts. Lighter fields do not
 * count, because their values say of what kind a record is, which many records share: lavender-coloured irises are not
 * what "lavender" asks for first.
 */
export const Whole = { Code: 0, Value: 1, Rest: 2 } as const;
export type Whole = (typeof Whole)[keyof typeof Whole];

/** Documents of one segment that hold the query as a value; null for none. */
export interface WholeValues {
  code: DocSet | null;
  value: DocSet | null;
}

const NONE: WholeValues = { code: null, value: null };

/** What a value is compared with. */
interface Wanted {
  /** The query's words in their order, as words of the dictionary; null when one of them stands nowhere. */
  terms: readonly number[] | null;
  /** All of them run together; -1 when that stands nowhere. */
  joined: number;
  /** Whether that may be a code of several parts: one with a digit in it. */
  isCode: boolean;
  letters: number;
}

function wantedIn({ trie }: Segment, { whole, dropped }: ParsedQuery): Wanted | null {
  if (whole.length === 0 || dropped.length > 0) return null;
  const terms = whole.map((text) => findWord(trie, text));
  const run = whole.join('');
  const isCode = /[0-9]/.test(run);
  const joined = whole.length === 1 ? terms[0]! : isCode ? findWord(trie, run) : -1;
  const isKnown = !terms.includes(-1);
  return isKnown || joined !== -1 ? { terms: isKnown ? terms : null, joined, isCode, letters: run.length } : null;
}

/** Finds them among some results. What holds a value holds every word as written, so all are of the best tier. */
export function wholeValues(
  segment: Segment,
  query: ParsedQuery,
  { whole }: FieldWeights,
  results: DocSet,
): WholeValues {
  const wanted = wantedIn(segment, query);
  if (wanted === null) return NONE;
  const found: { code: DocSet | null; value: DocSet | null } = { code: null, value: null };
  for (let field = 0; field < whole.length; field++) {
    if (whole[field] === WholeField.None) continue;
    const kind = whole[field] === WholeField.Code ? 'code' : 'value';
    eachLikely(segment, wanted, field, (doc) => {
      if (!results.has(doc) || found[kind]?.has(doc) || !holdsWhole(segment, doc, field, wanted)) return;
      (found[kind] ??= new DocSet(segment.docs)).add(doc);
    });
  }
  return found.code === null && found.value === null ? NONE : found;
}

export function wholeOf({ code, value }: WholeValues, doc: number): Whole {
  if (code?.has(doc)) return Whole.Code;
  return value?.has(doc) ? Whole.Value : Whole.Rest;
}

/** The field in which a document holds the query as a value, as `kind` says; for explanations. -1 for none. */
export function fieldOfWhole(
  segment: Segment,
  query: ParsedQuery,
  { whole }: FieldWeights,
  doc: number,
  kind: Whole,
): number {
  const wanted = wantedIn(segment, query);
  const of = kind === Whole.Code ? WholeField.Code : WholeField.Value;
  return wanted === null ? -1 : whole.findIndex((one, field) => one === of && holdsWhole(segment, doc, field, wanted));
}

/** Values of more words are not run together, see text/tokens.ts. */
const MOST_JOINED = lengthStep(LONGEST_CHAIN) + 1;

/** Visits the documents that hold the first word, or all run together, where a value of so many words may begin. */
function eachLikely(
  segment: Segment,
  { terms, joined, isCode }: Wanted,
  field: number,
  visit: (doc: number) => void,
): void {
  const path = segment.meta.searchFields[field]!;
  const isSingle = segment.typesOf(path) === LeafType.String && segment.holdsSingleTexts(path);
  const first = terms?.[0] ?? -1;
  // The first value of a field begins at its start, so the other classes of a field with but one need no look.
  if (first !== -1 && first !== joined) {
    const step = lengthStep(terms!.length);
    eachPosting(segment, first, field, isSingle ? [step, step + 1] : [0, CLASSES], visit);
  }
  if (joined !== -1)
    eachPosting(segment, joined, field, isSingle ? [0, isCode ? MOST_JOINED : 1] : [0, CLASSES], visit);
}

/** The documents of a word in a field, of impact classes `[from, to)` where its postings are parted. */
function eachPosting(
  { groupStarts, groupFields, groupPosts, postDocs, partedGroups, classStarts }: Segment,
  term: number,
  field: number,
  [from, to]: readonly [number, number],
  visit: (doc: number) => void,
): void {
  for (let group = groupStarts[term]!; group < groupStarts[term + 1]!; group++) {
    if (groupFields[group] !== field) continue;
    let [at, end] = [groupPosts[group]!, groupPosts[group + 1]!];
    const parted = firstNotBelow(partedGroups, group);
    if (partedGroups[parted] === group) {
      if (to < CLASSES) end = classStarts[parted * CLASSES + to]!;
      at = classStarts[parted * CLASSES + from]!;
    }
    for (; at < end; at++) visit(postDocs[at]!);
  }
}

/** Whether one value of a field of a document is what is wanted. */
function holdsWhole(
  { forward, forwardStarts, termLengths }: Segment,
  doc: number,
  field: number,
  wanted: Wanted,
): boolean {
  const { terms, joined, isCode, letters } = wanted;
  const end = forwardStarts[doc + 1]!;
  let at = forwardStarts[doc]!;
  while (at < end) {
    // At the head of a value.
    const isOf = headField(forward[at]!) === field;
    at++;
    // Of the value at hand: its words, whether they are the wanted ones so far, whether it begins with all joined.
    let [words, sum, isSame, begins] = [0, 0, isOf && terms !== null, false];
    for (; at < end && !isHead(forward[at]!); at++) {
      if (!isOf) continue;
      const term = tokenTerm(forward[at]!);
      const stays = tokenStays(forward[at]!);
      if (words === 0 || (words === 1 && stays)) begins ||= term === joined;
      if (stays) continue;
      isSame &&= term === terms![words];
      words++;
      sum += termLengths[term]!;
    }
    if (isSame && words === terms!.length) return true;
    if (begins && sum === letters && (isCode || words === 1)) return true;
  }
  return false;
}
