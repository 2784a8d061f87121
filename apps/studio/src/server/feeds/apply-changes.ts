/** Takes in what sources tell and applies it to records, on the writer's connection. */
import type { FeedEventState, RecordJson } from '@yucca/contract';
import { and, asc, count, eq, gt, inArray, lt, sql } from 'drizzle-orm';
import { feedEvents, feedMessages } from '../db/feeds-schema';
import type { Db } from '../db/open';
import { checkKey, checkRecord, keyOf, RecordError, type RecordStore } from '../records/record-store';
import { changeStatements } from './change-statements';
import { lookupIn, type Lookup } from './lookup-in';
import { mapRecord, type Mapping } from './mapping';
import type { FeedChange, Print } from './read-events';
import type { Message } from './take-together';

type Row = typeof feedEvents.$inferSelect;
/** What of an event is needed to apply it. */
type Change = Pick<Row, 'number' | 'key' | 'action' | 'data' | 'order'>;

export interface FeedTarget {
  feedId: string;
  collectionId: number;
  keyField: string;
  mapping: Mapping;
  /** The field of the source that tells records apart, where it is another. */
  keyIn?: string | undefined;
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
/** Events whose whole records are kept, to be looked at. */
const SHOWN = 20;

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
  readonly #lookup: Lookup;
  readonly #do: ReturnType<typeof changeStatements>;

  constructor(db: Db, store: RecordStore) {
    this.#db = db;
    this.#do = changeStatements(db);
    this.#store = store;
    this.#lookup = lookupIn(db);
  }

  /** Stores events, and applies them unless the feed is paused. All of it is on the disk when this returns. */
  takeAll(target: FeedTarget, messages: readonly Message[], how: { paused: boolean; now: number }): Taken[] {
    return this.#store.transaction(target.collectionId, () =>
      messages.map(({ message, changes }) => {
        const isNew = this.#do.noteMessage.run({ feedId: target.feedId, message, at: how.now });
        if (isNew.changes === 0) return { taken: 0, repeats: changes.length };
        return this.takeWithin(target, changes, how);
      }),
    );
  }

  /** The same within a transaction, of a source that has no messages. */
  takeWithin(
    target: FeedTarget,
    changes: readonly FeedChange[],
    { paused, now }: { paused: boolean; now: number },
  ): Taken {
    let taken = 0;
    for (const { print, ...change } of changes) {
      // A conflict returns nothing, which the types leave out.
      const row = this.#do.addEvent.get({ ...change, feedId: target.feedId, receivedAt: now }) as Row | undefined;
      if (!row) continue;
      taken++;
      if (!paused) this.#settle(target, row);
      if (print) this.#setPrint(target.feedId, change.key, print);
    }
    return { taken, repeats: changes.length - taken };
  }

  /** Applies a piece of the events that wait; true when more do. */
  applyWaiting(target: FeedTarget): boolean {
    return this.#store.transaction(target.collectionId, () => {
      const rows = this.#do.waiting.all({ feedId: target.feedId, most: AT_ONCE });
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
        for (const { feedId } of this.#db.selectDistinct({ feedId: feedEvents.feedId }).from(feedEvents).all())
          this.#forgetShown(feedId);
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

  /** Whole records that were applied are kept of the newest events alone. */
  #forgetShown(feedId: string): void {
    const applied = sql`feed_id = ${feedId} and state = 'applied' and action = 'upsert'`;
    this.#db.run(
      sql`update feed_events set data = null where ${applied} and data is not null and number < coalesce((select number from feed_events where ${applied} order by number desc limit 1 offset ${SHOWN}), 0)`,
    );
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
    // Patches are merged again, what is not applied yet has to be, and the newest show what a mapping makes of them.
    const isNeeded = state === 'dead' || state === 'early' || (row.action !== 'delete' && state === 'applied');
    (isNeeded ? this.#do.setState : this.#do.setDone).run({ number: row.number, state, reason });
    return state;
  }

  #apply(target: FeedTarget, change: Change): FeedEventState {
    const { feedId, collectionId, keyField } = target;
    const { key, action, order } = change;
    checkKey(key);
    const newest = this.#do.newestOfKey.get({ feedId, key })?.order ?? -Infinity;
    if (order < newest) return 'old';
    if (action === 'patch') {
      if (this.#store.get(collectionId, key) === null) return 'early';
      for (const one of [change, ...this.#patchesAfter(feedId, change)])
        this.#wrote(target, key, this.#merge(target, one));
      return 'applied';
    }
    let version = 0;
    if (action === 'delete') this.#store.remove(collectionId, key);
    else {
      const record = this.#recordOf(change, target);
      version = this.#store.put(collectionId, key, { [keyField]: key, ...record }, 'replace').versionId;
    }
    this.#do.setNewest.run({ feedId, key, order, version });
    this.#do.forgetEarly.run({ feedId, key, order });
    this.#do.forgetApplied.run({ feedId, key, order });
    if (action === 'upsert')
      for (const patch of this.#patchesAfter(feedId, change)) {
        this.#wrote(target, key, this.#merge(target, patch));
        if (patch.state === 'early') this.#do.setApplied.run({ number: patch.number });
      }
    return 'applied';
  }

  /** Returns the version that stands there then. */
  #merge(target: FeedTarget, patch: Change): number {
    return this.#store.put(target.collectionId, patch.key, this.#recordOf(patch, target), 'merge').versionId;
  }

  /** Notes which version of a record is the feed's own work. */
  #wrote({ feedId }: FeedTarget, key: string, version: number): void {
    this.#do.setVersion.run({ feedId, key, version });
  }

  #setPrint(feedId: string, key: string, { hash, part }: Print): void {
    this.#do.setPrint.run({ feedId, key, hash, part });
  }

  /** What an event brings, as it is stored. */
  #recordOf({ key, action, data }: Change, { keyField, mapping }: FeedTarget): RecordJson {
    const record = checkRecord(mapRecord(checkRecord(JSON.parse(data!)), mapping, this.#lookup, action === 'patch'));
    const own = keyOf(record, keyField);
    if (own !== null && own !== key)
      throw new RecordError(`the record's "${keyField}" is "${own}", its event says "${key}"`);
    return record;
  }

  #patchesAfter(feedId: string, { key, order, number }: Change): Row[] {
    return this.#do.patchesAfter.all({ feedId, key, order, number });
  }
}
