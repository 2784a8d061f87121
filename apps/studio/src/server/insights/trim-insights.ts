import { lt, sql } from 'drizzle-orm';
import { insightSeen, settledAnswers, settledSearches } from '../db/insights-schema';
import type { Db } from '../db/open';
import { DAY_MS } from './count';

export interface InsightAges {
  /** Days that single searches are kept. */
  rawDays: number;
  /** Days that their sums are kept. */
  sumDays: number;
}

/** Queries of a day that are kept on their own once it is well over: the most asked, and the most asked in vain. */
const KEPT = { asked: 600, inVain: 200 };
/** Searches deleted at once: other writes come between. */
const PIECE = 5_000;

const TABLES = [
  'insight_days',
  'insight_times',
  'insight_queries',
  'insight_refined',
  'insight_choices',
  'insight_records',
  'insight_ranks',
] as const;

/** Which records were seen is kept on its own for so many days. */
const RECORD_DAYS = 120;

/** The day a database was last looked through. */
const trimmedOn = new WeakMap<Db, number>();

/** Clears away what is kept long enough, and rare queries of days that are over. True when there is more to clear. */
export function trimInsights(db: Db, { rawDays, sumDays }: InsightAges, now = Date.now(), kept = KEPT): boolean {
  const today = Math.floor(now / DAY_MS);
  const client = db.$client;
  return client
    .transaction(() => {
      const old = now - rawDays * DAY_MS;
      const ids = sql`id in (select id from settled_searches where last_at < ${old} limit ${PIECE})`;
      db.delete(settledAnswers)
        .where(sql`search_id in (select id from settled_searches where last_at < ${old} limit ${PIECE})`)
        .run();
      const { changes } = db.delete(settledSearches).where(ids).run();
      db.delete(insightSeen)
        .where(lt(insightSeen.day, today - 1))
        .run();
      // Sums change by the day: what is over is looked at once.
      if (trimmedOn.get(db) !== today) {
        for (const table of TABLES) client.prepare(`delete from ${table} where day < ?`).run(today - sumDays);
        client.prepare('delete from insight_hours where hour < ?').run((today - sumDays) * 24);
        for (const table of ['insight_records', 'insight_ranks'])
          client.prepare(`delete from ${table} where day < ?`).run(today - RECORD_DAYS);
        trimQueries(db, today - 2, kept);
        trimmedOn.set(db, today);
      }
      return changes === PIECE;
    })
    .immediate();
}

/** Leaves of each day before one the queries that were asked most. */
function trimQueries(db: Db, before: number, { asked, inVain }: typeof KEPT): void {
  const crowded = db.$client
    .prepare(
      `select collection_id as collection, tag, day from insight_queries where day <= ?
       group by collection_id, tag, day having count(*) > ?`,
    )
    .all(before, asked + inVain) as { collection: number; tag: string; day: number }[];
  const drop = db.$client.prepare(
    `delete from insight_queries where collection_id = @collection and tag = @tag and day = @day and words not in (
       select words from (select words from insight_queries where collection_id = @collection and tag = @tag and day = @day
         order by searches desc, words limit ${asked})
       union select words from (select words from insight_queries where collection_id = @collection and tag = @tag and day = @day
         order by missed desc, words limit ${inVain}))`,
  );
  for (const one of crowded) drop.run(one);
}

/** Clears away all that is kept of a collection. */
export function clearInsights(db: Db, collectionId: number): void {
  const client = db.$client;
  client
    .prepare('delete from settled_answers where search_id in (select id from settled_searches where collection_id = ?)')
    .run(collectionId);
  client
    .prepare(
      'delete from visitor_trial_clicks where trial_id in (select id from visitor_trials where collection_id = ?)',
    )
    .run(collectionId);
  for (const table of ['visitor_trials', 'search_log', 'settled_searches', 'insight_hours', 'insight_seen', ...TABLES])
    client.prepare(`delete from ${table} where collection_id = ?`).run(collectionId);
}
