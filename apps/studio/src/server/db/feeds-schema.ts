/** Sources that keep collections in step: what they sent, and what became of it. */
import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { FEED_ACTIONS, FEED_EVENT_STATES, FEED_RUN_STATES } from '@yucca/contract';
import { sql } from 'drizzle-orm';

export const feeds = sqliteTable('feeds', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  collectionId: integer('collection_id').notNull(),
  /** JSON. */
  source: text('source').notNull(),
  state: text('state', { enum: ['running', 'paused'] }).notNull(),
  /** Sealed; see KeySealer. */
  secret: text('secret').notNull(),
  /** The one before, which holds until `oldUntil`. */
  oldSecret: text('old_secret'),
  oldUntil: integer('old_until'),
  createdAt: text('created_at').notNull(),
  /** JSON, sealed: passwords and headers of a source that is asked. */
  secrets: text('secrets'),
  /** JSON; see FeedMapping. */
  mapping: text('mapping').notNull().default('[]'),
  /** JSON: where the last run ended, as its source understands it. */
  position: text('position'),
  /** JSON: the fields of the last run and their types. */
  shape: text('shape'),
  /** Runs that failed, one after the other, and why the last one did. */
  failures: integer('failures').notNull().default(0),
  reason: text('reason'),
  /** When something last came of a source that is asked, and when it is asked again; in milliseconds since 1970. */
  heardAt: integer('heard_at'),
  nextAt: integer('next_at'),
  /** Seconds between two comparisons that nobody asks for; null = none. */
  checkEveryS: integer('check_every_s').default(86_400),
  /** JSON: what the last of them found. */
  drift: text('drift'),
});

/** Runs of sources that are asked. */
export const feedRuns = sqliteTable(
  'feed_runs',
  {
    number: integer('number').primaryKey({ autoIncrement: true }),
    feedId: text('feed_id').notNull(),
    state: text('state', { enum: FEED_RUN_STATES }).notNull(),
    by: text('by', { enum: ['schedule', 'hand', 'change'] }).notNull(),
    whole: integer('whole', { mode: 'boolean' }).notNull(),
    /** What it writes counts as of this; see feedKeys. */
    order: integer('order').notNull(),
    /** In milliseconds since 1970. */
    startedAt: integer('started_at').notNull(),
    endedAt: integer('ended_at'),
    read: integer('read').notNull().default(0),
    written: integer('written').notNull().default(0),
    same: integer('same').notNull().default(0),
    deleted: integer('deleted').notNull().default(0),
    failed: integer('failed').notNull().default(0),
    /** Of those, the ones that do not tell their key: what they replace must not be deleted. */
    nameless: integer('nameless').notNull().default(0),
    total: integer('total'),
    asks: integer('asks'),
    reason: text('reason'),
    /** JSON: where to go on after a crash, as its source understands it. */
    resume: text('resume'),
    /** JSON: where the next run begins, once this one is done. */
    position: text('position'),
    /** JSON: the fields that were read and their types; and how they differ from the run before. */
    shape: text('shape'),
    changes: text('changes').notNull().default('[]'),
  },
  (table) => [index('feed_runs_of_feed').on(table.feedId, table.number)],
);

export const feedEvents = sqliteTable(
  'feed_events',
  {
    number: integer('number').primaryKey({ autoIncrement: true }),
    feedId: text('feed_id').notNull(),
    source: text('source').notNull(),
    event: text('event').notNull(),
    type: text('type').notNull(),
    key: text('key').notNull(),
    action: text('action', { enum: FEED_ACTIONS }).notNull(),
    /** JSON; null when nothing has to be done with it any more. */
    data: text('data'),
    /** What orders the changes of one key: microseconds since 1970, or the number its source gave. */
    order: integer('order').notNull(),
    state: text('state', { enum: FEED_EVENT_STATES }).notNull(),
    reason: text('reason'),
    /** In milliseconds since 1970. */
    receivedAt: integer('received_at').notNull(),
  },
  (table) => [
    // An event of a source is applied once, however often it comes.
    uniqueIndex('feed_events_once').on(table.feedId, table.source, table.event),
    index('feed_events_by_state').on(table.feedId, table.state, table.number),
    index('feed_events_by_time').on(table.feedId, table.receivedAt),
    index('feed_patches').on(table.feedId, table.key, table.order).where(sql`action = 'patch'`), // prettier-ignore
  ],
);

/** Messages that came, by the id their sender gave them: one that comes again is not looked into. */
export const feedMessages = sqliteTable(
  'feed_messages',
  { feedId: text('feed_id').notNull(), message: text('message').notNull(), at: integer('at').notNull() },
  (table) => [primaryKey({ columns: [table.feedId, table.message] })],
);

/**
 * The newest whole state of a key that was applied: nothing older than it is. Of a source that is asked, also which
 * records are its own: those that a whole run has not seen are deleted.
 */
export const feedKeys = sqliteTable(
  'feed_keys',
  {
    feedId: text('feed_id').notNull(),
    key: text('key').notNull(),
    order: integer('order').notNull(),
    /** The run that saw it last. */
    run: integer('run').notNull().default(0),
    /** The version of the record that the feed wrote; 0 = it was deleted, null = not known. */
    version: integer('version'),
    /** A hash of the row in its source, made there, and which part of all keys it belongs to; null = none was told. */
    print: integer('print'),
    part: integer('part'),
  },
  (table) => [primaryKey({ columns: [table.feedId, table.key] })],
);
