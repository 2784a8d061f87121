import type { RecordJson } from '@yucca/contract';
import { LeafType, MAX_COLUMNS, type NumberColumn, type ValueColumn } from '../columns/column.ts';
import { LazyColumns } from '../columns/lazy-columns.ts';
import type { ColumnMeta } from '../columns/column-builder.ts';
import type { TextHashes } from '../columns/text-hashes.ts';
import { MemberReader } from '../record/member-reader.ts';
import type { SegmentMeta } from './builder.ts';
import { decodedText } from '../bytes/decoded-text.ts';
import { readSegment, Section, SegmentFormatError } from '../bytes/flat-buffer.ts';
import type { ColumnSegmentMeta } from './column-segment.ts';
import { FrequentPairs } from './frequent-pairs.ts';
import { docsOfKey } from './key-table.ts';
import { StoredColumns, type GeoColumn } from './stored-columns.ts';
import type { Trie } from './trie.ts';

/** Stems, and for each the words that share it: `terms` from `starts[stem]` to `starts[stem + 1]`. */
export interface StemTable {
  trie: Trie;
  starts: Uint32Array;
  terms: Uint32Array;
}

const encoder = new TextEncoder();

/** Lengths of dictionary words stand in a byte: four words of 64 letters that are joined come out as 0. */
export const TERM_LENGTHS = 256;

/** How a buffer is opened. */
interface Opening {
  /** False trusts the bytes; otherwise they are held to their checksum. */
  verify?: boolean;
  /** Column segments that were made of it, oldest first; see column-segment.ts. */
  added?: readonly ArrayBufferLike[];
}

/** An opened segment: typed views into one flat buffer. Opening reads the section table and parses nothing else. */
export class Segment {
  readonly meta: SegmentMeta;
  readonly bytes: number;
  readonly trie: Trie;
  /** Letters of each word, by word number. */
  readonly termLengths: Uint8Array;
  /** The groups of word `t`, one a field, stand at `[groupStarts[t], groupStarts[t + 1])`. */
  readonly groupStarts: Uint32Array;
  readonly groupFields: Uint8Array;
  /** Where the postings of each group begin in `postDocs`; those of a run of words stand in one piece. */
  readonly groupPosts: Uint32Array;
  /** Documents; ascending within a group, or within each impact class of a parted one. */
  readonly postDocs: Uint32Array;
  /** Groups that are parted by impact class, and for each where its classes begin. */
  readonly partedGroups: Uint32Array;
  readonly classStarts: Uint32Array;
  /** Where two frequent words stand side by side. */
  readonly pairs: FrequentPairs;
  /** Long words by their last letters; empty where the plan did not ask for it. */
  readonly wordEnds: Uint32Array;
  /** The words of each document in their order; see forward.ts. */
  readonly forwardStarts: Uint32Array;
  readonly forward: Int32Array;
  readonly #section: (kind: number, part?: number) => ReturnType<ReturnType<typeof readSegment>>;
  /** Empty when they follow each other. */
  readonly #versionIds: Uint32Array | Float64Array;
  /** Empty when each is the number of the version. */
  readonly #orders: Uint32Array | Float64Array;
  #isInOrder: boolean | null = null;
  readonly #keyStarts: Uint32Array;
  readonly #keyBytes: Uint8Array;
  readonly #keyTable: Uint32Array;
  readonly #recordStarts: Uint32Array;
  readonly #recordBytes: Uint8Array;
  readonly #values = new Map<string, ValueColumn | null>();
  readonly #numbers = new Map<string, NumberColumn | null>();
  readonly #lazy: LazyColumns;
  /** Its own, and before them what was added later, the newest first. */
  readonly #stored: readonly StoredColumns[];
  readonly #paths: string[];

  /** Opens a buffer, and the column segments beside it. Throws a SegmentFormatError when one of them is damaged. */
  constructor(buffer: ArrayBufferLike, { added = [], ...options }: Opening = {}) {
    const section = readSegment(buffer, options);
    const u8 = (kind: number): Uint8Array => section(kind) as Uint8Array;
    const u32 = (kind: number): Uint32Array => section(kind) as Uint32Array;
    this.#section = section;
    this.bytes = buffer.byteLength;
    this.meta = JSON.parse(decodedText(u8(Section.Meta))) as SegmentMeta;
    this.#versionIds = section(Section.VersionIds) as Uint32Array | Float64Array;
    this.#orders = section(Section.Orders) as Uint32Array | Float64Array;
    this.trie = {
      labels: section(Section.TrieLabels) as Uint16Array,
      ends: u32(Section.TrieEnds),
      firsts: u32(Section.TrieFirsts),
    };
    this.termLengths = u8(Section.TermLengths);
    this.groupStarts = u32(Section.GroupStarts);
    this.groupFields = u8(Section.GroupFields);
    this.groupPosts = u32(Section.GroupPosts);
    this.postDocs = u32(Section.PostDocs);
    this.partedGroups = u32(Section.PartedGroups);
    this.classStarts = u32(Section.ClassStarts);
    this.pairs = new FrequentPairs(
      u32(Section.PairWords),
      u32(Section.PairStarts),
      u8(Section.PairPlaces),
      this.meta.searchFields.length,
    );
    this.wordEnds = this.meta.hasWordEnds ? u32(Section.WordEnds) : new Uint32Array(0);
    this.forwardStarts = u32(Section.ForwardStarts);
    this.forward = section(Section.Forward) as Int32Array;
    this.#keyStarts = u32(Section.KeyStarts);
    this.#keyBytes = u8(Section.KeyBytes);
    this.#keyTable = u32(Section.KeyTable);
    this.#recordStarts = u32(Section.RecordStarts);
    this.#recordBytes = u8(Section.RecordBytes);
    this.#lazy = new LazyColumns(this);
    const later = added.map((bytes) => this.#openAdded(bytes, options));
    this.#stored = [...later.map(({ columns }) => columns).reverse(), new StoredColumns(section, this.meta)];
    this.#paths = [...new Set([...this.meta.paths, ...later.flatMap(({ paths }) => paths)])];
  }

  #openAdded(buffer: ArrayBufferLike, options: Opening): { columns: StoredColumns; paths: string[] } {
    const section = readSegment(buffer, options);
    const meta = JSON.parse(decodedText(section(Section.Meta) as Uint8Array)) as ColumnSegmentMeta;
    if (meta.docs !== this.meta.docs || meta.firstVersionId !== this.meta.firstVersionId)
      throw new SegmentFormatError('these columns were made of another segment');
    return { columns: new StoredColumns(section, meta), paths: meta.paths };
  }

  /** Every field path met in the records or planned; the first of very many. */
  get paths(): readonly string[] {
    return this.#paths;
  }

  get docs(): number {
    return this.meta.docs;
  }

  /** Where the postings of word `term` begin; those of the words before it end there. */
  postStart(term: number): number {
    return this.groupPosts[this.groupStarts[term]!]!;
  }

  key(doc: number): string {
    return decodedText(this.#keyBytes.subarray(this.#keyStarts[doc], this.#keyStarts[doc + 1]));
  }

  /** The documents that are versions of the record with this key, living or not. */
  docsOfKey(key: string): number[] {
    return docsOfKey(this.#keyTable, this.#keyStarts, this.#keyBytes, encoder.encode(key));
  }

  record(doc: number): RecordJson {
    return JSON.parse(
      decodedText(this.#recordBytes.subarray(this.#recordStarts[doc], this.#recordStarts[doc + 1])),
    ) as RecordJson;
  }

  /** Bytes of all records, as JSON. */
  get recordBytes(): number {
    return this.#recordBytes.length;
  }

  /** Visits the scalars of one field in some documents, out of the records themselves. */
  readIn(path: string, docs: Iterable<number>, visit: (doc: number, value: string | number | boolean) => void): void {
    const read = this.#readerOf(path, visit);
    for (const doc of docs) read(doc);
  }

  /** Visits what of each record some fields may stand in, for what has to be looked at together. */
  eachPart(paths: readonly string[], visit: (doc: number, part: RecordJson) => void): void {
    const starts = this.#recordStarts;
    const readers = paths.map((path) => this.#memberReader(path));
    for (let doc = 0; doc < this.docs; doc++) {
      const members = readers.flatMap((reader) => reader.members(starts[doc]!, starts[doc + 1]!));
      visit(doc, Object.fromEntries(members));
    }
  }

  #memberReader(path: string): MemberReader {
    const bytes = this.#recordBytes;
    return new MemberReader(bytes, path, (from, to) => decodedText(bytes.subarray(from, to)));
  }

  #readerOf(path: string, visit: (doc: number, value: string | number | boolean) => void): (doc: number) => void {
    const starts = this.#recordStarts;
    const reader = this.#memberReader(path);
    return (doc) => reader.read(starts[doc]!, starts[doc + 1]!, (value) => visit(doc, value));
  }

  /** Visits every scalar of one field, document by document, out of the records themselves: slow, see MemberReader. */
  eachRead(path: string, visit: (doc: number, value: string | number | boolean) => void): void {
    const read = this.#readerOf(path, visit);
    for (let doc = 0; doc < this.docs; doc++) read(doc);
  }

  /** The documents whose key begins with a text. */
  eachKeyFrom(beginning: string, visit: (doc: number) => void): void {
    const wanted = encoder.encode(beginning);
    const [starts, bytes, { docs }] = [this.#keyStarts, this.#keyBytes, this.meta];
    const end = wanted.length - 1;
    if (end === -1) return;
    // Keys begin alike more often than not, and the last byte of a beginning is often the same sign: the one before it
    // tells most of them apart.
    const telling = Math.max(0, end - 1);
    const [first, second] = [wanted[telling], wanted[end]];
    let from = 0;
    for (let doc = 0; doc < docs; doc++) {
      const next = starts[doc + 1]!;
      if (bytes[from + telling] === first && bytes[from + end] === second && from + end < next) {
        let i = end - 2;
        while (i >= 0 && bytes[from + i] === wanted[i]) i--;
        if (i < 0) visit(doc);
      }
      from = next;
    }
  }

  /** Whether a field holds the key of every record. */
  isKey(path: string): boolean {
    return this.meta.keyFields.includes(path);
  }

  /** The texts of a field by their hashes, where they stand in no column; null where they do, or there are none. */
  textHashes(path: string): TextHashes | null {
    return this.#holderOf(path)?.textHashes(path) ?? null;
  }

  /** Whether no document holds two texts in a field. */
  holdsSingleTexts(path: string): boolean {
    return this.#columnMeta(path)?.singleTexts ?? true;
  }

  /** As which JSON types a field occurs: LeafType bits, 0 when no record holds it. */
  typesOf(path: string): number {
    return this.#columnMeta(path)?.types ?? 0;
  }

  /** Whether the texts of a field stand in a column; else only the records have them. */
  keepsValues(path: string): boolean {
    return this.#columnMeta(path)?.hasValues ?? false;
  }

  /** Whether a column holds every value of a field, numbers among them, though no plan may have asked for it. */
  holdsAllValues(path: string): boolean {
    const types = this.typesOf(path);
    // What stands nowhere has no column; unless there were too many fields for each to have one.
    if (types === 0) return this.#paths.length < MAX_COLUMNS - 1;
    return (types & LeafType.Number) === 0 && this.keepsValues(path);
  }

  /** Whether the texts or the numbers of a field stand in a column. Of a field that holds both, that is not known. */
  holdsOrdering(path: string): boolean {
    return this.typesOf(path) === LeafType.Number || this.holdsAllValues(path);
  }

  /** Where the columns of a field stand: what was added later holds all that the segment itself has of it. */
  #holderOf(path: string): StoredColumns | undefined {
    return this.#stored.find((columns) => columns.meta(path) !== undefined);
  }

  #columnMeta(path: string): ColumnMeta | undefined {
    return this.#holderOf(path)?.meta(path);
  }

  /** The texts of a field, or null when no record holds one. A field of long texts gets its column on first use. */
  values(path: string): ValueColumn | null {
    let column = this.#values.get(path);
    if (column === undefined) this.#values.set(path, (column = this.#readValues(path)));
    return column;
  }

  #readValues(path: string): ValueColumn | null {
    const meta = this.#columnMeta(path);
    if (meta === undefined) return null;
    if (meta.hasValues) return this.#holderOf(path)!.values(path);
    return (meta.types & ~LeafType.Number) === 0 ? null : this.#lazy.values(path);
  }

  /** The numbers of a field, or null when no record holds one. */
  numbers(path: string): NumberColumn | null {
    let column = this.#numbers.get(path);
    if (column === undefined) this.#numbers.set(path, (column = this.#holderOf(path)?.numbers(path) ?? null));
    return column;
  }

  /** The stems of a language, or null when the plan did not name it. */
  stems(language: string): StemTable | null {
    const part = this.meta.languages.indexOf(language);
    if (part === -1) return null;
    const section = this.#section;
    return {
      trie: {
        labels: section(Section.StemLabels, part) as Uint16Array,
        ends: section(Section.StemEnds, part) as Uint32Array,
        firsts: section(Section.StemFirsts, part) as Uint32Array,
      },
      starts: section(Section.StemStarts, part) as Uint32Array,
      terms: section(Section.StemTerms, part) as Uint32Array,
    };
  }

  /** The positions of a field the plan named, or null. */
  geo(path: string): GeoColumn | null {
    return this.#stored.find((columns) => columns.hasGeo(path))?.geo(path) ?? null;
  }

  /** A document's number in record order. */
  order(doc: number): number {
    return this.#orders.length === 0 ? this.#versionOf(doc) : this.meta.firstOrder + this.#orders[doc]!;
  }

  #versionOf(doc: number): number {
    return this.meta.firstVersionId + (this.#versionIds.length === 0 ? doc : this.#versionIds[doc]!);
  }

  /** Whether documents stand in record order: so it is until a record is changed. */
  get isInOrder(): boolean {
    this.#isInOrder ??= this.#orders.every((order, doc) => doc === 0 || order >= this.#orders[doc - 1]!);
    return this.#isInOrder;
  }

  /** The document that holds version `versionId` of a record, or -1. */
  docOfVersion(versionId: number): number {
    let low = 0;
    let high = this.docs - 1;
    while (low <= high) {
      const middle = (low + high) >>> 1;
      const at = this.#versionOf(middle);
      if (at === versionId) return middle;
      if (at < versionId) low = middle + 1;
      else high = middle - 1;
    }
    return -1;
  }
}
