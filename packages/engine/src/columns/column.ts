import { LeafType } from './leaf-type.ts';
import type { WrittenTexts } from './written-texts.ts';

/**
 * The texts of one field, for facets, filters and sorts: each distinct value once, and for each document the numbers of
 * its values. Values are numbered in sort order (see sortKey), so comparing numbers compares texts.
 */
export interface ValueColumn {
  readonly size: number;
  /** Texts, decoded the first time each is asked for. */
  text: (value: number) => string;
  /** The values that read like one of some texts, ascending. Decodes none of the others. */
  find: (texts: ReadonlySet<string>) => number[];
  /** The same texts as bytes. */
  written: () => WrittenTexts;
  /** As which JSON types the value occurs: LeafType bits. */
  types: Uint8Array;
  /** Null when no document holds more than one value: then `docValues[doc]` is 1 + its value, 0 without one. */
  docStarts: Uint32Array | null;
  docValues: Uint8Array | Uint16Array | Uint32Array;
  /** What to show for a value, when the plan pairs the field with another. */
  label: (value: number) => string | null;
  /** Whether any value has a label. */
  hasLabels: boolean;
}

/** The numbers of one field. */
export interface NumberColumn {
  /** Null when no document holds more than one number: then `numbers[doc]` is it, NaN without one. */
  docStarts: Uint32Array | null;
  numbers: Float64Array | Int32Array;
  /** Documents that hold something else, whether or not they hold a number too. */
  others: Uint32Array | null;
}

/** Paths beyond this have no columns: such data has keys for field names. */
export const MAX_COLUMNS = 400;

/** In an Int32Array column of single numbers: the document holds none. */
export const NO_INT = -0x8000_0000;

/** Visits the values of one document. */
export function eachValue(column: ValueColumn, doc: number, visit: (value: number) => void): void {
  const { docStarts, docValues } = column;
  if (docStarts === null) {
    const value = docValues[doc]!;
    if (value > 0) visit(value - 1);
    return;
  }
  for (let at = docStarts[doc]!, end = docStarts[doc + 1]!; at < end; at++) visit(docValues[at]!);
}

/** Visits the numbers of one document. */
export function eachNumber({ docStarts, numbers }: NumberColumn, doc: number, visit: (number: number) => void): void {
  if (docStarts === null) {
    const number = numbers[doc]!;
    if (!Number.isNaN(number) && (number !== NO_INT || numbers instanceof Float64Array)) visit(number);
    return;
  }
  for (let at = docStarts[doc]!, end = docStarts[doc + 1]!; at < end; at++) visit(numbers[at]!);
}

/** The first number of a document, NaN without one. */
export function firstNumber({ docStarts, numbers }: NumberColumn, doc: number): number {
  if (docStarts === null) {
    const number = numbers[doc]!;
    return number === NO_INT && numbers instanceof Int32Array ? Number.NaN : number;
  }
  const at = docStarts[doc]!;
  return at < docStarts[doc + 1]! ? numbers[at]! : Number.NaN;
}

/** The number of a document's first value, -1 without one. */
export function firstValue({ docStarts, docValues }: ValueColumn, doc: number): number {
  if (docStarts === null) return docValues[doc]! - 1;
  const at = docStarts[doc]!;
  return at < docStarts[doc + 1]! ? docValues[at]! : -1;
}

/** By what texts are put in order: without case and accents; the text itself breaks ties. */
export function sortKey(text: string): string {
  for (let i = 0; i < text.length; i++) {
    if (text.charCodeAt(i) < 128) continue;
    return text
      .normalize('NFKD')
      .replace(/[\u0300-\u036f]/g, '')
      .toLowerCase();
  }
  return text.toLowerCase();
}

/** Compares two texts in sort order. */
export function compareTexts(a: string, b: string): number {
  if (a === b) return 0;
  const [keyA, keyB] = [sortKey(a), sortKey(b)];
  return keyA !== keyB ? (keyA < keyB ? -1 : 1) : a < b ? -1 : 1;
}

export { LeafType };
