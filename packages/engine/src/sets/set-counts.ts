import { DocSet } from './doc-set.ts';

/**
 * In how many of some sets each document is, for all documents at once: counters stood on end. Plane `i` holds bit `i` of every
 * document's count, so one step of addition serves 32 documents (carry-save addition; Warren, Hacker's Delight, 5-1).
 */
export class SetCounts {
  readonly #docs: number;
  readonly #planes: DocSet[] = [];

  constructor(docs: number) {
    this.#docs = docs;
  }

  /** Counts one more for the documents of a set, but for those of another. */
  add({ bits }: DocSet, except: DocSet | null = null): void {
    const planes = this.#planes.map((plane) => plane.bits);
    const without = except?.bits;
    for (let i = 0; i < bits.length; i++) {
      let carry = without === undefined ? bits[i]! : bits[i]! & ~without[i]!;
      for (let level = 0; carry !== 0; level++) {
        if (level === planes.length) planes.push(this.#addPlane());
        const plane = planes[level]!;
        const before = plane[i]!;
        plane[i] = before ^ carry;
        carry &= before;
      }
    }
  }

  #addPlane(): Uint32Array {
    const plane = new DocSet(this.#docs);
    this.#planes.push(plane);
    return plane.bits;
  }

  /** Those documents of a set that are in so many. */
  equal(count: number, among: DocSet): DocSet {
    if (count >>> this.#planes.length !== 0) return new DocSet(this.#docs);
    const set = among.copy();
    this.#planes.forEach((plane, level) => {
      if (((count >>> level) & 1) === 1) set.and(plane);
      else set.minus(plane);
    });
    return set;
  }
}
