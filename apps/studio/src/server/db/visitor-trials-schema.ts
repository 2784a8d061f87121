/** Live against draft, on visitors. */
import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core';

export const visitorTrials = sqliteTable(
  'visitor_trials',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    collectionId: integer('collection_id').notNull(),
    /** ISO 8601, as everywhere where days are told to people. */
    startedAt: text('started_at').notNull(),
    endedAt: text('ended_at'),
    ended: text('ended', { enum: ['stopped', 'published', 'unanswerable', 'full'] }),
    liveVersion: integer('live_version').notNull(),
    /** The draft as it was, as JSON. */
    tuning: text('tuning').notNull(),
    /** Decides, with a visit and its words, the coins of each list. */
    seed: text('seed').notNull(),
    /** What came out, once it has ended. */
    visits: integer('visits').notNull().default(0),
    winsOfLive: integer('wins_of_live').notNull().default(0),
    winsOfDraft: integer('wins_of_draft').notNull().default(0),
    ties: integer('ties').notNull().default(0),
  },
  (table) => [index('visitor_trials_by_collection').on(table.collectionId, table.id)],
);

/** Results opened in a trial that runs: each once for a visit and its words. */
export const visitorTrialClicks = sqliteTable(
  'visitor_trial_clicks',
  {
    trialId: integer('trial_id').notNull(),
    /** A hash of what the page calls it. */
    visit: text('visit').notNull(),
    words: text('words').notNull(),
    recordId: text('record_id').notNull(),
    /** 1: of live alone; −1: of the draft alone. */
    side: integer('side').notNull(),
  },
  (table) => [primaryKey({ columns: [table.trialId, table.visit, table.words, table.recordId] })],
);
