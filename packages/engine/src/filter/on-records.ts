import { SegmentBuilder } from '../segment/builder.ts';
import type { IndexPlan } from '../segment/plan.ts';
import { Segment } from '../segment/segment.ts';
import { filterSet } from './filter.ts';
import { parseFilter } from './parse.ts';

/** Nothing of a record is searched here, only held against a condition. */
const PLAN: IndexPlan = {
  languages: [],
  html: [],
  allStrings: false,
  searchFields: [],
  columns: [],
  labels: [],
  geo: [],
};

/**
 * Which of some records fulfil a CQL2-Text condition, told from their JSON and not from an index of them: between the
 * two a record may have changed. Decided by what decides for searches, over a small segment of these records alone; a
 * field that none of them has is absent. Throws a FilterError when the condition cannot be read.
 */
export function recordsThat<R extends { json: string }>(rows: readonly R[], filter: string): R[] {
  const condition = parseFilter(filter);
  if (rows.length === 0) return [];
  const builder = new SegmentBuilder(PLAN);
  rows.forEach(({ json }, i) => builder.add({ versionId: i + 1, order: i + 1, key: String(i), json }));
  const segment = new Segment(
    builder.finish((bytes) => new ArrayBuffer(bytes)),
    { verify: false },
  );
  const set = filterSet(segment, filter, condition);
  return rows.filter((_, doc) => set.has(doc));
}
