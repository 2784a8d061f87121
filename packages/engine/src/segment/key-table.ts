import { fnvOfBytes } from '../bytes/fnv.ts';
import { room } from '../bytes/room.ts';

/**
 * Record keys to documents: a hash table with open addressing in one flat array, at most four fifths full. An entry is
 * the document plus 1; 0 is empty. Keys are compared by their bytes.
 */

export function buildKeyTable(starts: Uint32Array, bytes: Uint8Array): Uint32Array {
  const docs = starts.length - 1;
  let size = 16;
  while (size < docs * 1.25) size *= 2;
  const table = room(Uint32Array, size);
  for (let doc = 0; doc < docs; doc++) {
    let at = fnvOfBytes(bytes, starts[doc]!, starts[doc + 1]!) & (size - 1);
    while (table[at] !== 0) at = (at + 1) & (size - 1);
    table[at] = doc + 1;
  }
  return table;
}

/** The documents with this key: a record that was changed may stand in one segment more than once. */
export function docsOfKey(table: Uint32Array, starts: Uint32Array, bytes: Uint8Array, key: Uint8Array): number[] {
  const found: number[] = [];
  const mask = table.length - 1;
  for (let at = fnvOfBytes(key, 0, key.length) & mask; table[at] !== 0; at = (at + 1) & mask) {
    const doc = table[at]! - 1;
    const from = starts[doc]!;
    if (starts[doc + 1]! - from !== key.length) continue;
    let same = true;
    for (let i = 0; same && i < key.length; i++) same = bytes[from + i] === key[i];
    if (same) found.push(doc);
  }
  return found;
}
