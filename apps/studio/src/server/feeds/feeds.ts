import type {
  Feed,
  FeedPatch,
  FeedPreview,
  FeedPreviewAnswer,
  FeedRun,
  FeedWithSecret,
  NewFeed,
  Page,
  PostgresSource,
  PulledSource,
} from '@yucca/contract';
import { eq, sql } from 'drizzle-orm';
import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import type { Collections } from '../collections/collections';
import { feedEvents, feedKeys, feedMessages, feedRuns, feeds } from '../db/feeds-schema';
import type { Db } from '../db/open';
import { Failure } from '../failure';
import { listPage } from '../list-page';
import type { IndexManager } from '../index/index-manager';
import type { KeySealer } from '../keys/key-sealer';
import type { FeedMethods } from '../workers/feed-worker';
import type { BegunTask, Tasks } from '../tasks/tasks';
import type { RemoteThread, ThreadOnDemand } from '../workers/rpc';
import type { ScanMethods } from '../workers/scan-worker';
import type { WriterMethods } from '../workers/writer-worker';
import { checkMapping, checkSource } from './check-source';
import { FeedRows, sourceOf, type FeedRow } from './feed-rows';
import { FeedRunner, type RunOrder } from './feed-runner';
import { joined, parted } from './feed-secrets';
import { isReadAlike, nextAt } from './schedule';
import { asFailure, Reconciliation, type RepairAsked } from './reconciliation';
import { runOf } from './run-of';
import type { FieldUse } from './shape';
import { SentEvents } from './sent-events';
import { newFeedSecret } from './signature';
import { isPulled } from './sources/source';
import { SourceTasks } from './source-tasks';
import { toldFeed } from './told-feed';

interface Parts {
  db: Db;
  collections: Pick<Collections, 'row'>;
  tasks: Pick<Tasks, 'begin' | 'update' | 'end' | 'get'>;
  indexManager: Pick<IndexManager, 'refresh'>;
  writer: Pick<RemoteThread<WriterMethods>, 'call'>;
  scan: () => Pick<RemoteThread<ScanMethods>, 'call'>;
  sealer: KeySealer;
  thread: Pick<ThreadOnDemand<FeedMethods>, 'call'>;
  loadDir: string | null;
  makeSearchable: (collection: string) => Promise<void>;
  used: (collection: string) => FieldUse[];
  log: Pick<Logger, 'error'>;
}

/** A secret that was replaced holds for so long. */
const OLD_SECRET_MS = 24 * 3_600_000;

/** Feeds: sources that keep collections in step. */
export class Feeds {
  readonly #parts: Parts;
  /** Collections whose index is being brought up to date, and whether it has to be once more. */
  readonly #refreshing = new Map<number, { again: boolean }>();

  readonly #rows: FeedRows;
  readonly #runner: FeedRunner;
  readonly #reconciliation: Reconciliation;
  readonly #sourceTasks: SourceTasks;
  /** What sources send by themselves. */
  readonly sent: SentEvents;

  constructor(parts: Parts) {
    this.#parts = parts;
    this.#rows = new FeedRows(parts.db, parts.sealer);
    const refresh = (id: number): void => this.#refresh(id);
    this.sent = new SentEvents({ ...parts, rows: this.#rows, refresh });
    this.#reconciliation = new Reconciliation({ ...parts, rows: this.#rows });
    this.#sourceTasks = new SourceTasks({ ...parts, reconciliation: this.#reconciliation });
    this.#runner = new FeedRunner({ ...parts, rows: this.#rows, refresh });
  }

  /** Runs feeds from now on, by their schedules. */
  start(): void {
    this.#runner.start();
    this.#reconciliation.start();
  }

  /** Begins no runs any more, and stops those that go on. */
  close(): Promise<void> {
    this.#reconciliation.close();
    return this.#runner.close();
  }

  list(page: number, size: number, collection: string | null): Page<Feed> {
    const where = collection === null ? undefined : eq(feeds.collectionId, this.#parts.collections.row(collection).id);
    const rows = this.#rows.list(where, size, (page - 1) * size);
    const total = this.#rows.list(where).length;
    return listPage(
      rows.map((row) => this.#told(row)),
      total,
      page,
      size,
    );
  }

  get(id: string): Feed {
    return this.#told(this.#rows.get(id));
  }

  /** Makes a feed. One that is told has the secret that its source signs with; one that is asked is run at once. */
  create({ name, collection, source, mapping = [], checkEveryS = 86_400 }: NewFeed): FeedWithSecret {
    const { db, collections, sealer } = this.#parts;
    const { id: collectionId } = collections.row(collection);
    checkSource(source);
    checkMapping(mapping);
    const id = randomUUID();
    const secret = newFeedSecret();
    const { shown, secrets } = parted(source, null);
    db.insert(feeds)
      .values({
        id,
        name,
        collectionId,
        source: JSON.stringify(shown),
        secrets: this.#rows.seal(secrets),
        mapping: JSON.stringify(mapping),
        checkEveryS,
        state: 'running',
        secret: sealer.seal(Buffer.from(secret)),
        createdAt: new Date().toISOString(),
      })
      .run();
    if (isPulled(source)) this.#begin(id);
    return { feed: this.get(id), ...(source.kind === 'webhook' && { secret }) };
  }

  /** The first run, which a change log has to be made for before. */
  #begin(id: string): void {
    const row = this.#rows.get(id);
    const source = sourceOf(row);
    const waits = source.kind === 'sqlite' && source.log === true;
    if (!waits) this.#runner.take(row);
  }

  async change(id: string, { name, source, mapping, checkEveryS }: FeedPatch): Promise<Feed> {
    const row = this.#rows.get(id);
    if (source !== undefined) {
      checkSource(source);
      const before = sourceOf(row);
      if (isPulled(source) !== isPulled(before))
        throw new Failure('conflict', 'A feed that sends and one that is asked are not made of each other. Make another feed.'); // prettier-ignore
    }
    if (mapping !== undefined) checkMapping(mapping);
    const apart = source === undefined ? null : parted(source, this.#rows.secretsOf(row));
    await this.#runner.stop(id);
    const isOther = apart !== null && !isReadAlike(apart.shown, sourceOf(row));
    if (isOther) await this.#unfollow(row).catch((error: unknown) => Promise.reject(asFailure(error) as Error));
    this.#rows.set(id, {
      ...(name !== undefined && { name }),
      ...(checkEveryS !== undefined && { checkEveryS }),
      ...(mapping !== undefined && { mapping: JSON.stringify(mapping) }),
      ...(apart !== null && { source: JSON.stringify(apart.shown), secrets: this.#rows.seal(apart.secrets) }),
      // Whatever is read of it now is read from the beginning.
      ...((isOther || mapping !== undefined) && { position: null }),
      ...((source !== undefined || mapping !== undefined) && { failures: 0, reason: null }),
    });
    if (isOther || mapping !== undefined) this.#anew(id);
    // By its new schedule.
    else if (source !== undefined) this.#rows.set(id, { nextAt: isPulled(source) ? nextAt(source, Date.now()) : null });
    if (isPulled(sourceOf(this.#rows.get(id)))) this.#runner.take(this.#rows.get(id));
    return this.get(id);
  }

  /** What was known of the order of changes was another source's. */
  #anew(id: string): void {
    if (!isPulled(sourceOf(this.#rows.get(id)))) return;
    const { db } = this.#parts;
    db.update(feedKeys).set({ order: 0 }).where(eq(feedKeys.feedId, id)).run();
    db.update(feedRuns)
      .set({
        resume: null,
        position: null,
        state: sql`case when state in ('running', 'asking') then 'cancelled' else state end`,
      })
      .where(eq(feedRuns.feedId, id))
      .run();
    db.update(feeds).set({ nextAt: Date.now() }).where(eq(feeds.id, id)).run();
  }

  /** Leaves nothing behind in a source that is followed no more. */
  async #unfollow(row: FeedRow): Promise<void> {
    const source = sourceOf(row);
    const { thread, loadDir } = this.#parts;
    if (source.kind === 'postgres' && source.follow)
      await thread.call('unfollow', [this.#rows.pulled(row) as PostgresSource, row.id]);
    if (source.kind === 'sqlite' && source.log) await thread.call('triggers', [source, row.id, loadDir, 'drop']);
  }

  /**
   * Records stay as they are. What following the source has left in it is taken away first; when that fails a Failure
   * says so, and nothing is ended unless `forced`: a slot that nobody reads fills the disk of its server.
   */
  remove(id: string, forced = false): Promise<void> {
    return this.#end(this.#rows.get(id), forced);
  }

  async #end(row: FeedRow, forced: boolean): Promise<void> {
    const { id } = row;
    await this.#runner.stop(id);
    try {
      await this.#unfollow(row);
    } catch (error) {
      if (!forced) throw asFailure(error, 'What the feed has left in its source could not be taken away (force=true ends it all the same)'); // prettier-ignore
      this.#parts.log.error({ feed: id, error: (error as Error).message }, 'what a feed has left in its source stays there'); // prettier-ignore
    }
    this.#runner.forget(id);
    const { db } = this.#parts;
    db.$client
      .transaction(() => {
        db.delete(feeds).where(eq(feeds.id, id)).run();
        for (const table of [feedEvents, feedMessages, feedKeys]) db.delete(table).where(eq(table.feedId, id)).run();
      })
      .immediate();
  }

  /** Ends the feeds of a collection that is about to be deleted, as far as their sources let them. */
  endAll(collection: string): void {
    const rows = this.#rows.list(eq(feeds.collectionId, this.#parts.collections.row(collection).id));
    for (const row of rows) {
      this.#runner.drop(row.id);
      void this.#end(row, true).catch((error: Error) => this.#parts.log.error({ feed: row.id, error: error.message }, 'a feed was not ended')); // prettier-ignore
    }
  }

  /** From now on events are kept and not applied; a source that is asked is asked no more. */
  pause(id: string): Feed {
    this.#rows.get(id);
    this.#rows.set(id, { state: 'paused' });
    this.#runner.drop(id);
    // A source that hangs is not waited for: what it still says is not written.
    void this.#runner.stop(id);
    return this.get(id);
  }

  /** Applies what has come meanwhile, and what comes from now on. A run goes on where it was. */
  async resume(id: string): Promise<Feed> {
    this.#rows.get(id);
    this.#rows.set(id, { state: 'running' });
    const row = this.#rows.get(id);
    if (isPulled(sourceOf(row))) this.#runner.take(row);
    else await this.sent.applyWaiting(row);
    return this.get(id);
  }

  /** Runs a source that is asked. Settles when it has begun, or with `wait` at its end. */
  async run(id: string, order: RunOrder, wait = false): Promise<FeedRun> {
    const { run, done } = await this.#runner.run(id, order);
    if (wait) await done;
    const rows = this.#parts.db.select().from(feedRuns).where(eq(feedRuns.number, run.number)).all();
    return runOf(rows[0] ?? { ...run, state: 'done', endedAt: Date.now() });
  }

  runs(id: string, page: number, size: number): Page<FeedRun> {
    this.#rows.get(id);
    const { items, total } = this.#runner.list(id, page, size);
    return listPage(items, total, page, size);
  }

  /** The first records of a source, as they come and as a mapping would have them. */
  async preview({ source, mapping = [], feed }: FeedPreview): Promise<FeedPreviewAnswer> {
    checkSource(source);
    checkMapping(mapping);
    if (!isPulled(source)) return this.sent.preview(feed, mapping);
    const { thread, loadDir } = this.#parts;
    const row = feed === undefined ? null : this.#rows.get(feed);
    const { secrets } = parted(source, row === null ? null : this.#rows.secretsOf(row));
    const order = { feedId: feed ?? 'preview', keyField: 'id', position: null, resume: null, whole: true, loadDir };
    try {
      return await thread.call('preview', [joined(source, secrets) as PulledSource, order, mapping]);
    } catch (error) {
      throw asFailure(error);
    }
  }

  /** The statements of the change log of a SQLite table; with `make` they are run in its file. */
  async triggers(id: string, make: boolean): Promise<{ sql: string }> {
    const row = this.#rows.get(id);
    const source = sourceOf(row);
    if (source.kind !== 'sqlite' || !source.log)
      throw new Failure('conflict', 'Only a feed that follows a SQLite table by its log has triggers.');
    const { thread, loadDir } = this.#parts;
    try {
      const text = await thread.call('triggers', [source, id, loadDir, make ? 'make' : 'told']);
      if (make) this.#runner.take(row);
      return { sql: text };
    } catch (error) {
      throw asFailure(error);
    }
  }

  /** Another secret. The one before holds for a day more, so that the source can be told in peace. */
  renewSecret(id: string, now = Date.now()): FeedWithSecret {
    const { secret: oldSecret } = this.#rows.get(id);
    const secret = newFeedSecret();
    const { db, sealer } = this.#parts;
    db.update(feeds)
      .set({ secret: sealer.seal(Buffer.from(secret)), oldSecret, oldUntil: now + OLD_SECRET_MS })
      .where(eq(feeds.id, id))
      .run();
    return { feed: this.get(id), secret };
  }

  /** Compares the feeds for which it is time. */
  checkDue(now: number): Promise<void> {
    return this.#reconciliation.checkDue(now);
  }

  /**
   * How the collection differs from its source, as a task: from records that were sent, or that it has now. Changes
   * nothing. Settles when what was sent has been read; throws a Failure for what cannot be.
   */
  compare(id: string, body: AsyncIterable<Uint8Array> | null, taskId?: string): Promise<BegunTask> {
    return this.#sourceTasks.compare(this.#rows.get(id), body, taskId);
  }

  /** Makes the collection what its source says, as far as it is asked for, as a task. See Repair. */
  repair(id: string, body: AsyncIterable<Uint8Array> | null, order: RepairAsked, taskId?: string): Promise<BegunTask> {
    return this.#sourceTasks.repair(this.#rows.get(id), body, order, taskId);
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

  #told(row: FeedRow): Feed {
    const told = toldFeed(this.#parts.db, row, this.#rows.lastRun(row.id));
    // Done is a run whose records can be searched.
    const { run } = told;
    return run === null || !this.#runner.isRunning(row.id) ? told : { ...told, run: { ...run, state: 'running' } };
  }
}
