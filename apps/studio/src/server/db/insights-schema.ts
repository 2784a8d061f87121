/** What visitors looked for: as it is answered, as they meant it, and counted by hour and day. */
import { sql } from 'drizzle-orm';
import { index, integer, primaryKey, real, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** Searches whose trail is still open; a settled one goes on as a row of `settled_searches`. */
export const searchLog = sqliteTable(
  'search_log',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    /** In milliseconds since 1970, as everywhere here. */
    at: integer('at').notNull(),
    collectionId: integer('collection_id').notNull(),
    queryId: text('query_id').notNull(),
    /** Hashes of what the page calls them. */
    session: text('session').notNull(),
    visitor: text('visitor').notNull(),
    /** As typed, masked. */
    q: text('q').notNull(),
    /** JSON: choices by facet; null for none. */
    choices: text('choices'),
    total: integer('total').notNull(),
    ms: real('ms').notNull(),
    /** JSON list. */
    tags: text('tags').notNull(),
    chosen: integer('chosen', { mode: 'boolean' }).notNull(),
    /** How many searches it stands for, when only a part is kept. */
    weight: integer('weight').notNull(),
  },
  (table) => [index('search_log_by_session').on(table.session, table.id)],
);

/** Queries as visitors meant them, and what they did with what was found. */
export const settledSearches = sqliteTable(
  'settled_searches',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    at: integer('at').notNull(),
    /** When the same words were last asked for in this visit. */
    lastAt: integer('last_at').notNull(),
    collectionId: integer('collection_id').notNull(),
    session: text('session').notNull(),
    visitor: text('visitor').notNull(),
    text: text('text').notNull(),
    /** The same folded. */
    words: text('words').notNull(),
    total: integer('total').notNull(),
    ms: real('ms').notNull(),
    choices: text('choices'),
    tags: text('tags').notNull(),
    chosen: integer('chosen', { mode: 'boolean' }).notNull(),
    weight: integer('weight').notNull(),
    clicks: integer('clicks').notNull().default(0),
    /** The rank of the first result that was opened. */
    firstPlace: integer('first_place'),
    conversions: integer('conversions').notNull().default(0),
    /** The row of what was asked right after, when nothing here was opened. */
    refinedTo: integer('refined_to'),
  },
  (table) => [
    index('settled_by_time').on(table.collectionId, table.at),
    index('settled_by_session').on(table.session, table.id),
    index('settled_by_visitor').on(table.visitor),
  ],
);

/** Which settled query an answer belongs to: pages name answers by their id. */
export const settledAnswers = sqliteTable(
  'settled_answers',
  { queryId: text('query_id').primaryKey(), searchId: integer('search_id').notNull() },
  (table) => [index('settled_answers_by_search').on(table.searchId)],
);

/**
 * Every table of counts begins with these. `tag` is '' for all. What is listed stands in the order it is summed up in,
 * by query and then by day: a list is one walk through its table, without sorting.
 */
const scope = () => ({ collectionId: integer('collection_id').notNull(), tag: text('tag').notNull() });
const sum = (name: string) => integer(name).notNull().default(0);

/** `hour` and `day` count from 1970, in UTC. */
export const insightHours = sqliteTable(
  'insight_hours',
  {
    ...scope(),
    hour: integer('hour').notNull(),
    searches: sum('searches'),
    missed: sum('missed'),
    clicked: sum('clicked'),
    places: sum('places'),
    conversions: sum('conversions'),
  },
  (table) => [primaryKey({ columns: [table.collectionId, table.tag, table.hour] })],
);

export const insightDays = sqliteTable(
  'insight_days',
  { ...scope(), day: integer('day').notNull(), visitors: sum('visitors') },
  (table) => [primaryKey({ columns: [table.collectionId, table.tag, table.day] })],
);

/** Times of answers by bucket (insights/time-buckets). */
export const insightTimes = sqliteTable(
  'insight_times',
  { ...scope(), day: integer('day').notNull(), bucket: integer('bucket').notNull(), searches: sum('searches') },
  (table) => [primaryKey({ columns: [table.collectionId, table.tag, table.day, table.bucket] })],
);

export const insightQueries = sqliteTable(
  'insight_queries',
  {
    ...scope(),
    day: integer('day').notNull(),
    words: text('words').notNull(),
    text: text('text').notNull(),
    searches: sum('searches'),
    visitors: sum('visitors'),
    missed: sum('missed'),
    clicked: sum('clicked'),
    places: sum('places'),
    conversions: sum('conversions'),
    refined: sum('refined'),
    chosen: sum('chosen'),
    msSum: real('ms_sum').notNull().default(0),
    msMost: real('ms_most').notNull().default(0),
    lastAt: integer('last_at').notNull(),
    lastMissedAt: integer('last_missed_at'),
    lastFoundAt: integer('last_found_at'),
  },
  (table) => [primaryKey({ columns: [table.collectionId, table.tag, table.words, table.day] })],
);

export const insightRefined = sqliteTable(
  'insight_refined',
  {
    ...scope(),
    day: integer('day').notNull(),
    words: text('words').notNull(),
    next: text('next').notNull(),
    text: text('text').notNull(),
    nextText: text('next_text').notNull(),
    searches: sum('searches'),
    /** Of these, the next one found something. */
    found: sum('found'),
  },
  (table) => [primaryKey({ columns: [table.collectionId, table.tag, table.words, table.next, table.day] })],
);

export const insightChoices = sqliteTable(
  'insight_choices',
  {
    ...scope(),
    day: integer('day').notNull(),
    facet: text('facet').notNull(),
    value: text('value').notNull(),
    searches: sum('searches'),
  },
  (table) => [primaryKey({ columns: [table.collectionId, table.tag, table.facet, table.value, table.day] })],
);

export const insightRecords = sqliteTable(
  'insight_records',
  {
    ...scope(),
    day: integer('day').notNull(),
    recordId: text('record_id').notNull(),
    shown: sum('shown'),
    clicked: sum('clicked'),
  },
  (table) => [primaryKey({ columns: [table.collectionId, table.tag, table.recordId, table.day] })],
);

/** How often a record was shown and opened at a rank for a query: what judgements from visitors are made of. */
export const insightRanks = sqliteTable(
  'insight_ranks',
  {
    collectionId: integer('collection_id').notNull(),
    words: text('words').notNull(),
    recordId: text('record_id').notNull(),
    rank: integer('rank').notNull(),
    day: integer('day').notNull(),
    shown: sum('shown'),
    opened: sum('opened'),
  },
  (table) => [
    primaryKey({ columns: [table.collectionId, table.words, table.recordId, table.rank, table.day] }),
    // Which other queries lead to a record: few of those that were shown are opened.
    index('insight_ranks_opened')
      .on(table.collectionId, table.recordId)
      .where(sql`opened > 0`),
  ],
);

/** Who was counted already on a day that is not over, for a query or ('') at all. */
export const insightSeen = sqliteTable(
  'insight_seen',
  { ...scope(), day: integer('day').notNull(), words: text('words').notNull(), visitor: text('visitor').notNull() },
  (table) => [primaryKey({ columns: [table.collectionId, table.tag, table.day, table.words, table.visitor] })],
);

/** How far the counting is. */
export const insightState = sqliteTable('insight_state', {
  name: text('name').primaryKey(),
  value: integer('value').notNull(),
});
