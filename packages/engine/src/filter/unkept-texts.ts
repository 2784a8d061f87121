import { LeafType } from '../columns/column.ts';
import { docsWithHash } from '../columns/text-hashes.ts';
import { memoByObject } from '../memo/by-object.ts';
import type { Segment } from '../segment/segment.ts';
import { DocSet } from '../sets/doc-set.ts';
import { docsWithWordsOf } from './beginnings.ts';
import type { TextTest } from './value-test.ts';

// In nanoseconds: a look into the table of keys; comparing the beginning of a key, or a hash; reading a record for one
// field, and each byte of it.
const KEY_NS = 300;
const COMPARE_NS = 8;
const HASH_NS = 1;
const RECORD_NS = 600;
const BYTE_NS = 4;

/** How the documents that pass a test are found in a field whose texts stand in no column. */
export type TextLookUp =
  | { by: 'key'; texts: ReadonlySet<string> }
  /** All but those of another way, where a document holds one text at the most. */
  | { by: 'allBut'; others: TextLookUp; text: string }
  | { by: 'keyFrom'; beginning: string }
  /** Those that are sure to pass, and those that may, which are read. */
  | { by: 'reading'; sure: Uint32Array; likely: Uint32Array };

/** A way to find them without reading every record; null when there is none. It is asked for twice: found once. */
export function lookUpFor(segment: Segment, path: string, test: TextTest): TextLookUp | null {
  const known = knownLookUps(test);
  let ofSegment = known.get(segment);
  if (ofSegment?.path !== path) known.set(segment, (ofSegment = { path, lookUp: findLookUp(segment, path, test) }));
  return ofSegment.lookUp;
}

/** The last one by segment: a test belongs to one field. */
const knownLookUps = memoByObject<TextTest, WeakMap<Segment, { path: string; lookUp: TextLookUp | null }>>(
  () => new WeakMap(),
);

function findLookUp(segment: Segment, path: string, test: TextTest): TextLookUp | null {
  const isKey = holdsKeys(segment, path);
  if (!isKey && !isHashed(segment, path)) return null;
  if (test.only !== null)
    return lookUpOf(
      segment,
      path,
      [...test.only].filter((text) => test.passes(text)),
    );
  if (test.allBut !== null && (isKey || segment.holdsSingleTexts(path)))
    return { by: 'allBut', text: test.allBut, others: lookUpOf(segment, path, [test.allBut]) };
  if (test.beginning === '') return null;
  if (isKey) return { by: 'keyFrom', beginning: test.beginning };
  const docs = docsWithWordsOf(segment, path, test.beginning);
  return docs === null ? null : { by: 'reading', sure: NONE, likely: docs };
}

/** How the documents with any of some texts are found. */
function lookUpOf(segment: Segment, path: string, texts: readonly string[]): TextLookUp {
  if (holdsKeys(segment, path)) return { by: 'key', texts: new Set(texts) };
  const hashes = segment.textHashes(path)!;
  // No other text has the hash of the empty one.
  const [empty, others] = [texts.filter((text) => text === ''), texts.filter((text) => text !== '')];
  return { by: 'reading', sure: docsWithHash(hashes, empty), likely: docsWithHash(hashes, others) };
}

/** Whether a field holds the key of every record, and no other text. */
const holdsKeys = (segment: Segment, path: string): boolean => segment.isKey(path) && segment.holdsSingleTexts(path);

/** Whether all that a field holds besides numbers are texts by their hashes. */
const isHashed = (segment: Segment, path: string): boolean =>
  (segment.typesOf(path) & LeafType.Boolean) === 0 && segment.textHashes(path) !== null;

const NONE = new Uint32Array(0);

/** How long a look-up takes, in nanoseconds. */
export function nsOfLookUp(segment: Segment, lookUp: TextLookUp): number {
  switch (lookUp.by) {
    case 'key':
      return lookUp.texts.size * KEY_NS;
    case 'allBut':
      return segment.docs * HASH_NS + nsOfLookUp(segment, lookUp.others);
    case 'keyFrom':
      return segment.docs * COMPARE_NS;
    case 'reading':
      return segment.docs * HASH_NS + lookUp.likely.length * nsOfRecord(segment);
  }
}

/** How long reading one record takes for one field, in nanoseconds; the mean of a segment. */
export const nsOfRecord = ({ docs, recordBytes }: Segment): number =>
  RECORD_NS + (BYTE_NS * recordBytes) / Math.max(1, docs);

/** Adds the documents that pass. */
export function addLookedUp(segment: Segment, path: string, test: TextTest, lookUp: TextLookUp, set: DocSet): void {
  switch (lookUp.by) {
    case 'key':
      for (const text of lookUp.texts) for (const doc of segment.docsOfKey(text)) set.add(doc);
      return;
    case 'allBut': {
      const others = new DocSet(segment.docs);
      const { text } = lookUp;
      addLookedUp(segment, path, { ...test, passes: (value) => value === text }, lookUp.others, others);
      addWithText(segment, path, set);
      set.minus(others);
      return;
    }
    case 'keyFrom':
      segment.eachKeyFrom(lookUp.beginning, (doc) => {
        if (test.isBeginning || test.passes(segment.key(doc))) set.add(doc);
      });
      return;
    case 'reading':
      for (const doc of lookUp.sure) set.add(doc);
      segment.readIn(path, lookUp.likely, (doc, value) => {
        if (typeof value === 'string' && test.passes(value)) set.add(doc);
      });
  }
}

/** Adds the documents that hold a text in a field of which there are hashes, or keys. */
export function addWithText(segment: Segment, path: string, set: DocSet): void {
  const docs = holdsKeys(segment, path) ? null : segment.textHashes(path)!.docs;
  if (docs === null) set.or(DocSet.all(segment.docs));
  else for (const doc of docs) set.add(doc);
}

/** Whether it is known without reading records which documents hold anything in a field that has no column. */
export const knowsHolders = (segment: Segment, path: string): boolean =>
  holdsKeys(segment, path) || isHashed(segment, path);
