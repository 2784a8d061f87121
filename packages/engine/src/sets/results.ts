import { memoByObject } from '../memo/by-object.ts';
import { DocSet } from './doc-set.ts';

/** A kept set of documents, and those of it that some results lack. */
export interface Base {
  /** The set as results, so that what is made of them for one facet is there for the next. */
  results: Results;
  others: Uint32Array;
  /** It is all documents of the segment. */
  isWhole: boolean;
}

/** What a segment has to show: a set whose size is known, and which is made a list only where one is needed. */
export class Results {
  readonly set: DocSet;
  readonly count: number;
  readonly #within: DocSet | null;
  #list: Uint32Array | null = null;
  #base: Base | null = null;

  /** `within` is a kept set that holds all of them, such as the documents of the one word of a query. */
  constructor(set: DocSet, within: DocSet | null = null, count = set.count()) {
    this.set = set;
    this.count = count;
    this.#within = within;
  }

  /** Ascending. */
  get list(): Uint32Array {
    return (this.#list ??= this.#isAllOfBase() ? this.#base!.results.list : this.set.list());
  }

  #isAllOfBase(): boolean {
    return this.#base !== null && this.#base.others.length === 0;
  }

  /**
   * A kept set that holds all of these and not many others, with those others; null when there is none. What is counted
   * of it can be remembered, and then only the others need to be counted (see known-counts.ts).
   */
  get base(): Base | null {
    return (this.#base ??= this.#findBase());
  }

  #findBase(): Base | null {
    const { set, count } = this;
    const isNear = (size: number): boolean => size - count < count;
    const baseOf = (kept: DocSet, size: number, isWhole: boolean): Base => ({
      results: new Results(kept, null, size),
      others: size === count ? NONE : kept.copy().minus(set).list(),
      isWhole,
    });
    if (this.#within !== null) {
      const size = sizeOf(this.#within);
      if (isNear(size)) return baseOf(this.#within, size, false);
    }
    return isNear(set.docs) ? baseOf(wholeOf(set.docs), set.docs, true) : null;
  }
}

const NONE = new Uint32Array(0);

/** How many documents a kept set has, counted once. */
const sizeOf = memoByObject((set: DocSet) => set.count());

/** All documents of a segment of so many: sets without a word have a base too. By number, the few last ones. */
const wholes = new Map<number, DocSet>();
const WHOLES = 16;

function wholeOf(docs: number): DocSet {
  let set = wholes.get(docs);
  if (set === undefined) {
    if (wholes.size >= WHOLES) wholes.clear();
    wholes.set(docs, (set = DocSet.all(docs).keep()));
  }
  return set;
}
