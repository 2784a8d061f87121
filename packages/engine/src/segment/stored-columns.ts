import type { ColumnMeta } from '../columns/column-builder.ts';
import type { NumberColumn, ValueColumn } from '../columns/column.ts';
import { findTexts } from '../columns/text-finder.ts';
import type { TextHashes } from '../columns/text-hashes.ts';
import { decodedText } from '../bytes/decoded-text.ts';
import { Section, type readSegment } from '../bytes/flat-buffer.ts';

/** Positions of one field: NaN where a document has none, and the documents that have one as a k-d tree. */
export interface GeoColumn {
  lats: Float64Array;
  lngs: Float64Array;
  tree: Uint32Array;
}

/** What a buffer says of the columns in it. */
export interface ColumnsMeta {
  /** Every path that holds scalars, with the columns it has; a column's index in the list is its part number. */
  columns: ColumnMeta[];
  /** A position field's index in the list is its part number. */
  geo: string[];
}

/** The columns and positions that stand in one buffer: a segment's own, or those that were added to it later. */
export class StoredColumns {
  readonly #section: ReturnType<typeof readSegment>;
  readonly #columns: readonly ColumnMeta[];
  readonly #geo: readonly string[];

  constructor(section: ReturnType<typeof readSegment>, { columns, geo }: ColumnsMeta) {
    this.#section = section;
    this.#columns = columns;
    this.#geo = geo;
  }

  /** What is known of a field; undefined when no record holds a scalar there, as far as this buffer knows. */
  meta(path: string): ColumnMeta | undefined {
    return this.#columns.find((column) => column.path === path);
  }

  hasGeo(path: string): boolean {
    return this.#geo.includes(path);
  }

  /** The texts of a field; null when they do not stand in a column here. */
  values(path: string): ValueColumn | null {
    const part = this.#part(path);
    const meta = this.#columns[part];
    if (!meta?.hasValues) return null;
    const section = this.#section;
    const starts = section(Section.ValueStarts, part) as Uint32Array;
    const texts = section(Section.ValueBytes, part) as Uint8Array;
    const docStarts = section(Section.ValueDocStarts, part) as Uint32Array;
    return {
      size: starts.length - 1,
      text: textReader(starts, texts),
      find: (wanted) => findTexts(starts, texts, wanted),
      written: () => ({ starts, bytes: texts }),
      types: section(Section.ValueTypes, part) as Uint8Array,
      docStarts: docStarts.length === 0 ? null : docStarts,
      docValues: section(Section.ValueDocs, part) as ValueColumn['docValues'],
      label: meta.hasLabels
        ? labelReader(
            textReader(
              section(Section.LabelStarts, part) as Uint32Array,
              section(Section.LabelBytes, part) as Uint8Array,
            ),
          )
        : () => null,
      hasLabels: meta.hasLabels,
    };
  }

  /** The numbers of a field, or null when no record holds one. */
  numbers(path: string): NumberColumn | null {
    const part = this.#part(path);
    if (!this.#columns[part]?.hasNumbers) return null;
    const docStarts = this.#section(Section.NumberDocStarts, part) as Uint32Array;
    return {
      docStarts: docStarts.length === 0 ? null : docStarts,
      numbers: this.#section(Section.Numbers, part) as NumberColumn['numbers'],
      others: this.#section(Section.NumberOthers, part) as Uint32Array,
    };
  }

  /** The texts of a field by their hashes, where they stand in no column; null where they do, or there are none. */
  textHashes(path: string): TextHashes | null {
    const part = this.#part(path);
    if (!this.#columns[part]?.hasHashes) return null;
    const docs = this.#section(Section.TextHashDocs, part) as Uint32Array;
    return { hashes: this.#section(Section.TextHashes, part) as Uint16Array, docs: docs.length === 0 ? null : docs };
  }

  /** The positions of a field the plan named, or null. */
  geo(path: string): GeoColumn | null {
    const part = this.#geo.indexOf(path);
    if (part === -1) return null;
    return {
      lats: this.#section(Section.GeoLats, part) as Float64Array,
      lngs: this.#section(Section.GeoLngs, part) as Float64Array,
      tree: this.#section(Section.GeoTree, part) as Uint32Array,
    };
  }

  #part(path: string): number {
    return this.#columns.findIndex((column) => column.path === path);
  }
}

/** Decodes each text once: the values of a facet are few, and every query lists them. */
function textReader(starts: Uint32Array, bytes: Uint8Array): (value: number) => string {
  const texts: string[] = [];
  return (value) => (texts[value] ??= decodedText(bytes.subarray(starts[value], starts[value + 1])));
}

function labelReader(text: (value: number) => string): (value: number) => string | null {
  return (value) => text(value) || null;
}
