/** The lists of queries, choices and records that visitors' searches make: each is one object. */
import type { InsightItem, InsightListName, InsightSort } from '@yucca/contract';
import type { Db } from '../db/open';
import type { Alike, Opened } from './proposals';
import type { InsightScope } from './read-insights';

/** A row as SQL gives it, by the names of the item it becomes. */
export type ListRow = Record<string, string | number | null>;

export interface InsightList {
  /** Everything from `with` or `select` on; named parameters: collection, tag, from, to, least. */
  sql: string;
  /** The column that `q` is looked for in. */
  text: 'query' | 'value';
  /** What it may be sorted by; the first is its default. */
  sorts: readonly InsightSort[];
  item: (row: ListRow, db: Db, scope: InsightScope) => InsightItem;
}

const SCOPE = 'collection_id = @collection and tag = @tag and day between @from and @to';

/** Records are counted of all visitors together. */
const OF_ALL = `collection_id = @collection and tag = '' and day between @from and @to`;

/** Queries with the sums of the range; `having` says which. */
const queries = (having: string, ...sorts: InsightSort[]): InsightList => ({
  sql: `select text as query, sum(searches) as count, sum(visitors) as visitors, sum(missed) as missed,
      sum(clicked) as clicked, sum(conversions) as conversions, sum(places) as places, sum(refined) as refined,
      sum(chosen) as chosen, sum(places) * 1.0 / max(sum(clicked), 1) as meanPlace, sum(ms_sum) / max(sum(searches), 1) as ms,
      max(last_at) as lastAt, max(ifnull(last_missed_at, 0)) as lastMissedAt, max(ifnull(last_found_at, 0)) as lastFoundAt
    from insight_queries where ${SCOPE} group by words having count > 0 and visitors >= @least and (${having})`,
  text: 'query',
  sorts,
  item: (row) => ({
    query: row.query as string,
    ...sumsOf(row),
    lastAt: new Date(row.lastAt as number).toISOString(),
    ms: round(row.ms as number),
  }),
});

const round = (value: number): number => Math.round(value * 100) / 100;

const sumsOf = ({ count, visitors, missed, clicked, conversions, meanPlace }: ListRow) => ({
  count: count as number,
  visitors: visitors as number,
  nothing: missed as number,
  clicked: clicked as number,
  conversions: conversions as number,
  meanPlace: (clicked as number) > 0 ? round(meanPlace as number) : null,
});

/** Most that is said of what visitors asked next. */
const MOST_NEXT = 5;

/** What was asked right after a query without anything having been opened, the most frequent first. */
export function nextOf(
  db: Db,
  { collectionId, tag, range }: InsightScope,
  words: string,
): NonNullable<InsightItem['next']> {
  return db.$client
    .prepare(
      `select next_text as text, sum(searches) as count, sum(found) as found from insight_refined
       where ${SCOPE} and words = @words group by next having count > 0 order by count desc, next limit ${MOST_NEXT}`,
    )
    .all({ collection: collectionId, tag, ...range, words }) as NonNullable<InsightItem['next']>;
}

/** What visitors opened for a query, the most opened first. */
export function openedOf(db: Db, { collectionId, range }: InsightScope, words: string): Opened[] {
  return db.$client
    .prepare(
      `select record_id as recordId, sum(opened) as opened, sum(opened * rank) * 1.0 / sum(opened) as meanRank
       from insight_ranks where collection_id = @collection and words = @words and day between @from and @to
       group by record_id having sum(opened) > 0 order by opened desc, record_id limit 20`,
    )
    .all({ collection: collectionId, ...range, words }) as Opened[];
}

/** Other queries that lead visitors to the same records: at least two of those that this one leads to. */
export function alikeByClicks(db: Db, { collectionId, range }: InsightScope, words: string): Alike[] {
  return db.$client
    .prepare(
      `with mine as (
         select distinct record_id from insight_ranks
         where collection_id = @collection and words = @words and opened > 0 and day between @from and @to)
       select words as text, count(distinct record_id) as records, sum(opened) as opened from insight_ranks
       where collection_id = @collection and opened > 0 and day between @from and @to and words <> @words
         and record_id in (select record_id from mine)
       group by words having records > 1 order by records desc, opened desc, words limit 3`,
    )
    .all({ collection: collectionId, ...range, words }) as Alike[];
}

export const LISTS: Record<InsightListName, InsightList> = {
  asked: queries('true', 'count', 'visitors', 'clicked', 'nothing', 'meanPlace', 'lastAt', 'ms'),
  nothing: queries('missed > 0', 'nothing', 'visitors', 'count', 'lastAt'),
  // Found something at least once, and nobody opened anything.
  unclicked: queries('clicked = 0 and count > missed', 'count', 'visitors', 'lastAt'),
  // Nobody opens the first results.
  deep: queries('clicked > 0 and meanPlace > 4', 'meanPlace', 'clicked', 'count', 'lastAt'),
  refined: queries('refined > 0', 'count', 'visitors', 'lastAt'),
  completions: queries('chosen > 0', 'count', 'visitors', 'clicked', 'lastAt'),
  slow: queries('true', 'ms', 'count', 'lastAt'),
  facets: {
    sql: `select facet, value, sum(searches) as count from insight_choices where ${SCOPE}
      group by facet, value having count > 0 and count >= @least`,
    text: 'value',
    sorts: ['count'],
    item: ({ facet, value, count }) => ({
      facet: facet as string,
      value: value as string,
      count: count as number,
    }),
  },
  shown: {
    sql: `select record_id as value, sum(shown) as count, sum(clicked) as clicked from insight_records where ${OF_ALL}
      group by record_id having clicked = 0 and count > 0`,
    text: 'value',
    sorts: ['count'],
    item: ({ value, count, clicked }) => ({
      value: value as string,
      count: count as number,
      clicked: clicked as number,
    }),
  },
  unseen: {
    sql: `select key as value, 0 as count from records where collection_id = @collection and not exists (
        select 1 from insight_records as seen where seen.collection_id = @collection and seen.tag = ''
          and seen.day between @from and @to and seen.record_id = records.key)`,
    text: 'value',
    sorts: ['count'],
    item: ({ value }) => ({ value: value as string, count: 0 }),
  },
};
