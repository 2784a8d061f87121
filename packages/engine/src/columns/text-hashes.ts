import { fnvOfText } from '../bytes/fnv.ts';
import { GrowingArray } from '../bytes/growing-array.ts';

/**
 * The texts of a field of which nearly every document has its own, by their hashes: two bytes a text, where a column
 * would be a second copy of the field. A document that has a text is among those with its hash, one in 65,536 besides,
 * and these are read to be sure. Going through all hashes takes about a nanosecond each. The empty text, which half
 * of all documents may have, is told by its hash alone.
 */
export interface TextHashes {
  /** In the order of documents. */
  hashes: Uint16Array;
  /** The document of each, ascending; null where every document has one text. */
  docs: Uint32Array | null;
}

/** FNV-1a of 32 bits, folded by exclusive or (RFC 9923, section 4); 0 is the empty text and no other. */
function shortHash(text: string): number {
  if (text === '') return 0;
  const hash = fnvOfText(text);
  return (hash >>> 16) ^ (hash & 0xffff) || 1;
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
export function docsWithHash({ hashes, docs }: TextHashes, texts: readonly string[]): Uint32Array {
  const wanted = new Set(texts.map(shortHash));
  const found = new GrowingArray(Uint32Array);
  const take = (i: number): void => found.push(docs === null ? i : docs[i]!);
  const [hash] = wanted;
  if (wanted.size === 1) {
    // The machine's own search goes through many at once.
    for (let i = hashes.indexOf(hash!); i !== -1; i = hashes.indexOf(hash!, i + 1)) take(i);
  } else if (wanted.size > 1) {
    const flags = new Uint8Array(0x1_0000);
    for (const one of wanted) flags[one] = 1;
    for (let i = 0; i < hashes.length; i++) if (flags[hashes[i]!] === 1) take(i);
  }
  return found.view();
}
