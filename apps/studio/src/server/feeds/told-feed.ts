import type { Feed, FeedDrift, FeedEvent, FeedEventState, FeedMapping } from '@yucca/contract';
import { and, count, eq, gte, max, min, sql } from 'drizzle-orm';
import { feedEvents } from '../db/feeds-schema';
import type { Db } from '../db/open';
import { sourceOf, type FeedRow, type RunRow } from './feed-rows';
import { runOf } from './run-of';
import { isPulled } from './sources/source';

const MINUTES = 60;

/** Since when the oldest event waits that is not applied, in milliseconds since 1970; null when none does. */
export function waitingSince(db: Db, feedId: string): number | null {
  const ofFeed = and(eq(feedEvents.feedId, feedId), eq(feedEvents.state, 'waiting'));
  return db.select({ since: min(feedEvents.receivedAt) }).from(feedEvents).where(ofFeed).get()!.since; // prettier-ignore
}

/** A feed as the API tells it. */
export function toldFeed(db: Db, row: FeedRow, run: RunRow | undefined, now = Date.now()): Feed {
  const { id, name, collection, mapping, state, failures, reason, heardAt, nextAt, createdAt } = row;
  const source = sourceOf(row);
  const ofFeed = eq(feedEvents.feedId, id);
  const states = db
    .select({ state: feedEvents.state, many: count() })
    .from(feedEvents)
    .where(ofFeed)
    .groupBy(feedEvents.state)
    .all();
  const many = (which: FeedEventState): number => states.find((one) => one.state === which)?.many ?? 0;
  const last = db.select({ at: max(feedEvents.receivedAt) }).from(feedEvents).where(ofFeed).get()!.at; // prettier-ignore
  const since = waitingSince(db, id);
  const heard = Math.max(last ?? 0, heardAt ?? 0);
  return {
    id,
    name,
    collection,
    source,
    mapping: JSON.parse(mapping) as FeedMapping,
    state: state === 'running' && failures > 0 ? 'failing' : state,
    reason,
    lagS: since === null ? 0 : Math.round((now - since) / 100) / 10,
    lastEventAt: heard === 0 ? null : new Date(heard).toISOString(),
    nextRunAt: !isPulled(source) || state === 'paused' || nextAt === null ? null : new Date(nextAt).toISOString(),
    run: run === undefined ? null : runOf(run),
    checkEveryS: row.checkEveryS,
    drift: row.drift === null ? null : (JSON.parse(row.drift) as FeedDrift),
    events: states.reduce((sum, one) => sum + one.many, 0),
    dead: many('dead'),
    early: many('early'),
    perMinute: perMinute(db, id, now),
    createdAt,
  };
}

function perMinute(db: Db, feedId: string, now: number): number[] {
  const first = Math.floor(now / 60_000) - MINUTES + 1;
  const minute = sql<number>`${feedEvents.receivedAt} / 60000`;
  const counts = Array.from({ length: MINUTES }, () => 0);
  const counted = db
    .select({ minute, many: count() })
    .from(feedEvents)
    .where(and(eq(feedEvents.feedId, feedId), gte(feedEvents.receivedAt, first * 60_000)))
    .groupBy(minute)
    .all();
  for (const one of counted) if (one.minute - first < MINUTES) counts[one.minute - first] = one.many;
  return counts;
}

/** An event as the API tells it. */
export function eventOf(row: typeof feedEvents.$inferSelect): FeedEvent {
  const { number, event, source, type, key, action, state, reason } = row;
  // Orders below this are counts of the source, not times.
  const at = row.order > 1e14 ? row.order / 1_000 : row.receivedAt;
  return {
    number,
    event,
    source,
    type,
    key,
    action,
    state,
    ...(reason !== null && { reason }),
    at: new Date(at).toISOString(),
    receivedAt: new Date(row.receivedAt).toISOString(),
  };
}
