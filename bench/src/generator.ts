/**
 * Real-shaped records from a seed: words drawn by Zipf's law from a made-up vocabulary, two text fields of about ten
 * words, three facets, two numbers.
 */
export interface BenchRecord {
  id: number;
  title: string;
  body: string;
  colour: string;
  kind: string;
  maker: string;
  price: number;
  stock: number;
}

/** Mulberry32 (Tommy Ettinger, public domain). */
export function chance(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const SYLLABLES = [
  'ba',
  'cor',
  'den',
  'el',
  'fa',
  'gri',
  'hol',
  'is',
  'jun',
  'ka',
  'lor',
  'men',
  'na',
  'os',
  'pra',
  'quil',
  'ro',
  'sen',
  'tha',
  'un',
  'vel',
  'wi',
  'xa',
  'yor',
  'zel',
  'tri',
  'mo',
  'ble',
  'sta',
  'nor',
];
const VOCABULARY = 50_000;

/** Distinct made-up words, the short ones first, as in languages: common words are short. */
function makeVocabulary(next: () => number): string[] {
  const found = new Set<string>();
  while (found.size < VOCABULARY) {
    const syllables = 1 + Math.floor(next() * 4);
    let word = '';
    for (let i = 0; i < syllables; i++) word += SYLLABLES[Math.floor(next() * SYLLABLES.length)];
    found.add(word);
  }
  return [...found].sort((a, b) => a.length - b.length || (a < b ? -1 : 1));
}

/** A source of records; the same seed gives the same ones, and more of them begin with the same. */
export class Generator {
  readonly #next = chance(20260531);
  readonly vocabulary = makeVocabulary(chance(7));
  readonly #cumulative: Float64Array;

  constructor() {
    this.#cumulative = new Float64Array(VOCABULARY);
    let sum = 0;
    for (let rank = 0; rank < VOCABULARY; rank++) this.#cumulative[rank] = sum += 1 / (rank + 1);
  }

  word(next = this.#next): string {
    const target = next() * this.#cumulative[VOCABULARY - 1]!;
    let low = 0;
    let high = VOCABULARY - 1;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (this.#cumulative[middle]! < target) low = middle + 1;
      else high = middle;
    }
    return this.vocabulary[low]!;
  }

  #text(): string {
    const words = 7 + Math.floor(this.#next() * 7);
    return Array.from({ length: words }, () => this.word()).join(' ');
  }

  record(id: number): BenchRecord {
    const pick = (count: number, name: string): string => `${name} ${Math.floor(this.#next() ** 2 * count)}`;
    return {
      id,
      title: this.#text(),
      body: this.#text(),
      colour: pick(12, 'colour'),
      kind: pick(40, 'kind'),
      maker: pick(400, 'maker'),
      price: Math.round(this.#next() * 10_000) / 100,
      stock: Math.floor(this.#next() * 500),
    };
  }
}
