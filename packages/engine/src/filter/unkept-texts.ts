import { LeafType } from '../columns/column.ts';
import { docsWithHash } from '../columns/text-hashes.ts';
import type { Segment } from '../segment/segment.ts';
import { DocSet } from '../sets/doc-set.ts';
import type { TextTest } from './value-test.ts';

// In nanoseconds: a look into the hashes and reading one record for it; comparing the beginning of a key.
const LOOK_UP_NS = 4_000;
const KEY_NS = 8;

/** How the documents that pass a test are found in a field whose texts stand in no column. */
export type TextLookUp =
  { by: 'hash'; texts: ReadonlySet<string> } | { by: 'allBut'; text: string } | { by: 'key'; beginning: string };

/** A way to find them without reading every record; null when there is none. */
export function lookUpFor(segment: Segment, path: string, test: TextTest): TextLookUp | null {
  if ((segment.typesOf(path) & LeafType.Boolean) !== 0 || segment.textHashes(path) === null) return null;
  if (test.only !== null) return { by: 'hash', texts: test.only };
  if (test.allBut !== null && segment.holdsSingleTexts(path)) return { by: 'allBut', text: test.allBut };
  if (test.beginning !== '' && segment.isKey(path)) return { by: 'key', beginning: test.beginning };
  return null;
}

/** How long a look-up takes, in nanoseconds. */
export function nsOfLookUp(segment: Segment, path: string, lookUp: TextLookUp): number {
  if (lookUp.by === 'hash') return lookUp.texts.size * LOOK_UP_NS;
  if (lookUp.by === 'key') return segment.docs * KEY_NS;
  return segment.textHashes(path)!.docs.length + LOOK_UP_NS;
}

/** Adds the documents that pass. */
export function addLookedUp(segment: Segment, path: string, test: TextTest, lookUp: TextLookUp, set: DocSet): void {
  switch (lookUp.by) {
    case 'hash':
      for (const text of lookUp.texts)
        if (test.passes(text)) for (const doc of docsWith(segment, path, text)) set.add(doc);
      return;
    case 'allBut': {
      // One text a document: what holds it holds no other.
      for (const doc of segment.textHashes(path)!.docs) set.add(doc);
      set.minus(DocSet.of(segment.docs, docsWith(segment, path, lookUp.text)));
      return;
    }
    case 'key':
      segment.eachKeyFrom(lookUp.beginning, (doc, key) => {
        if (test.passes(key)) set.add(doc);
      });
  }
}

/** The documents that hold a text; hashes are no proof, so each is read. */
function docsWith(segment: Segment, path: string, text: string): number[] {
  const found: number[] = [];
  segment.readIn(path, docsWithHash(segment.textHashes(path)!, text), (doc, value) => {
    if (value === text) found.push(doc);
  });
  return found;
}
