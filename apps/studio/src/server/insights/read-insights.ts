/** Sums of a range of days, and the curve they make. */
import type { Insights } from '@yucca/contract';
import type { Db } from '../db/open';
import { HOUR_MS } from './count';
import { before, dateOf, type DayRange } from './range';
import { percentile } from './time-buckets';

export interface InsightScope {
  collectionId: number;
  /** '' for all. */
  tag: string;
  range: DayRange;
}

export type InsightInterval = Insights['interval'];

/** Tags offered to choose from. */
const MOST_TAGS = 40;

const hours = ({ from, to }: DayRange): [number, number] => [from * 24, to * 24 + 23];

/** All of the answer but what was published, which the database of searches does not know. */
export function readInsights(db: Db, scope: InsightScope, interval: InsightInterval): Omit<Insights, 'published'> {
  const earlier = { ...scope, range: before(scope.range) };
  const dates = ({ range: { from, to } }: InsightScope) => ({ from: dateOf(from), to: dateOf(to) });
  return {
    range: dates(scope),
    before: dates(earlier),
    interval,
    totals: totalsOf(db, scope),
    totalsBefore: totalsOf(db, earlier),
    series: seriesOf(db, scope, interval),
    seriesBefore: seriesOf(db, earlier, interval),
    tags: tagsOf(db, scope),
    sampled: isSampled(db, scope),
  };
}

function totalsOf(db: Db, { collectionId, tag, range }: InsightScope): Insights['totals'] {
  const sums = db.$client
    .prepare(
      `select ifnull(sum(searches), 0) as searches, ifnull(sum(missed), 0) as missed, ifnull(sum(clicked), 0) as clicked,
         ifnull(sum(places), 0) as places, ifnull(sum(conversions), 0) as conversions
       from insight_hours where collection_id = ? and tag = ? and hour between ? and ?`,
    )
    .get(collectionId, tag, ...hours(range)) as Record<'searches' | 'missed' | 'clicked' | 'places' | 'conversions', number>; // prettier-ignore
  const visitors = db.$client
    .prepare('select ifnull(sum(visitors), 0) from insight_days where collection_id = ? and tag = ? and day between ? and ?')
    .pluck()
    .get(collectionId, tag, range.from, range.to) as number; // prettier-ignore
  const times = db.$client
    .prepare(
      `select bucket, sum(searches) as searches from insight_times
       where collection_id = ? and tag = ? and day between ? and ? group by bucket order by bucket`,
    )
    .all(collectionId, tag, range.from, range.to) as { bucket: number; searches: number }[];
  const { places, missed, ...rest } = sums;
  return {
    ...rest,
    nothing: missed,
    visitors,
    meanPlace: rest.clicked > 0 ? Math.round((places / rest.clicked) * 100) / 100 : null,
    p50Ms: percentile(times, 0.5),
    p95Ms: percentile(times, 0.95),
  };
}

/** Points that have nothing are there too: a day without searches is a fact. */
function seriesOf(db: Db, { collectionId, tag, range }: InsightScope, interval: InsightInterval): Insights['series'] {
  const width = { hour: 1, day: 24, week: 168 }[interval];
  const [first, last] = hours(range);
  const rows = db.$client
    .prepare(
      `select cast((hour - ?) / ? as integer) as point, sum(searches) as searches, sum(missed) as missed, sum(clicked) as clicked
       from insight_hours where collection_id = ? and tag = ? and hour between ? and ? group by point`,
    )
    .all(first, width, collectionId, tag, first, last) as { point: number; searches: number; missed: number; clicked: number }[]; // prettier-ignore
  const byPoint = new Map(rows.map(({ point, missed, ...sums }) => [point, { ...sums, nothing: missed }]));
  return Array.from({ length: Math.ceil((last - first + 1) / width) }, (_, point) => ({
    at: new Date((first + point * width) * HOUR_MS).toISOString(),
    ...(byPoint.get(point) ?? { searches: 0, nothing: 0, clicked: 0 }),
  }));
}

function tagsOf(db: Db, { collectionId, range }: InsightScope): string[] {
  return db.$client
    .prepare(
      `select tag from insight_days where collection_id = ? and tag <> '' and day between ? and ?
       group by tag order by sum(visitors) desc, tag limit ?`,
    )
    .pluck()
    .all(collectionId, range.from, range.to, MOST_TAGS) as string[];
}

function isSampled(db: Db, { collectionId, range }: InsightScope): boolean {
  const [first, last] = hours(range);
  return (
    db.$client
      .prepare('select 1 from settled_searches where collection_id = ? and at between ? and ? and weight > 1 limit 1')
      .get(collectionId, first * HOUR_MS, (last + 1) * HOUR_MS) !== undefined
  );
}
