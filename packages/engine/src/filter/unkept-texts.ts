import { LeafType } from '../columns/column.ts';
import { docsWithHash } from '../columns/text-hashes.ts';
import type { Segment } from '../segment/segment.ts';
import { DocSet } from '../sets/doc-set.ts';
import { docsWithWordsOf } from './beginnings.ts';
import type { TextTest } from './value-test.ts';

// In nanoseconds: a look into the table of keys; comparing the beginning of a key, or a hash; reading a record.
const KEY_NS = 300;
const COMPARE_NS = 8;
const HASH_NS = 1;
const READ_NS = 4_000;
/** One text in so many has the hash of another. */
const HASHES = 0x1_0000;

/** How the documents that pass a test are found in a field whose texts stand in no column. */
export type TextLookUp =
  | { by: 'key'; texts: ReadonlySet<string> }
  | { by: 'hash'; texts: ReadonlySet<string> }
  | { by: 'allBut'; text: string }
  | { by: 'keyFrom'; beginning: string }
  /** `docs` may pass, and are read. */
  | { by: 'words'; docs: Uint32Array };

/** A way to find them without reading every record; null when there is none. */
export function lookUpFor(segment: Segment, path: string, test: TextTest): TextLookUp | null {
  const isKey = holdsKeys(segment, path);
  if (!isKey && !isHashed(segment, path)) return null;
  if (test.only !== null) return { by: isKey ? 'key' : 'hash', texts: test.only };
  if (test.allBut !== null && (isKey || segment.holdsSingleTexts(path))) return { by: 'allBut', text: test.allBut };
  if (test.beginning === '') return null;
  if (isKey) return { by: 'keyFrom', beginning: test.beginning };
  const docs = docsWithWordsOf(segment, path, test.beginning);
  return docs === null ? null : { by: 'words', docs };
}

/** Whether a field holds the key of every record, and no other text. */
const holdsKeys = (segment: Segment, path: string): boolean => segment.isKey(path) && segment.holdsSingleTexts(path);

/** Whether all that a field holds besides numbers are texts by their hashes. */
const isHashed = (segment: Segment, path: string): boolean =>
  (segment.typesOf(path) & LeafType.Boolean) === 0 && segment.textHashes(path) !== null;

/** How long a look-up takes, in nanoseconds. */
export function nsOfLookUp(segment: Segment, path: string, lookUp: TextLookUp): number {
  switch (lookUp.by) {
    case 'key':
      return lookUp.texts.size * KEY_NS;
    case 'hash': {
      const { length } = segment.textHashes(path)!.hashes;
      return length * HASH_NS + lookUp.texts.size * (1 + length / HASHES) * READ_NS;
    }
    case 'allBut':
      return segment.docs * HASH_NS + READ_NS;
    case 'keyFrom':
      return segment.docs * COMPARE_NS;
    case 'words':
      return lookUp.docs.length * READ_NS;
  }
}

/** Adds the documents that pass. */
export function addLookedUp(segment: Segment, path: string, test: TextTest, lookUp: TextLookUp, set: DocSet): void {
  switch (lookUp.by) {
    case 'key':
    case 'hash': {
      const texts = new Set([...lookUp.texts].filter((text) => test.passes(text)));
      for (const doc of docsWith(segment, path, texts)) set.add(doc);
      return;
    }
    case 'allBut':
      // One text a document: what holds it holds no other.
      addWithText(segment, path, set);
      set.minus(DocSet.of(segment.docs, docsWith(segment, path, new Set([lookUp.text]))));
      return;
    case 'keyFrom':
      segment.eachKeyFrom(lookUp.beginning, (doc) => {
        if (test.isBeginning || test.passes(segment.key(doc))) set.add(doc);
      });
      return;
    case 'words':
      segment.readIn(path, lookUp.docs, (doc, value) => {
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

/** The documents that hold any of some texts; hashes are no proof, so each is read. */
function docsWith(segment: Segment, path: string, texts: ReadonlySet<string>): number[] {
  if (holdsKeys(segment, path)) return [...texts].flatMap((text) => segment.docsOfKey(text));
  const found: number[] = [];
  segment.readIn(path, docsWithHash(segment.textHashes(path)!, texts), (doc, value) => {
    if (typeof value === 'string' && texts.has(value)) found.push(doc);
  });
  return found;
}
