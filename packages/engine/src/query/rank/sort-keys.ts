import type { SearchRequest, SortKey, Tuning } from '@yucca/contract';
import { compareTexts, firstNumber, firstValue, NO_INT, type NumberColumn } from '../../columns/column.ts';
import { nearest } from '../../geo/circle.ts';
import { distancesFrom, type Position } from '../../geo/geo-point.ts';
import type { Segment } from '../../segment/segment.ts';
import type { DocSet } from '../../sets/doc-set.ts';
import { inPieces } from './in-pieces.ts';

/** One key of a sort in one segment. Smaller numbers stand first; what has no value stands last either way. */
interface KeyInSegment {
  /** Comparable within the segment. */
  number: (doc: number) => number;
  /**
   * The documents of a set among which the first `count` of them stand, where that is known without a key for each;
   * null where it is not.
   */
  first: ((among: DocSet, count: number) => DocSet | null) | null;
  /** The keys of a list of documents. */
  read: (docs: Uint32Array, into: Float64Array) => void;
  /** Comparable with other segments: a text, or the same number. */
  resolve: (doc: number) => number | string | null;
}

/** A sort over all segments of a collection. */
export interface Sorting {
  keys: readonly { order: 'asc' | 'desc'; bySegment: readonly KeyInSegment[] }[];
}

/** The sort a request asks for; null = by relevance. */
export function sortingFor(
  segments: readonly Segment[],
  tuning: Tuning,
  { sort, near }: SearchRequest,
): Sorting | null {
  if (sort === undefined || sort === 'relevance') return null;
  if (sort === 'distance') {
    const bySegment = segments.map((segment) => distanceKey(segment, tuning.geo, near!));
    return { keys: [{ order: 'asc', bySegment }] };
  }
  const rule = tuning.sorts.find(({ name }) => name === sort)!;
  return { keys: rule.by.map((key) => ({ order: key.order, bySegment: keysFor(segments, key) })) };
}

function keysFor(segments: readonly Segment[], { field, order }: SortKey): KeyInSegment[] {
  const sign = order === 'asc' ? 1 : -1;
  const byNumber = segments.some((segment) => segment.numbers(field) !== null);
  return segments.map((segment) => {
    if (byNumber) {
      const column = segment.numbers(field);
      const number = (doc: number): number => {
        const value = column === null ? Number.NaN : firstNumber(column, doc);
        return Number.isNaN(value) ? Infinity : sign * value;
      };
      const read = column?.docStarts === null ? numberReader(column, sign) : readerOf(number);
      return { number, first: null, read, resolve: number };
    }
    const column = segment.values(field);
    const valueOf = (doc: number): number => (column === null ? -1 : firstValue(column, doc));
    const number = (doc: number): number => {
      const value = valueOf(doc);
      return value === -1 ? Infinity : sign * value;
    };
    return {
      number,
      first: null,
      read: readerOf(number),
      resolve: (doc) => (valueOf(doc) === -1 ? null : column!.text(valueOf(doc))),
    };
  });
}

function distanceKey(segment: Segment, geo: string | null, near: Position): KeyInSegment {
  const distance = distanceReader(segment, geo, near);
  const number = (doc: number): number => {
    const metres = distance(doc);
    return Number.isNaN(metres) ? Infinity : metres;
  };
  const points = geo === null ? null : segment.geo(geo);
  return {
    number,
    first: points === null ? null : (among, count) => nearest(points, near, among, count),
    read: readerOf(number),
    resolve: number,
  };
}

function readerOf(number: (doc: number) => number): KeyInSegment['read'] {
  return (docs, into) =>
    inPieces(docs.length, (from, to) => {
      for (let i = from; i < to; i++) into[i] = number(docs[i]!);
    });
}

/** The same for a column of single numbers, without a call for each. */
function numberReader({ numbers }: NumberColumn, sign: number): KeyInSegment['read'] {
  const none = numbers instanceof Int32Array ? NO_INT : Number.NaN;
  return (docs, into) =>
    inPieces(docs.length, (from, to) => {
      for (let i = from; i < to; i++) {
        const number = numbers[docs[i]!]!;
        into[i] = number === none || Number.isNaN(number) ? Infinity : sign * number;
      }
    });
}

/** Metres from a position to a document; NaN for one without a position. */
export function distanceReader(segment: Segment, geo: string | null, near: Position): (doc: number) => number {
  const column = geo === null ? null : segment.geo(geo);
  if (column === null) return () => Number.NaN;
  const distanceTo = distancesFrom(near);
  return (doc) => distanceTo(column.lats[doc]!, column.lngs[doc]!);
}

/** Compares resolved keys of two documents of any segments. */
export function compareResolved(
  sorting: Sorting,
  a: readonly (number | string | null)[],
  b: readonly (number | string | null)[],
): number {
  for (let i = 0; i < sorting.keys.length; i++) {
    const [x, y] = [a[i]!, b[i]!];
    if (x === y) continue;
    if (x === null || y === null) return x === null ? 1 : -1;
    // Numbers carry their sign already; texts are turned round here.
    if (typeof x === 'number' && typeof y === 'number') return x - y;
    const order = compareTexts(String(x), String(y));
    if (order !== 0) return sorting.keys[i]!.order === 'asc' ? order : -order;
  }
  return 0;
}
