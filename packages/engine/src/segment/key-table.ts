/**
 * Record keys to documents: a hash table with open addressing in one flat array, at most four fifths full. An entry is the
 * document plus 1; 0 is empty. Keys are compared by their bytes.
 */

/** FNV-1a, 32 bits (Fowler, Noll, Vo). */
function hash(bytes: Uint8Array, from: number, to: number): number {
  let value = 0x811c9dc5;
  for (let i = from; i < to; i++) value = Math.imul(value ^ bytes[i]!, 0x01000193);
  return value >>> 0;
}

export function buildKeyTable(starts: Uint32Array, bytes: Uint8Array): Uint32Array {
  const docs = starts.length - 1;
  let size = 16;
  while (size < docs * 1.25) size *= 2;
  const table = new Uint32Array(size);
  for (let doc = 0; doc < docs; doc++) {
    let at = hash(bytes, starts[doc]!, starts[doc + 1]!) & (size - 1);
    while (table[at] !== 0) at = (at + 1) & (size - 1);
    table[at] = doc + 1;
  }
  return table;
}

/** The documents with this key: a record that was changed may stand in one segment more than once. */
export function docsOfKey(table: Uint32Array, starts: Uint32Array, bytes: Uint8Array, key: Uint8Array): number[] {
  const found: number[] = [];
  const mask = table.length - 1;
  for (let at = hash(key, 0, key.length) & mask; table[at] !== 0; at = (at + 1) & mask) {
    const doc = table[at]! - 1;
    const from = starts[doc]!;
    if (starts[doc + 1]! - from !== key.length) continue;
    let same = true;
    for (let i = 0; same && i < key.length; i++) same = bytes[from + i] === key[i];
    if (same) found.push(doc);
  }
  return found;
}
