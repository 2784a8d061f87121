import { LIMITS, type RecordJson } from '@yucca/contract';
import type { ColumnMeta } from '../columns/column-builder.ts';
import { eachLabel } from '../columns/labels.ts';
import { isMadeKey } from '../text/made-key.ts';
import { PositionsBuilder } from './positions-builder.ts';
import { LEAST_COMPOUND } from '../text/compounds.ts';
import { orderByEnds } from './word-ends.ts';
import { stemmerFor } from '../text/stem.ts';
import { blankTags } from '../text/tokens.ts';
import { FieldTree, isSearchedUnasked, type FieldInfo, type FieldNode } from './field-tree.ts';
import { Section, writeSegment, type SectionInput } from '../bytes/flat-buffer.ts';
import { GrowingArray } from '../bytes/growing-array.ts';
import { room } from '../bytes/room.ts';
import { buildKeyTable } from './key-table.ts';
import type { IndexPlan } from './plan.ts';
import { buildTrie, trieSections } from './trie.ts';
import { WordCollector } from './word-collector.ts';

export interface SegmentMeta {
  docs: number;
  /** Added to each entry of the sections of versions and of record order. */
  firstVersionId: number;
  firstOrder: number;
  terms: number;
  /** Its long words are kept by their last letters. */
  hasWordEnds?: boolean;
  languages: string[];
  /** In the order of the field numbers inside the postings. */
  searchFields: string[];
  /** Those of them that hold strings: what is searched when a tuning names no fields. */
  stringFields: string[];
  /** Text fields that are not searched, because there are too many; the first of very many. */
  unsearched?: string[];
  /** By field number: the fewest words a record has in the field, if it has any; at most 255. */
  shortest: number[];
  /** Fields whose numbers and booleans are searchable too. */
  planned: string[];
  html: string[];
  /** Every field path met in the records or planned. */
  paths: string[];
  /** Fields that hold the key of every record, as text. */
  keyFields: string[];
  /** Every path that holds scalars, with the columns it has; a column's index in the list is its part number. */
  columns: ColumnMeta[];
  /** A position field's index in the list is its part number. */
  geo: string[];
}

export interface SourceRecord {
  /** Number of this version of the record, growing with every write; at most 2^53. */
  versionId: number;
  /** Its number in record order: the `versionId` of its first version. */
  order: number;
  key: string;
  /** The record as stored; parsed here when `record` is not given. */
  json: string;
  record?: RecordJson;
}

const encoder = new TextEncoder();

/** Collects records, in ascending `versionId`, and writes them out as one segment. */
export class SegmentBuilder {
  readonly #plan: IndexPlan;
  readonly #frequentDocs: number | undefined;
  readonly #fields: FieldTree;
  readonly #stringFields = new Set<string>();
  /** The key of the record at hand, when it was made of its content: nobody looks for its letters. */
  #madeKey: string | null = null;
  readonly #words = new WordCollector();
  readonly #versionIds = new GrowingArray(Float64Array);
  readonly #orders = new GrowingArray(Float64Array);
  readonly #keyStarts = new GrowingArray(Uint32Array, [0]);
  readonly #keyBytes = new GrowingArray(Uint8Array);
  readonly #recordStarts = new GrowingArray(Uint32Array, [0]);
  readonly #recordBytes = new GrowingArray(Uint8Array);
  readonly #positions: PositionsBuilder[];

  #keyFields: string[] | null = null;

  /**
   * `frequentDocs`: in how many documents a word has to stand to count as frequent; see frequent-pairs.ts.
   * `hasNoColumn`: fields whose values are not to stand anywhere but in the plan's columns.
   */
  constructor(
    plan: IndexPlan,
    { frequentDocs, hasNoColumn }: { frequentDocs?: number; hasNoColumn?: (path: string) => boolean } = {},
  ) {
    this.#plan = plan;
    this.#frequentDocs = frequentDocs;
    this.#fields = new FieldTree(plan, hasNoColumn);
    this.#positions = plan.geo.map((path) => new PositionsBuilder(path));
  }

  get docs(): number {
    return this.#versionIds.length;
  }

  /** Bytes of the records themselves, which the segment holds besides the index. */
  get recordBytes(): number {
    return this.#recordBytes.length;
  }

  /** Adds one record. Throws a SyntaxError when its JSON cannot be read. */
  add({ versionId, order, key, json, record = JSON.parse(json) as RecordJson }: SourceRecord): void {
    const doc = this.docs;
    this.#madeKey = this.#plan.allStrings && isMadeKey(key) ? key : null;
    this.#versionIds.push(versionId);
    this.#orders.push(order);
    this.#keyFields = (this.#keyFields ?? Object.keys(record)).filter(
      (name) => Object.hasOwn(record, name) && record[name] === key,
    );
    appendText(this.#keyBytes, key);
    this.#keyStarts.push(this.#keyBytes.length);
    appendText(this.#recordBytes, json);
    this.#recordStarts.push(this.#recordBytes.length);
    this.#walk(record, this.#fields.root, doc, LIMITS.pathLevels);
    this.#words.endDocument();
    for (const { field, labelField } of this.#plan.labels) {
      const column = this.#fields.column(field);
      if (column) eachLabel(record, field, labelField, (value, label) => column.addLabel(value, label));
    }
    for (const positions of this.#positions) positions.add(record);
  }

  #walk(value: unknown, node: FieldNode, doc: number, levels: number): void {
    if (typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean') {
      const { info } = node;
      const number = info.column?.add(doc, value) ?? -1;
      if (info.planned || (this.#plan.allStrings && isSearchedUnasked(info.isName, value) && value !== this.#madeKey))
        this.#addText(doc, info, value, number);
    } else if (value === null || typeof value !== 'object' || levels === 0) {
      return;
    } else if (Array.isArray(value)) {
      for (let i = 0; i < value.length; i++) this.#walk(value[i], node, doc, levels - 1);
    } else {
      for (const name of Object.keys(value)) {
        this.#walk((value as RecordJson)[name], this.#fields.child(node, name), doc, levels - 1);
      }
    }
  }

  /** `number`: of the value in its column; what stands in many records is taken apart once. */
  #addText(doc: number, info: FieldInfo, value: string | number | boolean, number: number): void {
    const field = this.#fields.numberOf(info);
    if (field === -1) return;
    if (isSearchedUnasked(info.isName, value)) this.#stringFields.add(info.path);
    const text = typeof value === 'string' ? (info.html ? blankTags(value) : value) : String(value);
    if (number === -1) this.#words.addText(doc, field, text);
    else this.#words.addValue(doc, field, text, number);
  }

  /** Writes the segment. `allocate` chooses the memory: a SharedArrayBuffer when threads are to share it. */
  finish<B extends ArrayBufferLike>(allocate: (bytes: number) => B): B {
    const {
      sorted,
      find,
      sections: wordSections,
    } = this.#words.finish(this.#fields.searchFields.length, this.#frequentDocs);
    const columns = this.#fields.columns
      .filter((column) => column.isUsed)
      .map((column, part) => column.finish(part, this.docs, this.#keyFields?.includes(column.path)));
    const versionIds = fromLeast(this.#versionIds.view());
    const orders = fromLeast(this.#orders.view());
    const meta: SegmentMeta = {
      docs: this.docs,
      firstVersionId: versionIds.least,
      firstOrder: orders.least,
      terms: sorted.length,
      ...(this.#plan.wordEnds ? { hasWordEnds: true } : {}),
      languages: [...this.#plan.languages],
      searchFields: this.#fields.searchFields,
      shortest: this.#words.shortest(this.#fields.searchFields.length),
      stringFields: this.#fields.searchFields.filter((field) => this.#stringFields.has(field)),
      ...(this.#fields.unsearched.size === 0 ? {} : { unsearched: [...this.#fields.unsearched] }),
      planned: [...this.#plan.searchFields],
      html: [...this.#plan.html],
      paths: this.#fields.paths,
      keyFields: this.#keyFields ?? [],
      columns: columns.map((column) => column.meta),
      geo: [...this.#plan.geo],
    };
    const keyStarts = this.#keyStarts.view();
    const keyBytes = this.#keyBytes.view();
    const sections: SectionInput[] = [
      { kind: Section.Meta, data: encoder.encode(JSON.stringify(meta)) },
      { kind: Section.VersionIds, data: versionIds.data.every((id, doc) => id === doc) ? NONE : versionIds.data },
      { kind: Section.Orders, data: isSame(this.#orders.view(), this.#versionIds.view()) ? NONE : orders.data },
      { kind: Section.KeyStarts, data: keyStarts },
      { kind: Section.KeyBytes, data: keyBytes },
      { kind: Section.KeyTable, data: buildKeyTable(keyStarts, keyBytes) },
      { kind: Section.RecordStarts, data: this.#recordStarts.view() },
      { kind: Section.RecordBytes, data: this.#recordBytes.view() },
      ...trieSections(buildTrie(sorted), [Section.TrieLabels, Section.TrieEnds, Section.TrieFirsts]),
      { kind: Section.TermLengths, data: Uint8Array.from(sorted, (term) => term.length) },
      ...wordSections,
      ...(this.#plan.wordEnds ? [{ kind: Section.WordEnds, data: orderByEnds(sorted, LEAST_COMPOUND) }] : []),
      ...this.#plan.languages.flatMap((language, part) => stemSections(sorted, find, language, part)),
      ...columns.flatMap((column) => column.sections),
      ...this.#positions.flatMap((positions, part) => positions.finish(part)),
    ];
    return writeSegment(sections, allocate);
  }
}

/** Adds a text as UTF-8, where a UTF-16 unit takes three bytes at most. */
function appendText(bytes: GrowingArray<Uint8Array>, text: string): void {
  bytes.appendInto(text.length * 3, (room) => encoder.encodeInto(text, room).written);
}

const NONE = new Uint32Array(0);

const isSame = (a: Float64Array, b: Float64Array): boolean => a.every((number, i) => number === b[i]);

/** Numbers as their distance from the least: they are close to each other, and fit into half the bytes. */
function fromLeast(numbers: Float64Array): { least: number; data: Uint32Array | Float64Array } {
  let [least, most] = [Infinity, -Infinity];
  for (const number of numbers) {
    if (number < least) least = number;
    if (number > most) most = number;
  }
  if (numbers.length === 0 || most - least > 0xffff_ffff) return { least: 0, data: numbers };
  const data = room(Uint32Array, numbers.length);
  for (let i = 0; i < data.length; i++) data[i] = numbers[i]! - least;
  return { least, data };
}

/**
 * Words that share a stem, by stem. A stem that stands for itself alone is left out: it is found as a word. So only
 * words that are not their own stem are gone by, and the word that their stem is, if it is one. `find`: the rank of a
 * word, or -1.
 */
function stemSections(
  sorted: readonly string[],
  find: (word: string) => number,
  language: string,
  part: number,
): SectionInput[] {
  const stemmer = stemmerFor(language);
  /** By stem: its first word; every word names the one that comes after it, the last one itself. */
  const firsts = new Map<string, number>();
  const after = room(Uint32Array, sorted.length);
  const isOther = new Uint8Array(sorted.length);
  if (stemmer !== null)
    for (let rank = sorted.length - 1; rank >= 0; rank--) {
      const stem = stemmer(sorted[rank]!);
      if (stem === sorted[rank]) continue;
      isOther[rank] = 1;
      after[rank] = firsts.get(stem) ?? rank;
      firsts.set(stem, rank);
    }
  const stems = [...firsts.keys()].sort();
  const starts = new Uint32Array(stems.length + 1);
  const terms = new GrowingArray(Uint32Array);
  stems.forEach((stem, i) => {
    const own = find(stem);
    let isLeft = own !== -1 && isOther[own] === 0;
    for (let term = firsts.get(stem)!; ; term = after[term]!) {
      if (isLeft && own < term) {
        terms.push(own);
        isLeft = false;
      }
      terms.push(term);
      if (after[term] === term) break;
    }
    if (isLeft) terms.push(own);
    starts[i + 1] = terms.length;
  });
  return [
    ...trieSections(buildTrie(stems), [Section.StemLabels, Section.StemEnds, Section.StemFirsts], part),
    { kind: Section.StemStarts, part, data: starts },
    { kind: Section.StemTerms, part, data: terms.view() },
  ];
}
