/** Sources that keep collections in step: what they sent, and what became of it. */
import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { FEED_ACTIONS, FEED_EVENT_STATES } from '@yucca/contract';
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
});

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

/** The newest whole state of a key that was applied: nothing older than it is. */
export const feedKeys = sqliteTable(
  'feed_keys',
  { feedId: text('feed_id').notNull(), key: text('key').notNull(), order: integer('order').notNull() },
  (table) => [primaryKey({ columns: [table.feedId, table.key] })],
);
