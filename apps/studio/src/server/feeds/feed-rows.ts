import type { FeedMapping, FeedSource, PulledSource } from '@yucca/contract';
import { and, asc, desc, eq, isNotNull, sql, type SQL } from 'drizzle-orm';
import { feedRuns, feeds } from '../db/feeds-schema';
import type { Db } from '../db/open';
import { collections } from '../db/schema';
import { Failure } from '../failure';
import type { KeySealer } from '../keys/key-sealer';
import type { FeedTarget } from './apply-changes';
import { joined, type FeedSecrets } from './feed-secrets';

export type FeedRow = typeof feeds.$inferSelect & { collection: string; keyField: string };
export type RunRow = typeof feedRuns.$inferSelect;

/** The feeds that there are, as they are kept. */
export class FeedRows {
  readonly #db: Db;
  readonly #sealer: KeySealer;
  /** Asked for every change that a source sends. */
  readonly #byId;

  constructor(db: Db, sealer: KeySealer) {
    this.#db = db;
    this.#byId = this.#select(eq(feeds.id, sql.placeholder('id'))).prepare();
    this.#sealer = sealer;
  }

  /** Feeds of collections that are there, in the order they were made. */
  list(where?: SQL, size = -1, start = 0): FeedRow[] {
    return this.#select(where).orderBy(asc(feeds.createdAt), asc(feeds.id)).limit(size).offset(start).all().map(asRow);
  }

  #select(where?: SQL) {
    return this.#db
      .select({ feed: feeds, collection: collections.name, keyField: collections.keyField })
      .from(feeds)
      .innerJoin(collections, eq(collections.id, feeds.collectionId))
      .where(and(isNotNull(collections.name), where));
  }

  find(id: string): FeedRow | undefined {
    const found = this.#byId.get({ id });
    return found && asRow(found);
  }

  /** Throws a Failure when there is none. */
  get(id: string): FeedRow {
    const row = this.find(id);
    if (!row) throw new Failure('not-found', `There is no feed ${id.slice(0, 80)}.`);
    return row;
  }

  set(id: string, change: Partial<typeof feeds.$inferInsert>): void {
    if (Object.keys(change).length > 0) this.#db.update(feeds).set(change).where(eq(feeds.id, id)).run();
  }

  secretsOf({ secrets }: Pick<FeedRow, 'secrets'>): FeedSecrets | null {
    const opened = secrets === null ? null : this.#sealer.open(secrets);
    return opened === null ? null : (JSON.parse(opened.toString()) as FeedSecrets);
  }

  seal(secrets: FeedSecrets): string {
    return this.#sealer.seal(Buffer.from(JSON.stringify(secrets)));
  }

  /** The source with its secrets, of a feed that asks. Throws a Failure for one that is told. */
  pulled(row: FeedRow): PulledSource {
    const source = joined(sourceOf(row), this.secretsOf(row));
    if (source.kind !== 'webhook') return source;
    throw new Failure('conflict', 'This source sends its changes itself: there is nothing to run.');
  }

  /** The newest run of a feed. */
  lastRun(feedId: string): RunRow | undefined {
    return this.#db.select().from(feedRuns).where(eq(feedRuns.feedId, feedId)).orderBy(desc(feedRuns.number)).limit(1).get(); // prettier-ignore
  }
}

const asRow = ({ feed, collection, keyField }: { feed: typeof feeds.$inferSelect; collection: string | null; keyField: string }): FeedRow => ({ ...feed, collection: collection!, keyField }); // prettier-ignore

export const sourceOf = ({ source }: Pick<FeedRow, 'source'>): FeedSource => JSON.parse(source) as FeedSource;

export const targetOf = ({ id, collectionId, keyField, mapping }: FeedRow): FeedTarget => ({
  feedId: id,
  collectionId,
  keyField,
  mapping: JSON.parse(mapping) as FeedMapping,
});
