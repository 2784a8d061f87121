import { Section, type SectionArray, type SectionInput } from '../bytes/flat-buffer.ts';
import { GrowingArray } from '../bytes/growing-array.ts';
import { NO_INT, sortKey } from './column.ts';
import { LeafType, leafType } from './leaf-type.ts';
import { TextHashesBuilder } from './text-hashes.ts';
import { writeTexts } from './written-texts.ts';

/** An unplanned column is given up once nearly every document brings a value of its own: it would be a second copy. */
const GIVE_UP_AFTER = 20_000;
const GIVE_UP_SHARE = 0.6;
const KEEP_ALWAYS = 1_000;
const KEEP_SHARE = 0.5;

/** What a finished column holds, for the segment's directory. */
export interface ColumnMeta {
  path: string;
  /** LeafType bits of everything the field holds. */
  types: number;
  hasValues: boolean;
  hasNumbers: boolean;
  hasLabels: boolean;
  /** The texts stand by their hashes, because nearly every document has its own. */
  hasHashes: boolean;
  /** No document holds two texts. */
  singleTexts: boolean;
}

/**
 * What a column keeps besides its numbers: every value, numbers too (`all`); the others (`ordering`); or these as long
 * as they are few (`small`).
 */
export type ColumnKeeps = 'all' | 'ordering' | 'small';

/** Collects the scalars of one field, document by document. */
export class ColumnBuilder {
  readonly path: string;
  readonly #keeps: ColumnKeeps;
  #types = 0;
  readonly #values = new Map<string, number>();
  readonly #valueTypes: number[] = [];
  /** By value: the last document that has it. */
  readonly #heldBy: number[] = [];
  readonly #docs = new GrowingArray(Uint32Array);
  readonly #docValues = new GrowingArray(Uint32Array);
  #multiValues = false;
  readonly #numberDocs = new GrowingArray(Uint32Array);
  readonly #numbers = new GrowingArray(Float64Array);
  #multiNumbers = false;
  readonly #otherDocs = new GrowingArray(Uint32Array);
  /** Of a column that was given up. */
  #hashes: TextHashesBuilder | null = null;
  readonly #labels: Map<string, string> | null;

  constructor(path: string, keeps: ColumnKeeps, labelled: boolean) {
    this.path = path;
    this.#keeps = keeps;
    this.#labels = labelled ? new Map() : null;
  }

  /** Whether any record holds a scalar here. */
  get isUsed(): boolean {
    return this.#types !== 0;
  }

  /** Adds a value; returns its number among the texts so far, -1 when it got none. */
  add(doc: number, value: string | number | boolean): number {
    const type = leafType(value);
    this.#types |= type;
    if (type === LeafType.Number) {
      this.#multiNumbers ||= lastOf(this.#numberDocs) === doc;
      this.#numberDocs.push(doc);
      this.#numbers.push(value as number);
    } else if (lastOf(this.#otherDocs) !== doc) {
      this.#otherDocs.push(doc);
    }
    if (this.#hashes !== null) {
      if (type === LeafType.String) this.#addHash(this.#hashes, doc, value as string);
      return -1;
    }
    if (type === LeafType.Number && this.#keeps !== 'all') return -1;
    return this.#addValue(doc, typeof value === 'string' ? value : String(value), type);
  }

  #addHash(hashes: TextHashesBuilder, doc: number, text: string): void {
    this.#multiValues ||= hashes.lastDoc === doc;
    hashes.add(doc, text);
  }

  #addValue(doc: number, text: string, type: number): number {
    // A number and a text that read alike are told apart by their type, so filters can compare each with its kind.
    const key = type === LeafType.String && !text.startsWith('\u0000') ? text : `\u0000${type}${text}`;
    let value = this.#values.get(key);
    if (value === undefined) {
      value = this.#values.size;
      this.#values.set(key, value);
      this.#valueTypes.push(type);
      if (this.#keeps === 'small' && value > GIVE_UP_AFTER && value > GIVE_UP_SHARE * doc) {
        this.#giveUp(doc, text, type);
        return -1;
      }
    }
    // A document counts once a value, however often the value stands in it.
    if (this.#heldBy[value] === doc) return value;
    this.#heldBy[value] = doc;
    this.#multiValues ||= lastOf(this.#docs) === doc;
    this.#docs.push(doc);
    this.#docValues.push(value);
    return value;
  }

  #giveUp(doc: number, text: string, type: number): void {
    this.#hashes = this.#hashesOfValues();
    if (type === LeafType.String) this.#addHash(this.#hashes, doc, text);
    this.#values.clear();
    this.#docs.clear();
    this.#docValues.clear();
  }

  /** The texts so far, by their hashes: only what gets no column is hashed. */
  #hashesOfValues(): TextHashesBuilder {
    const hashes = new TextHashesBuilder();
    const texts = [...this.#values.keys()];
    const [docs, values] = [this.#docs.view(), this.#docValues.view()];
    for (let i = 0; i < docs.length; i++) {
      const value = values[i]!;
      if (this.#valueTypes[value] === LeafType.String) hashes.add(docs[i]!, textOfKey(texts[value]!));
    }
    return hashes;
  }

  addLabel(text: string, label: string): void {
    if (!this.#labels!.has(text)) this.#labels!.set(text, label);
  }

  /** `isKey`: its texts are the keys of the records, which have a table of their own. */
  finish(part: number, docs: number, isKey = false): { meta: ColumnMeta; sections: SectionInput[] } {
    const keep =
      this.#hashes === null &&
      (this.#keeps !== 'small' || this.#values.size <= Math.max(KEEP_ALWAYS, docs * KEEP_SHARE));
    const hasValues = keep && this.#values.size > 0;
    const hasNumbers = this.#numbers.length > 0;
    const hasHashes = !hasValues && (this.#types & LeafType.String) !== 0 && (!isKey || this.#multiValues);
    return {
      meta: {
        path: this.path,
        types: this.#types,
        hasValues,
        hasNumbers,
        hasLabels: hasValues && this.#labels !== null,
        hasHashes,
        singleTexts: !this.#multiValues,
      },
      sections: [
        ...(hasValues ? this.#valueSections(part, docs) : []),
        ...(hasNumbers ? this.#numberSections(part, docs) : []),
        ...(hasHashes ? this.#hashSections(part, docs) : []),
      ],
    };
  }

  #valueSections(part: number, docs: number): SectionInput[] {
    const entries = [...this.#values].map(([key, value]) => {
      const text = textOfKey(key);
      return { text, value, order: sortKey(text) };
    });
    entries.sort((a, b) =>
      a.order !== b.order
        ? a.order < b.order
          ? -1
          : 1
        : a.text < b.text
          ? -1
          : a.text > b.text
            ? 1
            : a.value - b.value,
    );
    const ranks = new Uint32Array(entries.length);
    entries.forEach(({ value }, rank) => (ranks[value] = rank));
    const types = Uint8Array.from(entries, ({ value }) => this.#valueTypes[value]!);
    const owners = this.#docs.view();
    const values = this.#docValues.view();
    const { starts, data } = this.#multiValues
      ? grouped(docs, owners, (i) => ranks[values[i]!]!, new (smallest(entries.length))(values.length))
      : single(owners, (i) => ranks[values[i]!]! + 1, new (smallest(entries.length + 1))(docs));
    return [
      ...textSections(
        Section.ValueStarts,
        Section.ValueBytes,
        part,
        entries.map(({ text }) => text),
      ),
      { kind: Section.ValueTypes, part, data: types },
      { kind: Section.ValueDocStarts, part, data: starts },
      { kind: Section.ValueDocs, part, data },
      ...(this.#labels === null
        ? []
        : textSections(
            Section.LabelStarts,
            Section.LabelBytes,
            part,
            entries.map(({ text }) => this.#labels!.get(text) ?? ''),
          )),
    ];
  }

  #hashSections(part: number, docs: number): SectionInput[] {
    const { hashes, docs: held } = (this.#hashes ?? this.#hashesOfValues()).finish(docs);
    return [
      { kind: Section.TextHashes, part, data: hashes },
      { kind: Section.TextHashDocs, part, data: held ?? new Uint32Array(0) },
    ];
  }

  #numberSections(part: number, docs: number): SectionInput[] {
    const owners = this.#numberDocs.view();
    const numbers = this.#numbers.view();
    const whole = numbers.every((number) => number === (number | 0) && number !== NO_INT && !Object.is(number, -0));
    const { starts, data } = this.#multiNumbers
      ? grouped(
          docs,
          owners,
          (i) => numbers[i]!,
          whole ? new Int32Array(numbers.length) : new Float64Array(numbers.length),
        )
      : single(
          owners,
          (i) => numbers[i]!,
          whole ? new Int32Array(docs).fill(NO_INT) : new Float64Array(docs).fill(Number.NaN),
        );
    return [
      { kind: Section.NumberDocStarts, part, data: starts },
      { kind: Section.Numbers, part, data },
      { kind: Section.NumberOthers, part, data: this.#otherDocs.view() },
    ];
  }
}

/** The text of a value, from what it is told by. */
const textOfKey = (key: string): string => (key.startsWith('\u0000') ? key.slice(2) : key);

function lastOf(array: GrowingArray<Uint32Array>): number | undefined {
  return array.length === 0 ? undefined : array.array[array.length - 1];
}

function smallest(most: number): typeof Uint8Array | typeof Uint16Array | typeof Uint32Array {
  return most <= 0xff ? Uint8Array : most <= 0xffff ? Uint16Array : Uint32Array;
}

/** One entry a document, in place. */
function single<T extends SectionArray>(
  owners: Uint32Array,
  entry: (i: number) => number,
  data: T,
): { starts: Uint32Array; data: T } {
  for (let i = 0; i < owners.length; i++) data[owners[i]!] = entry(i);
  return { starts: new Uint32Array(0), data };
}

/** Entries grouped by document, which they came sorted by. */
function grouped<T extends SectionArray>(
  docs: number,
  owners: Uint32Array,
  entry: (i: number) => number,
  data: T,
): { starts: Uint32Array; data: T } {
  const starts = new Uint32Array(docs + 1);
  for (let i = 0; i < owners.length; i++) {
    starts[owners[i]! + 1]!++;
    data[i] = entry(i);
  }
  for (let doc = 0; doc < docs; doc++) starts[doc + 1]! += starts[doc]!;
  return { starts, data };
}

/** Texts as one run of UTF-8 bytes and where each begins. */
export function textSections(
  startsKind: number,
  bytesKind: number,
  part: number,
  texts: readonly string[],
): SectionInput[] {
  const { starts, bytes } = writeTexts(texts);
  return [
    { kind: startsKind, part, data: starts },
    { kind: bytesKind, part, data: bytes },
  ];
}
