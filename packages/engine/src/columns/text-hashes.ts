import { fnvOfText } from '../bytes/fnv.ts';
import { GrowingArray } from '../bytes/growing-array.ts';
import { orderBy } from '../bytes/radix-sort.ts';
import { room } from '../bytes/room.ts';

/**
 * The texts of a field of which nearly every document has its own, by their hashes: eight bytes a text, where a column
 * would be a second copy of the field. A document that has a text is among the few with its hash, and those are read to
 * be sure.
 */
export interface TextHashes {
  /** Ascending. */
  hashes: Uint32Array;
  /** The document of each. */
  docs: Uint32Array;
}

/** Collects the texts of one field. */
export class TextHashesBuilder {
  readonly #hashes = new GrowingArray(Uint32Array);
  readonly #docs = new GrowingArray(Uint32Array);

  /** The document of the text that was added last; -1 before the first. */
  get lastDoc(): number {
    return this.#docs.length === 0 ? -1 : this.#docs.array[this.#docs.length - 1]!;
  }

  add(doc: number, text: string): void {
    this.#hashes.push(fnvOfText(text));
    this.#docs.push(doc);
  }

  finish(): TextHashes {
    return sortedByHash(this.#hashes.view(), this.#docs.view());
  }
}

function sortedByHash(hashes: Uint32Array, docs: Uint32Array): TextHashes {
  const order = orderBy([hashes]);
  const sorted = { hashes: room(Uint32Array, hashes.length), docs: room(Uint32Array, docs.length) };
  for (let i = 0; i < order.length; i++) {
    sorted.hashes[i] = hashes[order[i]!]!;
    sorted.docs[i] = docs[order[i]!]!;
  }
  return sorted;
}

/** The documents that may hold a text, some of them twice: all that do, and hardly another. */
export function docsWithHash({ hashes, docs }: TextHashes, text: string): Uint32Array {
  const hash = fnvOfText(text);
  let [low, high] = [0, hashes.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (hashes[middle]! < hash) low = middle + 1;
    else high = middle;
  }
  let end = low;
  while (end < hashes.length && hashes[end] === hash) end++;
  return docs.subarray(low, end);
}
