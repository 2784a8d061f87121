import { ColumnBuilder } from '../columns/column-builder.ts';
import { eachLabel } from '../columns/labels.ts';
import { Section, writeSegment } from '../bytes/flat-buffer.ts';
import type { AddedColumns } from './plan.ts';
import { PositionsBuilder } from './positions-builder.ts';
import type { Segment } from './segment.ts';
import type { ColumnsMeta } from './stored-columns.ts';

/** What a column segment says of itself, besides its columns. */
export interface ColumnSegmentMeta extends ColumnsMeta {
  /** Those of the segment it was made of. */
  docs: number;
  firstVersionId: number;
  /** The fields it was made for, whether or not a record holds them. */
  paths: string[];
}

/** After so many documents it is said how far it is. */
const TELL_EVERY = 500;
const encoder = new TextEncoder();

/**
 * Makes the columns that a segment lacks: a column segment, a buffer of its own that is opened beside the segment
 * (`added` of Segment). Reads the records that stand in the segment, and of those only the fields that are wanted: one
 * column takes a small part of the time of a new index (docs/performance.md).
 *
 * `onDocs` is told now and then how many documents were read since it was told last. Each is read once a column.
 */
export function buildColumnSegment<B extends ArrayBufferLike>(
  segment: Segment,
  { columns, ordering, labels, geo }: AddedColumns,
  allocate: (bytes: number) => B,
  onDocs: (docs: number) => void = () => {},
): B {
  const passed = (doc: number): void => {
    if ((doc + 1) % TELL_EVERY === 0) onDocs(TELL_EVERY);
  };
  const columnOf = (path: string, keeps: 'all' | 'ordering', labelled: boolean): ColumnBuilder => {
    const column = new ColumnBuilder(path, keeps, labelled);
    let last = 0;
    segment.eachRead(path, (doc, value) => {
      column.add(doc, value);
      for (; last < doc; last++) passed(last);
    });
    return column;
  };
  const builders = [
    ...columns.map((path) =>
      columnOf(
        path,
        'all',
        labels.some(({ field }) => field === path),
      ),
    ),
    ...ordering.map((path) => columnOf(path, 'ordering', false)),
  ];
  // A label goes with the value beside it, and a position may be of several numbers.
  const labelled = labels.map((label) => ({ ...label, column: builders.find(({ path }) => path === label.field)! }));
  const positions = geo.map((path) => new PositionsBuilder(path));
  const together = labels.flatMap(({ field, labelField }) => [field, labelField]).concat(geo);
  if (together.length > 0)
    segment.eachPart(together, (doc, part) => {
      for (const { field, labelField, column } of labelled)
        eachLabel(part, field, labelField, (value, label) => column.addLabel(value, label));
      for (const one of positions) one.add(part);
      passed(doc);
    });
  const finished = builders.filter((column) => column.isUsed).map((column, part) => column.finish(part, segment.docs));
  const meta: ColumnSegmentMeta = {
    docs: segment.docs,
    firstVersionId: segment.meta.firstVersionId,
    paths: [...columns, ...ordering],
    columns: finished.map((column) => column.meta),
    geo: [...geo],
  };
  return writeSegment(
    [
      { kind: Section.Meta, data: encoder.encode(JSON.stringify(meta)) },
      ...finished.flatMap((column) => column.sections),
      ...positions.flatMap((one, part) => one.finish(part)),
    ],
    allocate,
  );
}
