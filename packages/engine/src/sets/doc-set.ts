/**
 * A set of documents of one segment: one bit each. 200,000 documents are 25 kB, which stays in the nearest cache of a
 * core, so adding a document costs about a nanosecond and combining two sets some microseconds. All matching, filtering
 * and choosing is done on these; lists of documents are made once, at the end.
 */
export class DocSet {
  readonly docs: number;
  readonly bits: Uint32Array;
  #isKept = false;

  /** An empty set; with `isOpen` a set of anything, for whoever sets every word of it. */
  constructor(docs: number, isOpen = false) {
    this.docs = docs;
    this.bits = takeBits((docs + 31) >>> 5, isOpen);
    scope?.sets.push(this);
  }

  /**
   * Runs one search. The memory of every set and list made in it is used again by later searches, but for sets that are
   * kept: a search makes a dozen sets, and giving back so much memory so often is what the garbage collector would be
   * busy with.
   */
  static scoped<T>(run: () => T): T {
    const outer = scope;
    const own: Scope = { sets: [], lists: [] };
    scope = own;
    try {
      return run();
    } finally {
      scope = outer;
      for (const set of own.sets) if (!set.#isKept) free.give(set.bits);
      for (const list of own.lists) freeLists.give(list);
    }
  }

  /** Lets the set outlive the search it is made in: for whatever is remembered. Returns itself. */
  keep(): this {
    this.#isKept = true;
    return this;
  }

  static all(docs: number): DocSet {
    const set = new DocSet(docs, true);
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
    const copy = new DocSet(this.docs, true);
    copy.bits.set(this.bits);
    return copy;
  }

  /** A set of what is in this one or another. */
  union({ bits: others }: DocSet): DocSet {
    const union = new DocSet(this.docs, true);
    for (let i = 0; i < others.length; i++) union.bits[i] = this.bits[i]! | others[i]!;
    return union;
  }

  /** A set of what is in this one and not in another. */
  without({ bits: others }: DocSet): DocSet {
    const left = new DocSet(this.docs, true);
    for (let i = 0; i < others.length; i++) left.bits[i] = this.bits[i]! & ~others[i]!;
    return left;
  }

  /** Keeps what is also in `other`. Returns itself. */
  and(other: DocSet): this {
    const { bits } = this;
    for (let i = 0; i < bits.length; i++) bits[i]! &= other.bits[i]!;
    return this;
  }

  /**
   * Keeps what is also in all others. The first few of many often have nothing in common; then the rest is not looked
   * at.
   */
  andAll(others: readonly DocSet[]): this {
    for (const other of others) {
      if (this.isEmpty()) break;
      this.and(other);
    }
    return this;
  }

  /** Adds what is in `other`. Returns itself. */
  or(other: DocSet): this {
    const { bits } = this;
    for (let i = 0; i < bits.length; i++) bits[i]! |= other.bits[i]!;
    return this;
  }

  /** Takes away what is in `other`. Returns itself. */
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

  /** Whether any document is in both. */
  meets({ bits: others }: DocSet): boolean {
    for (let i = 0; i < others.length; i++) if ((this.bits[i]! & others[i]!) !== 0) return true;
    return false;
  }

  isEmpty(): boolean {
    for (let i = 0; i < this.bits.length; i++) if (this.bits[i] !== 0) return false;
    return true;
  }

  /** The documents, ascending. Within a search the list is gone with it. */
  list(): Uint32Array {
    const { bits, docs } = this;
    const list = freeLists.take(docs) ?? new Uint32Array(docs);
    let at = 0;
    for (let i = 0; i < bits.length; i++) {
      let word = bits[i]!;
      const base = i << 5;
      while (word !== 0) {
        list[at++] = base + 31 - Math.clz32(word & -word);
        word &= word - 1;
      }
    }
    if (scope !== null && at * SHORT > docs) {
      scope.lists.push(list);
      return list.subarray(0, at);
    }
    const copy = list.slice(0, at);
    freeLists.give(list);
    return copy;
  }
}

/** Lists of less than one in so many documents are copied out of the memory that holds any. */
const SHORT = 16;

/** The sets and lists of the search that is running. */
interface Scope {
  sets: DocSet[];
  lists: Uint32Array[];
}
let scope: Scope | null = null;

/** Memory to use again, by length. Segments come and go, each with a length of its own. */
class FreeMemory {
  readonly #byLength = new Map<number, Uint32Array[]>();
  readonly #ofALength: number;
  readonly #lengths: number;

  constructor({ ofALength, lengths }: { ofALength: number; lengths: number }) {
    this.#ofALength = ofALength;
    this.#lengths = lengths;
  }

  take(length: number): Uint32Array | undefined {
    return this.#byLength.get(length)?.pop();
  }

  give(memory: Uint32Array): void {
    let list = this.#byLength.get(memory.length);
    if (list === undefined) {
      if (this.#byLength.size >= this.#lengths) this.#byLength.clear();
      this.#byLength.set(memory.length, (list = []));
    }
    if (list.length < this.#ofALength) list.push(memory);
  }
}

const free = new FreeMemory({ ofALength: 96, lengths: 24 });
const freeLists = new FreeMemory({ ofALength: 4, lengths: 12 });

function takeBits(length: number, isOpen: boolean): Uint32Array {
  const bits = scope === null ? undefined : free.take(length);
  if (bits === undefined) return new Uint32Array(length);
  return isOpen ? bits : bits.fill(0);
}
