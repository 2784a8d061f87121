import type { FeedRepair, FieldRule, RepairKind } from '@yucca/contract';
import { and, eq, gte } from 'drizzle-orm';
import { feedEvents, feedKeys } from '../db/feeds-schema';
import type { Db } from '../db/open';
import { RecordError, type RecordStore } from '../records/record-store';
import type { FeedTarget } from './apply-changes';
import { lookupIn, type Lookup } from './lookup-in';
import { differingFields, readLine, rulesOf } from './source-records';

export interface RepairOrderOfFeed {
  target: FeedTarget;
  what: readonly RepairKind[];
  /** When the source's records were read, in milliseconds since 1970. */
  asOf: number;
  /** Deletes even when that is more than a tenth of the collection. */
  confirmed: boolean;
}

/** A share of the records that is deleted only when it was asked for once more. */
const LARGE_SHARE = 0.1;
/** Records deleted in one transaction: other writes come between. */
const AT_ONCE = 500;

/**
 * Makes a collection what its source says, on the writer's connection: writes what is missing or different, deletes
 * what the source does not have, as far as it was asked for. Records that events have changed since the source was read
 * are left alone: those events are newer. A source with nothing in it, or with lines that cannot be read, deletes
 * nothing.
 */
export class Repair {
  readonly #db: Db;
  readonly #store: RecordStore;
  readonly #order: RepairOrderOfFeed;
  readonly #seen = new Set<string>();
  readonly #touched: ReadonlySet<string>;
  readonly #rules: readonly FieldRule[];
  readonly #lookup: Lookup;
  /** What was done so far. */
  readonly told: FeedRepair = { written: 0, deleted: 0, left: 0, unreadable: 0, asks: null };

  constructor(db: Db, store: RecordStore, order: RepairOrderOfFeed) {
    this.#db = db;
    this.#store = store;
    this.#order = order;
    this.#touched = this.#changedSince();
    this.#lookup = lookupIn(db);
    this.#rules = rulesOf(db, order.target.collectionId);
  }

  #changedSince(): Set<string> {
    const { target, asOf } = this.#order;
    const rows = this.#db
      .selectDistinct({ key: feedEvents.key })
      .from(feedEvents)
      .where(and(eq(feedEvents.feedId, target.feedId), gte(feedEvents.receivedAt, asOf)))
      .all();
    return new Set(rows.map(({ key }) => key));
  }

  add(lines: readonly string[]): void {
    const { target, what } = this.#order;
    this.#store.transaction(target.collectionId, () => {
      for (const text of lines) {
        if (text.trim() === '') continue;
        try {
          const { key, record } = readLine(text, target, this.#lookup);
          this.#seen.add(key);
          const stored = this.#store.get(target.collectionId, key);
          // The order of fields is no difference.
          if (stored !== null && differingFields(stored, record, this.#rules).length === 0) continue;
          if (!what.includes(stored === null ? 'missing' : 'different')) continue;
          if (this.#touched.has(key)) {
            this.told.left++;
            continue;
          }
          const { versionId } = this.#store.attempt(() => this.#store.put(target.collectionId, key, record, 'replace'));
          this.#own(key, versionId);
          this.told.written++;
        } catch (error) {
          if (!(error instanceof RecordError)) throw error;
          this.told.unreadable++;
        }
      }
    });
  }

  /** The record is as the feed would have it again. */
  #own(key: string, version: number): void {
    this.#db
      .update(feedKeys)
      .set({ version })
      .where(and(eq(feedKeys.feedId, this.#order.target.feedId), eq(feedKeys.key, key)))
      .run();
  }

  async end(): Promise<FeedRepair> {
    const { target, what, confirmed } = this.#order;
    if (!what.includes('extra') || this.#seen.size === 0 || this.told.unreadable > 0) return this.told;
    const keys = this.#db.$client
      .prepare('select key from records where collection_id = ?')
      .pluck()
      .all(target.collectionId) as string[];
    // What events brought since then is left out of the account altogether.
    const extra = keys.filter((key) => !this.#seen.has(key));
    const touched = this.#changedSince();
    const removable = extra.filter((key) => !touched.has(key));
    this.told.left += extra.length - removable.length;
    if (removable.length > keys.length * LARGE_SHARE && !confirmed) {
      this.told.asks = removable.length;
      return this.told;
    }
    for (let at = 0; at < removable.length; at += AT_ONCE) {
      this.told.deleted += this.#store.transaction(target.collectionId, () => {
        // Events come between the pieces.
        const newer = this.#changedSince();
        const piece = removable.slice(at, at + AT_ONCE).filter((key) => !newer.has(key));
        return piece.filter((key) => {
          this.#own(key, 0);
          return this.#store.remove(target.collectionId, key);
        }).length;
      });
      await new Promise((resolve) => setImmediate(resolve));
    }
    return this.told;
  }
}
