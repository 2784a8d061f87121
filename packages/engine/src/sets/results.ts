import { DocSet } from './doc-set.ts';

/** What a segment has to show: a set whose size is known, and which is made a list only where one is needed. */
export class Results {
  readonly set: DocSet;
  readonly count: number;
  #list: Uint32Array | null = null;
  #rest: Uint32Array | null = null;

  constructor(set: DocSet) {
    this.set = set;
    this.count = set.count();
  }

  /** Ascending. */
  get list(): Uint32Array {
    return (this.#list ??= this.set.list());
  }

  /** The documents of the segment that are not among the results: fewer to count, where most are. */
  get rest(): Uint32Array {
    return (this.#rest ??= DocSet.all(this.set.docs).minus(this.set).list());
  }

  get isMost(): boolean {
    return this.count * 2 > this.set.docs;
  }
}
