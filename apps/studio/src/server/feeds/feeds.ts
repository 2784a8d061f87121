import type {
  Feed,
  FeedEvent,
  FeedComparison,
  FeedEventState,
  FeedRepair,
  RepairKind,
  FeedPatch,
  FeedSource,
  FeedTaken,
  FeedTest,
  FeedWithSecret,
  NewFeed,
  Page,
} from '@yucca/contract';
import { and, asc, count, desc, eq, gte, isNotNull, max, min, sql, type SQL } from 'drizzle-orm';
import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import type { Collections } from '../collections/collections';
import { feedEvents, feedKeys, feedMessages, feeds } from '../db/feeds-schema';
import type { Db } from '../db/open';
import { collections as collectionsTable } from '../db/schema';
import { Failure } from '../failure';
import type { IndexManager } from '../index/index-manager';
import type { KeySealer } from '../keys/key-sealer';
import type { RemoteThread } from '../workers/rpc';
import type { ScanMethods } from '../workers/scan-worker';
import type { WriterMethods } from '../workers/writer-worker';
import type { FeedTarget } from './apply-changes';
import { linesOf } from './lines-of';
import { readEvents, STRUCTURED } from './read-events';
import { newFeedSecret, signed, verifiedMessage } from './signature';

type Row = typeof feeds.$inferSelect & { collection: string; keyField: string };

interface Parts {
  db: Db;
  collections: Pick<Collections, 'row'>;
  indexManager: Pick<IndexManager, 'refresh'>;
  writer: Pick<RemoteThread<WriterMethods>, 'call'>;
  scan: () => Pick<RemoteThread<ScanMethods>, 'call'>;
  sealer: KeySealer;
  log: Pick<Logger, 'error'>;
}

type Headers = { get: (name: string) => string | null };

/** A secret that was replaced holds for so long. */
const OLD_SECRET_MS = 24 * 3_600_000;
const MINUTES = 60;

/** Feeds: sources that keep collections in step. */
export class Feeds {
  readonly #parts: Parts;
  /** Collections whose index is being brought up to date, and whether it has to be once more. */
  readonly #refreshing = new Map<number, { again: boolean }>();

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  list(page: number, size: number, collection: string | null): Page<Feed> {
    const where = collection === null ? undefined : eq(feeds.collectionId, this.#parts.collections.row(collection).id);
    const rows = this.#rows(where, size, (page - 1) * size);
    const total = this.#rows(where).length;
    return {
      items: rows.map((row) => this.#told(row)),
      total,
      page,
      pages: size === 0 ? 0 : Math.ceil(total / size),
      size,
    };
  }

  get(id: string): Feed {
    return this.#told(this.#row(id));
  }

  /** Makes a feed, with the secret that its source signs with. */
  create({ name, collection, source }: NewFeed): FeedWithSecret {
    const { db, collections, sealer } = this.#parts;
    const id = randomUUID();
    const secret = newFeedSecret();
    db.insert(feeds)
      .values({
        id,
        name,
        collectionId: collections.row(collection).id,
        source: JSON.stringify(source),
        state: 'running',
        secret: sealer.seal(Buffer.from(secret)),
        createdAt: new Date().toISOString(),
      })
      .run();
    return { feed: this.get(id), secret };
  }

  change(id: string, { name, source }: FeedPatch): Feed {
    this.#row(id);
    const set = { ...(name !== undefined && { name }), ...(source && { source: JSON.stringify(source) }) };
    if (Object.keys(set).length > 0) this.#parts.db.update(feeds).set(set).where(eq(feeds.id, id)).run();
    return this.get(id);
  }

  /** Records stay as they are. */
  remove(id: string): void {
    this.#row(id);
    const { db } = this.#parts;
    db.$client
      .transaction(() => {
        db.delete(feeds).where(eq(feeds.id, id)).run();
        for (const table of [feedEvents, feedMessages, feedKeys]) db.delete(table).where(eq(table.feedId, id)).run();
      })
      .immediate();
  }

  /** From now on events are kept and not applied. */
  pause(id: string): Feed {
    this.#row(id);
    this.#parts.db.update(feeds).set({ state: 'paused' }).where(eq(feeds.id, id)).run();
    return this.get(id);
  }

  /** Applies what has come meanwhile, and what comes from now on. */
  async resume(id: string): Promise<Feed> {
    const row = this.#row(id);
    this.#parts.db.update(feeds).set({ state: 'running' }).where(eq(feeds.id, id)).run();
    await this.#applyWaiting(row);
    return this.get(id);
  }

  /** What waits in feeds that run, because the process ended before it was applied. */
  async catchUp(): Promise<void> {
    const rows = this.#rows(eq(feeds.state, 'running'));
    for (const row of rows) if (this.#waitingSince(row.id) !== null) await this.#applyWaiting(row);
  }

  /** Another secret. The one before holds for a day more, so that the source can be told in peace. */
  renewSecret(id: string, now = Date.now()): FeedWithSecret {
    const { secret: oldSecret } = this.#row(id);
    const secret = newFeedSecret();
    const { db, sealer } = this.#parts;
    db.update(feeds)
      .set({ secret: sealer.seal(Buffer.from(secret)), oldSecret, oldUntil: now + OLD_SECRET_MS })
      .where(eq(feeds.id, id))
      .run();
    return { feed: this.get(id), secret };
  }

  /**
   * Takes in what a source sends. Resolves once it is stored durably, and applied unless the feed is paused; it can be
   * searched a moment later. Throws a Failure for a signature that does not hold, and for what cannot be read.
   */
  async take(id: string, headers: Headers, body: string, parse: (text: string) => unknown): Promise<FeedTaken> {
    const row = this.#find(id);
    // Whoever guesses ids learns nothing of them.
    const message = verifiedMessage(headers, body, row ? this.#secretsOf(row) : [newFeedSecret()]);
    const data = body === '' ? undefined : parse(body);
    const changes = readEvents(headers, data, JSON.parse(row!.source) as FeedSource, row!.keyField);
    // Nothing is waited for from here to the writer: whoever resumes the feed meanwhile applies this one too.
    const how = { paused: row!.state === 'paused', now: Date.now() };
    const taken = await this.#parts.writer.call('feedTake', [targetOf(row!), message, changes, how]);
    if (taken.taken > 0 && !how.paused) this.#refresh(row!.collectionId);
    return taken;
  }

  /** An event as the source would send it, signed with the feed's own secret, and what became of it. */
  async test(id: string, { key, action, data }: FeedTest): Promise<FeedEvent> {
    const row = this.#row(id);
    const event = {
      specversion: '1.0',
      id: randomUUID(),
      source: '/yucca/test',
      type: `test.${{ upsert: 'upserted', patch: 'patched', delete: 'deleted' }[action]}`,
      subject: key,
      time: new Date().toISOString(),
      ...(action !== 'delete' && { data: data ?? {} }),
    };
    const body = JSON.stringify(event);
    const headers = new Map(Object.entries(signed(this.#secretsOf(row)[0]!, event.id, body, new Date())));
    headers.set('content-type', STRUCTURED);
    await this.take(id, { get: (name) => headers.get(name) ?? null }, body, JSON.parse);
    return this.events(id, null, 1, 1).items[0]!;
  }

  /** Events, the newest first. */
  events(id: string, state: FeedEventState | null, page: number, size: number): Page<FeedEvent> {
    this.#row(id);
    const { db } = this.#parts;
    const where = and(eq(feedEvents.feedId, id), state === null ? undefined : eq(feedEvents.state, state));
    const total = db.select({ many: count() }).from(feedEvents).where(where).get()!.many;
    const items = db
      .select()
      .from(feedEvents)
      .where(where)
      .orderBy(desc(feedEvents.number))
      .limit(size)
      .offset((page - 1) * size)
      .all()
      .map(eventOf);
    return { items, total, page, pages: size === 0 ? 0 : Math.ceil(total / size), size };
  }

  /** Tries dead events again, all or some; returns how many were applied. */
  async replay(id: string, numbers: number[] | null): Promise<number> {
    const row = this.#row(id);
    const applied = await this.#parts.writer.call('feedReplay', [targetOf(row), numbers]);
    if (applied > 0) this.#refresh(row.collectionId);
    return applied;
  }

  /** How the collection differs from its source, whose records come as lines. Nothing is changed. */
  async compare(id: string, body: AsyncIterable<Uint8Array>): Promise<FeedComparison> {
    const row = this.#row(id);
    const scan = this.#parts.scan();
    const run = randomUUID();
    await scan.call('compareBegin', [run, targetOf(row)]);
    for await (const lines of linesOf(body)) await scan.call('compareAdd', [run, lines]);
    return scan.call('compareEnd', [run]);
  }

  /** Makes the collection what its source says, as far as it is asked for. See Repair. */
  async repair(
    id: string,
    body: AsyncIterable<Uint8Array>,
    order: { what: readonly RepairKind[]; asOf: number; confirmed: boolean },
  ): Promise<FeedRepair> {
    const row = this.#row(id);
    const { writer } = this.#parts;
    const run = randomUUID();
    await writer.call('feedRepairBegin', [run, { target: targetOf(row), ...order }]);
    for await (const lines of linesOf(body)) await writer.call('feedRepairAdd', [run, lines]);
    const told = await writer.call('feedRepairEnd', [run]);
    if (told.written + told.deleted > 0) await this.#parts.indexManager.refresh(row.collectionId);
    return told;
  }

  async #applyWaiting(row: Row): Promise<void> {
    await this.#parts.writer.call('feedApply', [targetOf(row)]);
    this.#refresh(row.collectionId);
  }

  /** One refresh after the other: events that come meanwhile are in the next. */
  #refresh(collectionId: number): void {
    const running = this.#refreshing.get(collectionId);
    if (running) {
      running.again = true;
      return;
    }
    const state = { again: false };
    this.#refreshing.set(collectionId, state);
    void this.#parts.indexManager
      .refresh(collectionId)
      .catch((error: Error) => this.#parts.log.error({ error: error.message }, 'a feed’s changes are not indexed yet'))
      .finally(() => {
        this.#refreshing.delete(collectionId);
        if (state.again) this.#refresh(collectionId);
      });
  }

  /** Feeds of collections that are there, in the order they were made. */
  #rows(where?: SQL, size = -1, start = 0): Row[] {
    return this.#parts.db
      .select({ feed: feeds, collection: collectionsTable.name, keyField: collectionsTable.keyField })
      .from(feeds)
      .innerJoin(collectionsTable, eq(collectionsTable.id, feeds.collectionId))
      .where(and(isNotNull(collectionsTable.name), where))
      .orderBy(asc(feeds.createdAt), asc(feeds.id))
      .limit(size)
      .offset(start)
      .all()
      .map(({ feed, collection, keyField }) => ({ ...feed, collection: collection!, keyField }));
  }

  #find(id: string): Row | undefined {
    return this.#rows(eq(feeds.id, id))[0];
  }

  #row(id: string): Row {
    const row = this.#find(id);
    if (!row) throw new Failure('not-found', `There is no feed ${id.slice(0, 80)}.`);
    return row;
  }

  #secretsOf({ secret, oldSecret, oldUntil }: Row): string[] {
    const sealed = oldSecret !== null && oldUntil! > Date.now() ? [secret, oldSecret] : [secret];
    return sealed.flatMap((one) => this.#parts.sealer.open(one)?.toString() ?? []);
  }

  #waitingSince(id: string): number | null {
    const ofFeed = and(eq(feedEvents.feedId, id), eq(feedEvents.state, 'waiting'));
    return this.#parts.db.select({ since: min(feedEvents.receivedAt) }).from(feedEvents).where(ofFeed).get()!.since; // prettier-ignore
  }

  #told({ id, name, collection, source, state, createdAt }: Row, now = Date.now()): Feed {
    const { db } = this.#parts;
    const ofFeed = eq(feedEvents.feedId, id);
    const states = db
      .select({ state: feedEvents.state, many: count() })
      .from(feedEvents)
      .where(ofFeed)
      .groupBy(feedEvents.state)
      .all();
    const many = (which: FeedEventState): number => states.find((one) => one.state === which)?.many ?? 0;
    const last = db.select({ at: max(feedEvents.receivedAt) }).from(feedEvents).where(ofFeed).get()!.at; // prettier-ignore
    const since = this.#waitingSince(id);
    const first = Math.floor(now / 60_000) - MINUTES + 1;
    const minute = sql<number>`${feedEvents.receivedAt} / 60000`;
    const perMinute = Array.from({ length: MINUTES }, () => 0);
    const counted = db
      .select({ minute, many: count() })
      .from(feedEvents)
      .where(and(ofFeed, gte(feedEvents.receivedAt, first * 60_000)))
      .groupBy(minute)
      .all();
    for (const one of counted) if (one.minute - first < MINUTES) perMinute[one.minute - first] = one.many;
    return {
      id,
      name,
      collection,
      source: JSON.parse(source) as FeedSource,
      state,
      lagS: since === null ? 0 : Math.round((now - since) / 100) / 10,
      lastEventAt: last === null ? null : new Date(last).toISOString(),
      events: states.reduce((sum, one) => sum + one.many, 0),
      dead: many('dead'),
      early: many('early'),
      perMinute,
      createdAt,
    };
  }
}

const targetOf = ({ id, collectionId, keyField }: Row): FeedTarget => ({ feedId: id, collectionId, keyField });

function eventOf(row: typeof feedEvents.$inferSelect): FeedEvent {
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
