import { buildTrie, type Trie } from '../segment/trie.ts';
import type { Word } from '../text/words.ts';
import type { AskedWord } from './facet-search.ts';
import { walkTypos } from './match/typo-walk.ts';

/**
 * The words of many names, as a dictionary: which names hold a word that begins like what is typed, typos allowed, is
 * found by one walk for each word (see typo-walk.ts), however many names there are.
 */
export class NameIndex {
  readonly #names: readonly (readonly Word[])[];
  readonly #trie: Trie;
  /** The names that hold word `w` stand at `[starts[w], starts[w + 1])`, each once. */
  readonly #starts: Uint32Array;
  readonly #holders: Uint32Array;

  constructor(names: readonly (readonly Word[])[]) {
    this.#names = names;
    const byWord = new Map<string, number[]>();
    names.forEach((written, name) => {
      for (const { text } of written) {
        const holders = byWord.get(text);
        if (holders === undefined) byWord.set(text, [name]);
        else if (holders[holders.length - 1] !== name) holders.push(name);
      }
    });
    const sorted = [...byWord.keys()].sort((a, b) => (a < b ? -1 : 1));
    this.#trie = buildTrie(sorted);
    this.#starts = new Uint32Array(sorted.length + 1);
    sorted.forEach((word, i) => (this.#starts[i + 1] = this.#starts[i]! + byWord.get(word)!.length));
    this.#holders = new Uint32Array(this.#starts[sorted.length]!);
    sorted.forEach((word, i) => this.#holders.set(byWord.get(word)!, this.#starts[i]!));
  }

  /** Whether it was made of these names; whatever else is said of them may have changed. */
  isOf(names: readonly (readonly Word[])[]): boolean {
    return names.length === this.#names.length && names.every((written, i) => written === this.#names[i]);
  }

  /** The names that hold, for each word that is asked for, one that begins like it; ascending. */
  find(asked: readonly AskedWord[]): number[] {
    const [first, ...others] = asked;
    if (first === undefined) return [];
    let found = this.#holding(first);
    for (const word of others) {
      const holding = this.#holding(word);
      found = new Set([...found].filter((name) => holding.has(name)));
    }
    return [...found].sort((a, b) => a - b);
  }

  #holding({ text, typos }: AskedWord): Set<number> {
    const found = new Set<number>();
    walkTypos(this.#trie, text, { maxTypos: typos, prefix: true, firstLetter: true }, ({ from, to }) => {
      for (let at = this.#starts[from]!; at < this.#starts[to]!; at++) found.add(this.#holders[at]!);
    });
    return found;
  }
}
