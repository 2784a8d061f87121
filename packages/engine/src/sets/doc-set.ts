/**
 * A set of documents of one segment: one bit each. 200,000 documents are 25 kB, which stays in the nearest cache of a
 * core, so adding a document costs about a nanosecond and combining two sets some microseconds. All matching, filtering
 * and choosing is done on these; lists of documents are made once, at the end.
 */
export class DocSet {
  readonly docs: number;
  readonly bits: Uint32Array;
  #isKept = false;

  constructor(docs: number) {
    this.docs = docs;
    this.bits = takeBits((docs + 31) >>> 5);
    scope?.push(this);
  }

  /**
   * Runs one search. The memory of every set made in it is used again by later searches, but for sets that are kept: a
   * search makes a dozen sets, and giving back so much memory so often is what the garbage collector would be busy with.
   */
  static scoped<T>(run: () => T): T {
    const outer = scope;
    const own: DocSet[] = [];
    scope = own;
    try {
      return run();
    } finally {
      scope = outer;
      for (const set of own) if (!set.#isKept) giveBack(set.bits);
    }
  }

  /** Lets the set outlive the search it is made in: for whatever is remembered. Answers itself. */
  keep(): this {
    this.#isKept = true;
    return this;
  }

  static all(docs: number): DocSet {
    const set = new DocSet(docs);
    set.bits.fill(0xffff_ffff);
    if ((docs & 31) !== 0) set.bits[set.bits.length - 1] = (1 << (docs & 31)) - 1;
    return set;
  }

  static of(docs: number, members: Iterable<number>): DocSet {
    const set = new DocSet(docs);
    for (const doc of members) set.add(doc);
    return set;
  }

  has(doc: number): boolean {
    return (this.bits[doc >>> 5]! & (1 << (doc & 31))) !== 0;
  }

  add(doc: number): void {
    this.bits[doc >>> 5]! |= 1 << (doc & 31);
  }

  copy(): DocSet {
    const copy = new DocSet(this.docs);
    copy.bits.set(this.bits);
    return copy;
  }

  /** Keeps what is also in `other`. Answers itself. */
  and(other: DocSet): this {
    const { bits } = this;
    for (let i = 0; i < bits.length; i++) bits[i]! &= other.bits[i]!;
    return this;
  }

  /** Adds what is in `other`. Answers itself. */
  or(other: DocSet): this {
    const { bits } = this;
    for (let i = 0; i < bits.length; i++) bits[i]! |= other.bits[i]!;
    return this;
  }

  /** Takes away what is in `other`. Answers itself. */
  minus(other: { bits: Uint32Array }): this {
    const { bits } = this;
    for (let i = 0; i < bits.length; i++) bits[i]! &= ~other.bits[i]!;
    return this;
  }

  /** How many documents, by counting bits in parallel (Warren, Hacker's Delight, 5-1). */
  count(): number {
    const { bits } = this;
    let sum = 0;
    for (let i = 0; i < bits.length; i++) {
      let word = bits[i]!;
      if (word === 0) continue;
      word -= (word >>> 1) & 0x5555_5555;
      word = (word & 0x3333_3333) + ((word >>> 2) & 0x3333_3333);
      sum += Math.imul((word + (word >>> 4)) & 0x0f0f_0f0f, 0x0101_0101) >>> 24;
    }
    return sum;
  }

  isEmpty(): boolean {
    for (let i = 0; i < this.bits.length; i++) if (this.bits[i] !== 0) return false;
    return true;
  }

  /** The documents, ascending. */
  list(): Uint32Array {
    const { bits } = this;
    if (listed.length < this.docs) listed = new Uint32Array(this.docs);
    let at = 0;
    for (let i = 0; i < bits.length; i++) {
      let word = bits[i]!;
      const base = i << 5;
      while (word !== 0) {
        listed[at++] = base + 31 - Math.clz32(word & -word);
        word &= word - 1;
      }
    }
    return listed.slice(0, at);
  }
}

/** The sets of the search that is running. */
let scope: DocSet[] | null = null;

/** Memory to use again, by length. */
const free = new Map<number, Uint32Array[]>();
const FREE_OF_A_LENGTH = 96;
/** Segments come and go, each with a length of its own. */
const LENGTHS = 24;

function takeBits(length: number): Uint32Array {
  const bits = scope === null ? undefined : free.get(length)?.pop();
  return bits === undefined ? new Uint32Array(length) : bits.fill(0);
}

function giveBack(bits: Uint32Array): void {
  let list = free.get(bits.length);
  if (list === undefined) {
    if (free.size >= LENGTHS) free.clear();
    free.set(bits.length, (list = []));
  }
  if (list.length < FREE_OF_A_LENGTH) list.push(bits);
}

/** Where lists are made before their length is known. */
let listed = new Uint32Array(0);
