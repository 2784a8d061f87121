import type { DocSet } from '../sets/doc-set.ts';
import type { WordMatch } from './word-match.ts';

/**
 * Documents that hold every word of a query, by the typos they spend in all. What the first `k` words spend at most `t`
 * typos in is, over the typos `i` of word `k`, all that spends at most `t - i` in the words before and at most `i` in
 * this one: a table filled row by row with whole sets, as far as it is asked for.
 */
export class Spending {
  readonly #words: readonly WordMatch[];
  /** By words from the first, by typos. */
  readonly #table: DocSet[][];
  /** The most typos that can be spent in all. */
  readonly most: number;

  constructor(words: readonly WordMatch[]) {
    this.#words = words;
    this.#table = words.map(() => []);
    this.most = words.reduce((sum, { within }) => sum + within.length - 1, 0);
  }

  /** Not to be changed. To be asked for one number of typos after the other, from 0. */
  atMost(typos: number): DocSet {
    this.#words.forEach(({ within }, k) => {
      const before = this.#table[k - 1];
      let set: DocSet | null = before === undefined ? within[Math.min(typos, within.length - 1)]! : null;
      for (let i = 0; before !== undefined && i < within.length && i <= typos; i++) {
        const one = before[typos - i]!.copy().and(within[i]!);
        set = set === null ? one : set.or(one);
      }
      this.#table[k]!.push(set!);
    });
    return this.#table[this.#words.length - 1]![typos]!;
  }
}
