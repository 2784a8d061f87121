import { completeTuning, type TuningDocument } from '@yucca/contract';
import { chance, Generator } from './generator.ts';

/**
 * Records as lists of packages, parts and goods really are, from a seed: names with separators and versions, texts of
 * forty words, a facet of 20,000 values by Zipf's law of which every third record lacks one, up to twelve tags of
 * 50,000, a tree of some 3,000 nodes, a unique code, numbers, a date, a position.
 */
export class RealRecords {
  readonly #generator = new Generator();
  readonly #next = chance(404);

  /** A number below `count`, the small ones often. */
  protected often(count: number): number {
    return Math.floor(count ** this.#next()) - 1;
  }

  word(): string {
    return this.#generator.word(this.#next);
  }

  name(scope: string): string {
    const version = this.#next() < 0.15 ? `-v${1 + this.often(12)}.${this.often(10)}` : '';
    return `${scope === '' ? '' : `@${scope}/`}${this.word()}-${this.word()}${this.#next() < 0.3 ? `_${this.word()}` : ''}${version}`;
  }

  text(): string {
    return Array.from({ length: 40 }, () => this.word()).join(' ');
  }

  record(number: number): Record<string, unknown> {
    const next = this.#next;
    const scope = next() < 0.33 ? '' : `scope${this.often(20_000)}`;
    const name = this.name(scope);
    const branch = this.often(20);
    const twig = `${branch}.${this.often(12)}`;
    return {
      id: `${name}#${number}`,
      name,
      scope,
      letter: name.replace('@', '').slice(0, 1),
      text: this.text(),
      tags: Array.from({ length: Math.floor(next() * 13) }, () => `tag${this.often(50_000)}`),
      tree: [
        `branch ${branch}`,
        `branch ${branch} > twig ${twig}`,
        `branch ${branch} > twig ${twig} > leaf ${this.often(12)}`,
      ],
      price: Math.round(next() * 50_000) / 100,
      rating: Math.floor(next() * 101),
      stock: this.often(2_000),
      added: new Date(Date.UTC(2015, 0, 1) + Math.floor(next() * 4_000) * 86_400_000).toISOString().slice(0, 10),
      code: `C${((number * 2_654_435_761) % 4_294_967_296).toString(36)}`,
      at: [Math.round(next() * 36_000) / 100 - 180, Math.round(next() * 16_000) / 100 - 80],
    };
  }

  /** Every beginning of so many names or pairs of words, a third of them misspelt. */
  keystrokes(queries: number): string[] {
    const log: string[] = [];
    for (let i = 0; i < queries; i++) {
      const whole = i % 2 === 0 ? this.name('') : `${this.word()} ${this.word()}`;
      const at = 1 + Math.floor(this.#next() * (whole.length - 1));
      const typed = i % 3 === 0 ? whole.slice(0, at) + whole.slice(at + 1) : whole;
      for (let length = 1; length <= typed.length; length++) log.push(typed.slice(0, length));
    }
    return log;
  }
}

const KANJI = { first: 0x4e00, count: 2_000 };
const KATAKANA = { first: 0x30a2, count: 80 };
const PARTICLES = ['の', 'は', 'を', 'に', 'が', 'で', 'と', 'も'];

/**
 * The same with names and texts in a script without spaces: made-up words of two or three ideographs by Zipf's law, a
 * tenth of them of syllabic signs, with particles between them.
 */
export class SpacelessRecords extends RealRecords {
  override word(): string {
    const kind = this.often(10) < 8 ? KANJI : KATAKANA;
    const length = kind === KANJI ? 2 + (this.often(2) === 0 ? 0 : 1) : 4;
    return String.fromCodePoint(...Array.from({ length }, () => kind.first + this.often(kind.count)));
  }

  override name(scope: string): string {
    return `${scope}${this.word()}${this.word()}`;
  }

  override text(): string {
    return Array.from({ length: 20 }, (_, i) => {
      const after = i % 8 === 7 ? '。' : PARTICLES[this.often(PARTICLES.length)]!;
      return `${this.word()}${after}`;
    }).join('');
  }
}

/** What every version of Yucca understands of the tuning of these records. */
export const PLAIN_TUNING: TuningDocument = {
  search: [
    { field: 'name', weight: 10 },
    { field: 'text', weight: 2 },
    { field: 'tags', weight: 3 },
  ],
  facets: [
    { name: 'scope', field: 'scope' },
    { name: 'letter', field: 'letter' },
    { name: 'rating', field: 'rating', kind: 'numbers' },
  ],
};

export const realTuning = completeTuning({
  ...PLAIN_TUNING,
  sorts: [{ name: 'new', by: [{ field: 'added', order: 'desc' }] }],
  geo: 'at',
});
