import type { RecordJson } from '@yucca/contract';
import { leavesAt } from '../record/paths.ts';
import { eachWord } from '../text/words.ts';
import { Section, writeSegment, type SectionInput } from './format.ts';
import { GrowingArray } from './growing-array.ts';
import { buildTrie } from './trie.ts';

/** Which fields of the records go into the index. */
export interface IndexPlan {
  /** Whether every field that holds a string in some record is searchable, besides `searchFields`. */
  allStrings: boolean;
  /** Searchable field paths. At most 60 fields are kept in all. */
  searchFields: readonly string[];
  /** Fields whose values are counted and chosen. */
  facetFields: readonly string[];
}

export interface SegmentMeta {
  docs: number;
  terms: number;
  /** In the order of the field numbers inside the postings. */
  searchFields: string[];
  /** Those of them that hold strings: what is searched when a tuning names no fields. */
  stringFields: string[];
  facetFields: string[];
  /** Whether record order is the order of the documents. */
  ordered: boolean;
}

export interface SourceRecord {
  /** Number of this version of the record, growing with every write; at most 2^53. */
  rid: number;
  /** Its place in record order: the `rid` of its first version. */
  order: number;
  key: string;
  /** The record as stored; parsed here when `record` is not given. */
  json: string;
  record?: RecordJson;
}

export const MAX_FIELDS = 60;
/** Position of a word within its field, saturated so that field and position share 16 bits. */
export const MAX_POSITION = 1023;
/** Words between two strings of one field, so that they do not read as neighbours. */
const STRING_GAP = 8;

const encoder = new TextEncoder();

/**
 * Collects records, in ascending `rid`, and writes them out as one segment. Holds the occurrences of words in growing
 * flat arrays in document order; `finish` turns them into postings by a counting sort over the sorted dictionary.
 */
export class SegmentBuilder {
  readonly #plan: IndexPlan;
  readonly #fields: string[] = [];
  readonly #fieldNumbers = new Map<string, number>();
  readonly #stringFields = new Set<string>();
  readonly #terms = new Map<string, number>();
  /** For each term, 1 + the last `doc × 64 + field` it was seen in: one posting for a term, record and field. */
  readonly #lastSeen = new GrowingArray(Float64Array);
  readonly #occTerms = new GrowingArray(Uint32Array);
  readonly #occDocs = new GrowingArray(Uint32Array);
  readonly #occPlaces = new GrowingArray(Uint16Array);
  readonly #rids = new GrowingArray(Float64Array);
  readonly #orders = new GrowingArray(Float64Array);
  readonly #keyStarts = new GrowingArray(Uint32Array, [0]);
  readonly #keyBytes = new GrowingArray(Uint8Array);
  readonly #recordStarts = new GrowingArray(Uint32Array, [0]);
  readonly #recordBytes = new GrowingArray(Uint8Array);
  readonly #fieldWords: number[][] = [];
  readonly #facets: FacetColumn[];
  #ordered = true;
  #lastOrder = -Infinity;

  constructor(plan: IndexPlan) {
    this.#plan = plan;
    this.#facets = plan.facetFields.map(() => new FacetColumn());
    plan.searchFields.forEach((field) => this.#fieldNumber(field));
  }

  get docs(): number {
    return this.#rids.length;
  }

  /** Bytes of the records themselves, which the segment holds besides the index. */
  get recordBytes(): number {
    return this.#recordBytes.length;
  }

  /** Adds one record. Throws a SyntaxError when its JSON cannot be read. */
  add({ rid, order, key, json, record = JSON.parse(json) as RecordJson }: SourceRecord): void {
    const doc = this.docs;
    this.#rids.push(rid);
    this.#orders.push(order);
    if (order < this.#lastOrder) this.#ordered = false;
    this.#lastOrder = order;
    this.#keyBytes.append(encoder.encode(key));
    this.#keyStarts.push(this.#keyBytes.length);
    this.#recordBytes.append(encoder.encode(json));
    this.#recordStarts.push(this.#recordBytes.length);
    const counts: number[] = [];
    const fields = new Set(this.#plan.searchFields);
    if (this.#plan.allStrings) {
      stringFields(record).forEach((field) => {
        this.#stringFields.add(field);
        fields.add(field);
      });
    }
    for (const field of fields) {
      const number = this.#fieldNumber(field);
      if (number !== undefined) counts[number] = this.#addField(doc, number, record, field);
    }
    this.#fieldWords.push(counts);
    this.#plan.facetFields.forEach((field, i) => this.#facets[i]!.add(record, field));
  }

  #fieldNumber(field: string): number | undefined {
    let number = this.#fieldNumbers.get(field);
    if (number === undefined && this.#fields.length < MAX_FIELDS) {
      number = this.#fields.push(field) - 1;
      this.#fieldNumbers.set(field, number);
    }
    return number;
  }

  #addField(doc: number, field: number, record: RecordJson, path: string): number {
    const seenMark = doc * 64 + field + 1;
    let position = 0;
    let count = 0;
    leavesAt(record, path, (value) => {
      eachWord(typeof value === 'string' ? value : String(value), (text) => {
        this.#addOccurrence(text, doc, field, position++, seenMark);
        count++;
      });
      position += STRING_GAP;
    });
    return Math.min(count, 255);
  }

  #addOccurrence(text: string, doc: number, field: number, position: number, seenMark: number): void {
    let term = this.#terms.get(text);
    if (term === undefined) {
      term = this.#terms.size;
      this.#terms.set(text, term);
      this.#lastSeen.push(0);
    }
    const lastSeen = this.#lastSeen.array;
    if (lastSeen[term] === seenMark) return;
    lastSeen[term] = seenMark;
    this.#occTerms.push(term);
    this.#occDocs.push(doc);
    this.#occPlaces.push((field << 10) | Math.min(position, MAX_POSITION));
  }

  /** Writes the segment. `allocate` chooses the memory: a SharedArrayBuffer when threads are to share it. */
  finish<B extends ArrayBufferLike>(allocate: (bytes: number) => B): B {
    const sorted = [...this.#terms.keys()].sort();
    const meta: SegmentMeta = {
      docs: this.docs,
      terms: sorted.length,
      searchFields: this.#fields,
      stringFields: this.#fields.filter((field) => this.#stringFields.has(field)),
      facetFields: [...this.#plan.facetFields],
      ordered: this.#ordered,
    };
    const trie = buildTrie(sorted);
    const sections: SectionInput[] = [
      { kind: Section.Meta, data: encoder.encode(JSON.stringify(meta)) },
      { kind: Section.Rids, data: this.#rids.view() },
      { kind: Section.Orders, data: this.#orders.view() },
      { kind: Section.KeyStarts, data: this.#keyStarts.view() },
      { kind: Section.KeyBytes, data: this.#keyBytes.view() },
      { kind: Section.RecordStarts, data: this.#recordStarts.view() },
      { kind: Section.RecordBytes, data: this.#recordBytes.view() },
      { kind: Section.TrieLabels, data: trie.labels },
      { kind: Section.TrieEnds, data: trie.ends },
      { kind: Section.TrieFirsts, data: trie.firsts },
      { kind: Section.TermLengths, data: Uint8Array.from(sorted, (term) => term.length) },
      ...this.#postings(sorted),
      { kind: Section.FieldWords, data: this.#fieldWordTable() },
      ...this.#facets.flatMap((facet, part) => facet.finish(part)),
    ];
    return writeSegment(sections, allocate);
  }

  #postings(sorted: string[]): SectionInput[] {
    const ranks = new Uint32Array(sorted.length);
    sorted.forEach((term, rank) => (ranks[this.#terms.get(term)!] = rank));
    const [terms, docs, places] = [this.#occTerms.view(), this.#occDocs.view(), this.#occPlaces.view()];
    const starts = new Uint32Array(sorted.length + 1);
    for (let i = 0; i < terms.length; i++) starts[ranks[terms[i]!]! + 1]!++;
    for (let i = 0; i < sorted.length; i++) starts[i + 1]! += starts[i]!;
    const next = starts.slice();
    const postDocs = new Uint32Array(terms.length);
    const postPlaces = new Uint16Array(terms.length);
    for (let i = 0; i < terms.length; i++) {
      const at = next[ranks[terms[i]!]!]!++;
      postDocs[at] = docs[i]!;
      postPlaces[at] = places[i]!;
    }
    return [
      { kind: Section.PostStarts, data: starts },
      { kind: Section.PostDocs, data: postDocs },
      { kind: Section.PostPlaces, data: postPlaces },
    ];
  }

  #fieldWordTable(): Uint8Array {
    const width = this.#fields.length;
    const table = new Uint8Array(this.docs * width);
    this.#fieldWords.forEach((counts, doc) => counts.forEach((count, field) => (table[doc * width + field] = count)));
    return table;
  }
}

/** The paths of all fields of a record that hold a string, in the record's order. */
function stringFields(record: RecordJson): Set<string> {
  const fields = new Set<string>();
  const walk = (value: unknown, path: string, left: number): void => {
    if (typeof value === 'string') fields.add(path);
    else if (left > 0 && Array.isArray(value)) for (const item of value) walk(item, path, left - 1);
    else if (left > 0 && value !== null && typeof value === 'object') {
      for (const [name, item] of Object.entries(value)) walk(item, path === '' ? name : `${path}.${name}`, left - 1);
    }
  };
  walk(record, '', 16);
  return fields;
}

/** The values of one facet field: each distinct value once, and for each record the numbers of its values. */
class FacetColumn {
  readonly #numbers = new Map<string, number>();
  readonly #docStarts = new GrowingArray(Uint32Array, [0]);
  readonly #docValues = new GrowingArray(Uint32Array);

  add(record: RecordJson, field: string): void {
    const from = this.#docValues.length;
    leavesAt(record, field, (value) => {
      const text = String(value);
      if (text === '') return;
      let number = this.#numbers.get(text);
      if (number === undefined) this.#numbers.set(text, (number = this.#numbers.size));
      // A record counts once a value, however often the value stands in it.
      if (!this.#docValues.includes(number, from)) this.#docValues.push(number);
    });
    this.#docStarts.push(this.#docValues.length);
  }

  finish(part: number): SectionInput[] {
    const starts = new GrowingArray(Uint32Array, [0]);
    const bytes = new GrowingArray(Uint8Array);
    for (const value of this.#numbers.keys()) {
      bytes.append(encoder.encode(value));
      starts.push(bytes.length);
    }
    return [
      { kind: Section.FacetValueStarts, part, data: starts.view() },
      { kind: Section.FacetValueBytes, part, data: bytes.view() },
      { kind: Section.FacetDocStarts, part, data: this.#docStarts.view() },
      { kind: Section.FacetDocValues, part, data: this.#docValues.view() },
    ];
  }
}
