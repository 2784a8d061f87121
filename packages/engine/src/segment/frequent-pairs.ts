import { Section, type SectionInput } from '../bytes/flat-buffer.ts';
import { ForwardCursor, MAX_POSITION } from './forward.ts';
import { GrowingArray } from '../bytes/growing-array.ts';

/*
 * Where two frequent words stand side by side. A phrase is looked for in the documents that hold its words; when those
 * are most of all documents, reading them is what a query could cost most by (a million documents: 60 ms and more). For
 * the few words that stand in a good part of them, and only in large segments, the index says which documents hold
 * which pair and where: two or three bytes each, a fiftieth of the index. A word that is not frequent leaves few.
 */

/** A frequent word stands in at least this share of all documents, and in so many that reading them takes long. */
const FREQUENT_SHARE = 1 / 8;
const FREQUENT_DOCS = 20_000;
/** No more words than this, the most frequent ones: so a position has room for all of them in 16 bits. */
const MOST_WORDS = 15;

/** The frequent words, ascending. `postings` returns how many documents a word has, one for each of its fields. */
export function frequentTerms(
  terms: number,
  docs: number,
  postings: (term: number) => number,
  frequentDocs = FREQUENT_DOCS,
): number[] {
  const least = Math.max(docs * FREQUENT_SHARE, frequentDocs);
  const frequent: number[] = [];
  for (let term = 0; term < terms; term++) if (postings(term) >= least) frequent.push(term);
  return frequent
    .sort((a, b) => postings(b) - postings(a))
    .slice(0, MOST_WORDS)
    .sort((a, b) => a - b);
}

/** The sections that tell where frequent words stand right after each other, from a forward index (see forward.ts). */
export function pairSections(
  frequent: readonly number[],
  terms: number,
  fields: number,
  forwardStarts: Uint32Array,
  forward: Int32Array,
): SectionInput[] {
  const count = frequent.length;
  /** 1 + the position of a word among the frequent ones. */
  const codes = new Uint8Array(terms);
  frequent.forEach((term, i) => (codes[term] = i + 1));
  const lists = Array.from({ length: count * count }, () => new GrowingArray(Uint8Array));
  const lastDocs = new Int32Array(lists.length);
  /** By pair and field: 1 + the last document. A pair is named once a field, where it stands there first. */
  const lastInField = new Int32Array(lists.length * fields);
  for (let doc = 0; count > 0 && doc + 1 < forwardStarts.length; doc++) {
    // The frequent words of a position and of the one before it, as bits.
    let [before, here] = [0, 0];
    const at = new ForwardCursor(forward, forwardStarts[doc]!, forwardStarts[doc + 1]!);
    while (at.next()) {
      const { field, position } = at;
      if (at.token === 0) here = 0;
      if (!at.stays) [before, here] = [here, 0];
      const code = codes[at.term]!;
      if (code === 0) continue;
      here |= 1 << (code - 1);
      for (let bits = before; bits !== 0; bits &= bits - 1) {
        const pair = (31 - Math.clz32(bits & -bits)) * count + code - 1;
        if (lastInField[pair * fields + field] === doc + 1) continue;
        lastInField[pair * fields + field] = doc + 1;
        pushNumber(lists[pair]!, doc - lastDocs[pair]!);
        pushNumber(lists[pair]!, Math.min(position - 1, MAX_POSITION) * fields + field);
        lastDocs[pair] = doc;
      }
    }
  }
  const starts = new Uint32Array(lists.length + 1);
  const bytes = new GrowingArray(Uint8Array);
  lists.forEach((list, pair) => {
    bytes.append(list.view());
    starts[pair + 1] = bytes.length;
  });
  return [
    { kind: Section.PairWords, data: Uint32Array.from(frequent) },
    { kind: Section.PairStarts, data: starts },
    { kind: Section.PairPlaces, data: bytes.view() },
  ];
}

/** A number as bytes of seven bits, the lowest first; the eighth says that more follow (LEB128, DWARF 5, 7.6). */
function pushNumber(list: GrowingArray<Uint8Array>, number: number): void {
  for (; number > 0x7f; number >>>= 7) list.push((number & 0x7f) | 0x80);
  list.push(number);
}

/** Those sections, opened. */
export class FrequentPairs {
  readonly #words: Uint32Array;
  readonly #starts: Uint32Array;
  readonly #bytes: Uint8Array;
  readonly #fields: number;

  constructor(words: Uint32Array, starts: Uint32Array, bytes: Uint8Array, fields: number) {
    this.#words = words;
    this.#starts = starts;
    this.#bytes = bytes;
    this.#fields = fields;
  }

  /** A pair's number, or -1 when not both words are frequent. */
  pairOf(first: number, second: number): number {
    const [a, b] = [this.#words.indexOf(first), this.#words.indexOf(second)];
    return a === -1 || b === -1 ? -1 : a * this.#words.length + b;
  }

  /** At most so many documents hold a pair. */
  most(pair: number): number {
    return (this.#starts[pair + 1]! - this.#starts[pair]!) >>> 1;
  }

  /** Visits the documents that hold a pair, ascending, once for each field with the first position there. */
  each(pair: number, visit: (doc: number, field: number, position: number) => void): void {
    const bytes = this.#bytes;
    let at = this.#starts[pair]!;
    const next = (): number => {
      let number = 0;
      for (let shift = 0; ; shift += 7) {
        const byte = bytes[at++]!;
        number |= (byte & 0x7f) << shift;
        if (byte < 0x80) return number;
      }
    };
    for (let doc = 0; at < this.#starts[pair + 1]!;) {
      doc += next();
      const position = next();
      visit(doc, position % this.#fields, Math.floor(position / this.#fields));
    }
  }
}
