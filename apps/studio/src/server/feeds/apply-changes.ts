/** Takes in what sources tell and applies it to records, on the writer's connection. */
import type { FeedEventState, RecordJson } from '@yucca/contract';
import { and, asc, count, eq, gt, inArray, lt, sql } from 'drizzle-orm';
import { feedEvents, feedKeys, feedMessages } from '../db/feeds-schema';
import type { Db } from '../db/open';
import { checkKey, checkRecord, keyOf, RecordError, type RecordStore } from '../records/record-store';
import type { FeedChange } from './read-events';

type Row = typeof feedEvents.$inferSelect;
/** What of an event is needed to apply it. */
type Change = Pick<Row, 'number' | 'key' | 'action' | 'data' | 'order'>;

export interface FeedTarget {
  feedId: string;
  collectionId: number;
  keyField: string;
}

export interface Taken {
  taken: number;
  repeats: number;
}

/** A change that came before its record waits so long for it. */
export const EARLY_MS = 10 * 60_000;
/** Messages are known again for so long: their signatures hold for five minutes. */
const MESSAGES_MS = 24 * 3_600_000;
/** Events are kept for so long, and so many of a feed. */
const KEPT_MS = 7 * 24 * 3_600_000;
const MOST_KEPT = 200_000;
/** Events applied in one transaction when many wait: other writes come between. */
const AT_ONCE = 200;

/**
 * Applies the changes of feeds so that each counts once and the newest wins, in whatever order they come:
 *
 * - Storing an event and applying it are one transaction, so a process that dies has done both or neither.
 * - The newest whole state of each key (upsert or delete) is known by its order; what is older than that does nothing.
 * - A patch is merged, and then those newer than it once more: the fields they name keep their values.
 * - An upsert is followed by the patches that are newer than it, also by those that came before it and waited.
 */
export class FeedChanges {
  readonly #db: Db;
  readonly #store: RecordStore;

  constructor(db: Db, store: RecordStore) {
    this.#db = db;
    this.#store = store;
  }

  /** Stores events, and applies them unless the feed is paused. All of it is on the disk when this returns. */
  take(
    target: FeedTarget,
    message: string,
    changes: readonly FeedChange[],
    { paused, now }: { paused: boolean; now: number },
  ): Taken {
    return this.#store.transaction(target.collectionId, () => {
      const isNew = this.#db
        .insert(feedMessages)
        .values({ feedId: target.feedId, message, at: now })
        .onConflictDoNothing()
        .run();
      if (isNew.changes === 0) return { taken: 0, repeats: changes.length };
      let taken = 0;
      for (const change of changes) {
        const row = this.#db
          .insert(feedEvents)
          .values({ ...change, feedId: target.feedId, state: 'waiting', receivedAt: now })
          .onConflictDoNothing()
          .returning()
          .get();
        if (!row) continue;
        taken++;
        if (!paused) this.#settle(target, row);
      }
      return { taken, repeats: changes.length - taken };
    });
  }

  /** Applies a piece of the events that wait; true when more do. */
  applyWaiting(target: FeedTarget): boolean {
    return this.#store.transaction(target.collectionId, () => {
      const rows = this.#db
        .select()
        .from(feedEvents)
        .where(and(eq(feedEvents.feedId, target.feedId), eq(feedEvents.state, 'waiting')))
        .orderBy(asc(feedEvents.number))
        .limit(AT_ONCE)
        .all();
      for (const row of rows) this.#settle(target, row);
      return rows.length === AT_ONCE;
    });
  }

  /** Tries dead events again: those numbered, or all. Returns how many were applied. */
  replay(target: FeedTarget, numbers: readonly number[] | null): number {
    let applied = 0;
    for (let after = 0, more = true; more;) {
      more = this.#store.transaction(target.collectionId, () => {
        const rows = this.#db
          .select()
          .from(feedEvents)
          .where(
            and(
              eq(feedEvents.feedId, target.feedId),
              eq(feedEvents.state, 'dead'),
              gt(feedEvents.number, after),
              numbers === null ? undefined : inArray(feedEvents.number, [...numbers]),
            ),
          )
          .orderBy(asc(feedEvents.number))
          .limit(AT_ONCE)
          .all();
        for (const row of rows) if (this.#settle(target, row) !== 'dead') applied++;
        after = rows.at(-1)?.number ?? after;
        return rows.length === AT_ONCE;
      });
    }
    return applied;
  }

  /** Gives up changes whose record never came, and forgets what is old enough. */
  trim(now: number, most = MOST_KEPT): void {
    this.#db.$client
      .transaction(() => {
        this.#db
          .update(feedEvents)
          .set({ state: 'dead', reason: `Its record did not come within ${EARLY_MS / 60_000} minutes.` })
          .where(and(eq(feedEvents.state, 'early'), lt(feedEvents.receivedAt, now - EARLY_MS)))
          .run();
        this.#db
          .delete(feedMessages)
          .where(lt(feedMessages.at, now - MESSAGES_MS))
          .run();
        const done = inArray(feedEvents.state, ['applied', 'old']);
        this.#db
          .delete(feedEvents)
          .where(and(done, lt(feedEvents.receivedAt, now - KEPT_MS)))
          .run();
        const feeds = this.#db
          .select({ feedId: feedEvents.feedId, many: count(), last: sql<number>`max(${feedEvents.number})` })
          .from(feedEvents)
          .groupBy(feedEvents.feedId)
          .all();
        for (const { feedId, many } of feeds) {
          if (many <= most) continue;
          const over = sql`${feedEvents.number} in (select number from feed_events where feed_id = ${feedId} and state in ('applied', 'old') order by number limit ${many - most})`;
          this.#db.delete(feedEvents).where(over).run();
        }
      })
      .immediate();
  }

  #settle(target: FeedTarget, row: Row): FeedEventState {
    let state: FeedEventState;
    let reason: string | null = null;
    try {
      state = this.#store.attempt(() => this.#apply(target, row));
    } catch (error) {
      if (!(error instanceof RecordError)) throw error;
      state = 'dead';
      reason = `Not stored: ${error.message}.`;
    }
    // Only patches are merged again, and only what is not applied yet has to be.
    const isNeeded = state === 'dead' || state === 'early' || (row.action === 'patch' && state === 'applied');
    this.#db
      .update(feedEvents)
      .set({ state, reason, ...(isNeeded ? {} : { data: null }) })
      .where(eq(feedEvents.number, row.number))
      .run();
    return state;
  }

  #apply({ feedId, collectionId, keyField }: FeedTarget, change: Change): FeedEventState {
    const { key, action, order } = change;
    checkKey(key);
    const ofKey = and(eq(feedKeys.feedId, feedId), eq(feedKeys.key, key));
    const newest = this.#db.select().from(feedKeys).where(ofKey).get()?.order ?? -Infinity;
    if (order < newest) return 'old';
    if (action === 'patch') {
      if (this.#store.get(collectionId, key) === null) return 'early';
      for (const one of [change, ...this.#patchesAfter(feedId, change)]) this.#merge(collectionId, keyField, one);
      return 'applied';
    }
    if (action === 'delete') this.#store.remove(collectionId, key);
    else {
      const record = recordOf(change, keyField);
      this.#store.put(collectionId, key, { [keyField]: key, ...record }, 'replace');
    }
    this.#db
      .insert(feedKeys)
      .values({ feedId, key, order })
      .onConflictDoUpdate({ target: [feedKeys.feedId, feedKeys.key], set: { order } })
      .run();
    this.#forgetPatches(feedId, key, order);
    if (action === 'upsert')
      for (const patch of this.#patchesAfter(feedId, change)) {
        this.#merge(collectionId, keyField, patch);
        if (patch.state === 'early')
          this.#db.update(feedEvents).set({ state: 'applied' }).where(eq(feedEvents.number, patch.number)).run();
      }
    return 'applied';
  }

  #merge(collectionId: number, keyField: string, patch: Change): void {
    this.#store.put(collectionId, patch.key, recordOf(patch, keyField), 'merge');
  }

  /** Patches of a key that are newer than a change and were applied, or wait for their record; the oldest first. */
  #patchesAfter(feedId: string, { key, order, number }: Change): Row[] {
    return this.#db
      .select()
      .from(feedEvents)
      .where(
        and(
          eq(feedEvents.feedId, feedId),
          eq(feedEvents.key, key),
          eq(feedEvents.action, 'patch'),
          gt(feedEvents.order, order),
          inArray(feedEvents.state, ['applied', 'early']),
          sql`${feedEvents.number} <> ${number}`,
        ),
      )
      .orderBy(asc(feedEvents.order), asc(feedEvents.number))
      .all();
  }

  /** Those that a newer whole state makes needless. */
  #forgetPatches(feedId: string, key: string, order: number): void {
    const older = and(
      eq(feedEvents.feedId, feedId),
      eq(feedEvents.key, key),
      eq(feedEvents.action, 'patch'),
      lt(feedEvents.order, order),
    );
    this.#db
      .update(feedEvents)
      .set({ state: 'old', data: null })
      .where(and(older, eq(feedEvents.state, 'early')))
      .run();
    this.#db
      .update(feedEvents)
      .set({ data: null })
      .where(and(older, eq(feedEvents.state, 'applied')))
      .run();
  }
}

function recordOf({ key, data }: Change, keyField: string): RecordJson {
  const record = checkRecord(JSON.parse(data!));
  const own = keyOf(record, keyField);
  if (own !== null && own !== key)
    throw new RecordError(`the record's "${keyField}" is "${own}", its event says "${key}"`);
  return record;
}
