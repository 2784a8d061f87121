import type {
  FeedEvent,
  FeedEventState,
  FeedMapping,
  FeedPreviewAnswer,
  FeedTaken,
  FeedTest,
  Page,
  WebhookSource,
} from '@yucca/contract';
import { and, count, desc, eq, isNotNull } from 'drizzle-orm';
import { randomUUID } from 'node:crypto';
import { feedEvents, feeds } from '../db/feeds-schema';
import type { Db } from '../db/open';
import { Failure } from '../failure';
import { listPage } from '../list-page';
import type { KeySealer } from '../keys/key-sealer';
import type { RemoteThread } from '../workers/rpc';
import type { WriterMethods } from '../workers/writer-worker';
import type { FeedTarget } from './apply-changes';
import { sourceOf, targetOf, type FeedRow, type FeedRows } from './feed-rows';
import { lookupIn } from './lookup-in';
import { readEvents, STRUCTURED } from './read-events';
import { SHOWN, shownRecord } from './shown-record';
import { bringsSecret, newFeedSecret, signed, verifiedMessage } from './signature';
import { isPulled } from './sources/source';
import { TakeTogether } from './take-together';
import { eventOf, waitingSince } from './told-feed';

interface Parts {
  db: Db;
  rows: FeedRows;
  writer: Pick<RemoteThread<WriterMethods>, 'call'>;
  sealer: KeySealer;
  refresh: (collectionId: number) => void;
}

type Headers = { get: (name: string) => string | null };

/** What sources send by themselves: taken in, applied, looked at, tried again. */
export class SentEvents {
  readonly #parts: Parts;
  readonly #together: TakeTogether;

  constructor(parts: Parts) {
    this.#parts = parts;
    this.#together = new TakeTogether(parts.writer);
  }

  /** The newest whole records that came, as they came and as a mapping would have them. */
  preview(feed: string | undefined, mapping: FeedMapping): FeedPreviewAnswer {
    if (feed === undefined) throw new Failure('conflict', 'This source sends its changes itself: connect it first.');
    const { keyField } = this.#parts.rows.get(feed);
    const { db } = this.#parts;
    const events = db
      .select({ data: feedEvents.data })
      .from(feedEvents)
      .where(and(eq(feedEvents.feedId, feed), eq(feedEvents.action, 'upsert'), isNotNull(feedEvents.data)))
      .orderBy(desc(feedEvents.number))
      .limit(SHOWN)
      .all();
    return { records: events.map(({ data }) => shownRecord(data!, mapping, lookupIn(db))), key: keyField };
  }

  /** What waits in feeds that run, because the process ended before it was applied. */
  async catchUp(): Promise<void> {
    const rows = this.#parts.rows.list(eq(feeds.state, 'running'));
    for (const row of rows) if (waitingSince(this.#parts.db, row.id) !== null) await this.applyWaiting(row);
  }

  /**
   * Takes in what a source sends. Resolves once it is stored durably, and applied unless the feed is paused; it can be
   * searched a moment later. Throws a Failure for a signature that does not hold, and for what cannot be read.
   */
  async take(id: string, headers: Headers, body: string, parse: (text: string) => unknown): Promise<FeedTaken> {
    const found = this.#parts.rows.find(id);
    const row = found && !isPulled(sourceOf(found)) ? found : undefined;
    // Whoever guesses ids learns nothing of them.
    const secrets = row ? this.#secretsOf(row) : [newFeedSecret()];
    const source = row ? (sourceOf(row) as WebhookSource) : null;
    const isToken = source?.plain !== undefined && bringsSecret(headers, secrets);
    const message = isToken ? randomUUID() : verifiedMessage(headers, body, secrets);
    const data = body === '' ? undefined : parse(body);
    const changes = readEvents(headers, data, source!, row!.keyField);
    const order = (): { target: FeedTarget; paused: boolean } => {
      const now = this.#parts.rows.get(id);
      return { target: targetOf(now), paused: now.state === 'paused' };
    };
    const taken = await this.#together.take(id, order, { message, changes });
    if (taken.taken > 0) this.#parts.refresh(row!.collectionId);
    return taken;
  }

  /** An event as the source would send it, signed with the feed's own secret, and what became of it. */
  async test(id: string, { key, action, data }: FeedTest): Promise<FeedEvent> {
    const row = this.#parts.rows.get(id);
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
    this.#parts.rows.get(id);
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
    return listPage(items, total, page, size);
  }

  /** Tries dead events again, all or some; returns how many were applied. */
  async replay(id: string, numbers: number[] | null): Promise<number> {
    const row = this.#parts.rows.get(id);
    const applied = await this.#parts.writer.call('feedReplay', [targetOf(row), numbers]);
    if (applied > 0) this.#parts.refresh(row.collectionId);
    return applied;
  }

  /** Applies what was kept while the feed was paused. */
  async applyWaiting(row: FeedRow): Promise<void> {
    await this.#parts.writer.call('feedApply', [targetOf(row)]);
    this.#parts.refresh(row.collectionId);
  }

  #secretsOf({ secret, oldSecret, oldUntil }: FeedRow): string[] {
    const sealed = oldSecret !== null && oldUntil! > Date.now() ? [secret, oldSecret] : [secret];
    return sealed.flatMap((one) => this.#parts.sealer.open(one)?.toString() ?? []);
  }
}
