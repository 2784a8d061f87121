import { DocSet } from './doc-set.ts';

/** Counts go up to 127, twice what the typos of a query can come to. */
const PLANES = 7;
/** Words of bits that are counted before the next: so much of all planes stays in the nearest cache. */
const BLOCK = 512;

/**
 * In how many of some sets each document is, for all documents at once: counters stood on end. Plane `i` holds bit `i`
 * of every document's count, so that one step of addition serves 32 documents. Eight sets are added at a time by a tree
 * of carry-save adders (Harley and Seal; Warren, Hacker's Delight, 5-1), without a branch but for what carries past 8.
 */
export class SetCounts {
  readonly #planes: Uint32Array[];
  /** Planes that counts of so many sets can reach. */
  readonly #levels: number;

  /** At most 127 sets, of so many documents each. */
  constructor(docs: number, counted: readonly DocSet[]) {
    this.#planes = Array.from({ length: PLANES }, () => new DocSet(docs).bits);
    this.#levels = 32 - Math.clz32(counted.length);
    const none = new DocSet(docs).bits;
    const sets = counted.map(({ bits }) => bits);
    while (sets.length % 8 !== 0) sets.push(none);
    for (let from = 0; from < none.length; from += BLOCK) {
      const to = Math.min(from + BLOCK, none.length);
      for (let s = 0; s < sets.length; s += 8) {
        addEight(this.#planes, sets.slice(s, s + 8), from, to);
      }
    }
  }

  /** Those documents of a set that are in the most of them, and in how many that is; the set must not be empty. */
  most(among: DocSet): { count: number; set: DocSet } {
    return this.#narrowed(among, 1);
  }

  /** Those that are in the fewest of them. */
  fewest(among: DocSet): { count: number; set: DocSet } {
    return this.#narrowed(among, 0);
  }

  /** From the highest plane down: those that have the bit which is wanted, or all when none has it. */
  #narrowed(among: DocSet, wanted: 0 | 1): { count: number; set: DocSet } {
    let set = among;
    let count = 0;
    for (let level = this.#levels - 1; level >= 0; level--) {
      const next = new DocSet(among.docs, true);
      const some = keepWhere(set.bits, this.#planes[level]!, wanted - 1, next.bits);
      if (some) set = next;
      count |= (some ? wanted : 1 - wanted) << level;
    }
    return { count, set: set === among ? among.copy() : set };
  }
}

/** Keeps what is set in a plane once that has been flipped; whether anything is left. */
function keepWhere(bits: Uint32Array, plane: Uint32Array, flip: number, kept: Uint32Array): boolean {
  let some = 0;
  for (let i = 0; i < bits.length; i++) some |= kept[i] = bits[i]! & (plane[i]! ^ flip);
  return some !== 0;
}

/** Counts eight sets into some words of the planes. */
function addEight(planes: readonly Uint32Array[], sets: readonly Uint32Array[], from: number, to: number): void {
  const [ones, twos, fours] = planes as [Uint32Array, Uint32Array, Uint32Array];
  const [s0, s1, s2, s3, s4, s5, s6, s7] = sets as Eight;
  for (let i = from; i < to; i++) {
    // Two sets and what is there make a sum, and a carry for the next plane; four adders for the ones, two for the
    // twos.
    let a = s0[i]!;
    let b = s1[i]!;
    let one = ones[i]!;
    let either = one ^ a;
    const two0 = (one & a) | (either & b);
    one = either ^ b;
    a = s2[i]!;
    b = s3[i]!;
    either = one ^ a;
    const two1 = (one & a) | (either & b);
    one = either ^ b;
    a = s4[i]!;
    b = s5[i]!;
    either = one ^ a;
    const two2 = (one & a) | (either & b);
    one = either ^ b;
    a = s6[i]!;
    b = s7[i]!;
    either = one ^ a;
    const two3 = (one & a) | (either & b);
    ones[i] = either ^ b;
    let two = twos[i]!;
    either = two ^ two0;
    const four0 = (two & two0) | (either & two1);
    two = either ^ two1;
    either = two ^ two2;
    const four1 = (two & two2) | (either & two3);
    twos[i] = either ^ two3;
    const four = fours[i]!;
    either = four ^ four0;
    let carry = (four & four0) | (either & four1);
    fours[i] = either ^ four1;
    for (let level = 3; carry !== 0; level++) {
      const plane = planes[level]!;
      const more = plane[i]! & carry;
      plane[i]! ^= carry;
      carry = more;
    }
  }
}

type Eight = [Uint32Array, Uint32Array, Uint32Array, Uint32Array, Uint32Array, Uint32Array, Uint32Array, Uint32Array];
