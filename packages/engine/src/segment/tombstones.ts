/**
 * Which documents of a segment are gone: one bit each. A set is never changed once a search may see it; a change makes
 * a new one, so that a query sees one generation from its first page to its facets.
 */
export class Tombstones {
  readonly bits: Uint32Array;
  readonly count: number;

  constructor(buffer: ArrayBufferLike, count: number) {
    this.bits = new Uint32Array(buffer);
    this.count = count;
  }

  static none(docs: number, allocate: (bytes: number) => ArrayBufferLike): Tombstones {
    return new Tombstones(allocate(Math.ceil(docs / 32) * 4), 0);
  }

  has(doc: number): boolean {
    return (this.bits[doc >>> 5]! & (1 << (doc & 31))) !== 0;
  }

  /** A new set with these documents gone too. */
  with(docs: Iterable<number>, allocate: (bytes: number) => ArrayBufferLike): Tombstones {
    const buffer = allocate(this.bits.byteLength);
    const bits = new Uint32Array(buffer);
    bits.set(this.bits);
    let count = this.count;
    for (const doc of docs) {
      const bit = 1 << (doc & 31);
      if ((bits[doc >>> 5]! & bit) !== 0) continue;
      bits[doc >>> 5]! |= bit;
      count++;
    }
    return new Tombstones(buffer, count);
  }
}
