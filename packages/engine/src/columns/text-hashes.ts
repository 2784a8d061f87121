import { fnvOfText } from '../bytes/fnv.ts';
import { GrowingArray } from '../bytes/growing-array.ts';

/**
 * The texts of a field of which nearly every document has its own, by their hashes: two bytes a text, where a column
 * would be a second copy of the field. A document that has a text is among those with its hash, one in 65,536 besides,
 * and these are read to be sure. Going through all hashes takes less than a nanosecond each.
 */
export interface TextHashes {
  /** In the order of documents. */
  hashes: Uint16Array;
  /** The document of each, ascending; null where every document has one text. */
  docs: Uint32Array | null;
}

/** FNV-1a of 32 bits, folded by exclusive or (RFC 9923, section 4). */
function shortHash(text: string): number {
  const hash = fnvOfText(text);
  return (hash >>> 16) ^ (hash & 0xffff);
}

/** Collects the texts of one field. */
export class TextHashesBuilder {
  readonly #hashes = new GrowingArray(Uint16Array);
  readonly #docs = new GrowingArray(Uint32Array);

  /** The document of the text that was added last; -1 before the first. */
  get lastDoc(): number {
    return this.#docs.length === 0 ? -1 : this.#docs.array[this.#docs.length - 1]!;
  }

  /** Documents come in ascending order. */
  add(doc: number, text: string): void {
    this.#hashes.push(shortHash(text));
    this.#docs.push(doc);
  }

  /** `docs`: how many documents there are. */
  finish(docs: number): TextHashes {
    const held = this.#docs.view();
    const isEach = held.length === docs && held.every((doc, i) => doc === i);
    return { hashes: this.#hashes.view(), docs: isEach ? null : held };
  }
}

/** The documents that may hold any of some texts, some of them twice: all that do, and hardly another. */
export function docsWithHash({ hashes, docs }: TextHashes, texts: Iterable<string>): number[] {
  const wanted = new Set(Array.from(texts, shortHash));
  const found: number[] = [];
  const take = (i: number): void => void found.push(docs === null ? i : docs[i]!);
  if (wanted.size === 1) {
    // The machine's own search goes through many at once.
    const [hash] = wanted;
    for (let i = hashes.indexOf(hash!); i !== -1; i = hashes.indexOf(hash!, i + 1)) take(i);
    return found;
  }
  const flags = new Uint8Array(0x1_0000);
  for (const hash of wanted) flags[hash] = 1;
  for (let i = 0; i < hashes.length; i++) if (flags[hashes[i]!] === 1) take(i);
  return found;
}
