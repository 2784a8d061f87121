import type { FeedRun, PulledSource } from '@yucca/contract';
import { watch, type FSWatcher } from 'chokidar';
import { and, eq, inArray, lt } from 'drizzle-orm';
import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import { feedRuns } from '../db/feeds-schema';
import type { Db } from '../db/open';
import { Failure } from '../failure';
import type { FeedMethods } from '../workers/feed-worker';
import { isRemoteError, isThreadLost, type RemoteThread, type ThreadOnDemand } from '../workers/rpc';
import type { WriterMethods } from '../workers/writer-worker';
import type { RunTarget } from './apply-run';
import { sourceOf, targetOf, type FeedRow, type FeedRows, type RunRow } from './feed-rows';
import { nextPiece } from './next-piece';
import { runOf } from './run-of';
import { nextAt, retryMs } from './schedule';
import type { FieldUse } from './shape';
import { insideLoadDir } from './sources/folder';
import { isPulled } from './sources/source';

export interface RunnerParts {
  db: Db;
  rows: FeedRows;
  writer: Pick<RemoteThread<WriterMethods>, 'call'>;
  thread: Pick<ThreadOnDemand<FeedMethods>, 'call'>;
  loadDir: string | null;
  /** Shows what was written, now and then. */
  refresh: (collectionId: number) => void;
  /** Shows all that was written; a collection that was empty is understood first. */
  makeSearchable: (collection: string) => Promise<void>;
  used: (collection: string) => FieldUse[];
  log: Pick<Logger, 'error'>;
}

export interface RunOrder {
  by: FeedRun['by'];
  /** Read everything, also where only changes could be asked for. */
  whole?: boolean;
  /** Go on with what the last run asks. */
  confirmed?: boolean;
}

/** Timers are not set for longer (Node takes 2^31 ms at the most). */
const LONGEST_MS = 24 * 3_600_000;
/** Runs that go on at the same time; a source that hangs holds up few others. */
const AT_ONCE = 8;
const REFRESH_EVERY_MS = 1_000;
const RUNS_KEPT = 200;
const SETTLED_MS = 300;

/** Runs sources that are asked: by their schedule, when their files change, and when somebody asks. */
export class FeedRunner {
  readonly #parts: RunnerParts;
  readonly #timers = new Map<string, ReturnType<typeof setTimeout>>();
  readonly #watchers = new Map<string, FSWatcher>();
  readonly #running = new Map<string, { stop: AbortController; done: Promise<void>; again: boolean }>();
  readonly #waiting: (() => void)[] = [];
  #closed = false;

  constructor(parts: RunnerParts) {
    this.#parts = parts;
  }

  /** Takes up every feed again, runs that a crash has broken off first. */
  start(): void {
    for (const row of this.#parts.rows.list()) this.take(row);
  }

  /** Takes a feed up, as it is now. */
  take(row: FeedRow): void {
    this.drop(row.id);
    const source = sourceOf(row);
    if (this.#closed || !isPulled(source) || row.state === 'paused') return;
    const last = this.#parts.rows.lastRun(row.id);
    // Somebody was faster than the start of the server.
    const isGoing = this.#running.get(row.id)?.stop.signal.aborted === false;
    if (last?.state === 'running') {
      if (!isGoing) void this.#begin(row, last, { by: last.by });
    } else if (last === undefined && row.nextAt === null) void this.run(row.id, { by: 'schedule' }).catch(() => {});
    else this.#arm(row.id, row.nextAt);
    if (source.kind === 'folder' && source.watch !== false) void this.#watch(row.id, source.path);
  }

  /** Lets a feed be: no run begins by itself any more. */
  drop(id: string): void {
    this.#disarm(id);
    void this.#watchers.get(id)?.close();
    this.#watchers.delete(id);
  }

  /** Whether a run goes on, or what it wrote is still being shown. */
  isRunning(id: string): boolean {
    return this.#running.has(id);
  }

  /** Stops a run that goes on; settles when it has stopped. */
  async stop(id: string): Promise<void> {
    const running = this.#running.get(id);
    running?.stop.abort();
    await running?.done;
  }

  async close(): Promise<void> {
    this.#closed = true;
    for (const id of [...this.#timers.keys(), ...this.#watchers.keys()]) this.drop(id);
    for (const one of this.#running.values()) one.stop.abort();
    for (const go of this.#waiting.splice(0)) go();
  }

  /** Runs a feed, or goes on with what its last run asks. Settles when it has begun, with what settles at its end. */
  async run(id: string, order: RunOrder): Promise<{ run: RunRow; done: Promise<void> }> {
    const { rows, db } = this.#parts;
    rows.pulled(rows.get(id));
    const going = this.#running.get(id);
    const before = rows.lastRun(id);
    if (going && before?.state === 'running') {
      // What has changed since is seen by another one after it.
      if (order.by === 'change') going.again = true;
      return { run: before, done: going.done };
    }
    // It has ended, and what it wrote is being shown.
    await going?.done;
    const row = rows.get(id);
    const source = rows.pulled(row);
    if (row.state === 'paused') throw new Failure('conflict', 'The feed is paused. Resume it first.');
    const last = rows.lastRun(id);
    if (order.confirmed && last?.state !== 'asking')
      throw new Failure('conflict', 'The last run of this feed asks for nothing.');
    const goesOn = last !== undefined && ((order.confirmed && last.state === 'asking') || (last.state === 'failed' && last.resume !== null)); // prettier-ignore
    const run = goesOn ? last : this.#newRun(row, source, order);
    db.update(feedRuns).set({ state: 'running', endedAt: null }).where(eq(feedRuns.number, run.number)).run();
    return { run, done: this.#begin(row, run, order) };
  }

  #newRun(row: FeedRow, source: PulledSource, { by, whole = false }: RunOrder): RunRow {
    const { db } = this.#parts;
    // Whether everything is read in the end, its source tells; it is from the beginning when nothing is known yet.
    const isWhole = whole || row.position === null || (source.kind === 'poll' && source.cursor === undefined) || source.kind === 'folder'; // prettier-ignore
    return db.$client
      .transaction(() => {
        this.#answerNoMore(row.id);
        const made = db
          .insert(feedRuns)
          .values({ feedId: row.id, state: 'running', by, whole: isWhole, order: 0, startedAt: Date.now() })
          .returning()
          .get();
        const run = db.update(feedRuns).set({ order: made.number }).where(eq(feedRuns.number, made.number)).returning().get()!; // prettier-ignore
        const old = db.select({ number: feedRuns.number }).from(feedRuns).where(and(eq(feedRuns.feedId, row.id), lt(feedRuns.number, made.number))).orderBy(feedRuns.number).all(); // prettier-ignore
        const over = old.slice(0, Math.max(0, old.length + 1 - RUNS_KEPT)).map(({ number }) => number);
        if (over.length > 0) db.delete(feedRuns).where(inArray(feedRuns.number, over)).run();
        return run;
      })
      .immediate();
  }

  /** What the run before has asked is seen anew by the next one. */
  #answerNoMore(feedId: string): void {
    const { db } = this.#parts;
    const asked = and(eq(feedRuns.feedId, feedId), eq(feedRuns.state, 'asking'));
    db.delete(feedRuns)
      .where(and(asked, eq(feedRuns.written, 0), eq(feedRuns.deleted, 0)))
      .run();
    db.update(feedRuns).set({ state: 'done', asks: null, resume: null, reason: 'Nothing was deleted.' }).where(asked).run(); // prettier-ignore
  }

  /** Goes on with a run until its end; settles then, however it ended. */
  #begin(row: FeedRow, run: RunRow, order: RunOrder): Promise<void> {
    this.#disarm(row.id);
    const state = { stop: new AbortController(), again: false, done: Promise.resolve() };
    const before = this.#running.get(row.id)?.done;
    let startedAt = Date.now();
    state.done = (async () => {
      await before;
      await this.#turn();
      startedAt = Date.now();
      try {
        if (!state.stop.signal.aborted) await this.#goOn(row, run, order, state.stop.signal);
      } catch (error) {
        // Nobody waits for a run by schedule: it is told here, and by the feed.
        if (!this.#closed) this.#parts.log.error({ feed: row.id, error: (error as Error).message }, 'a run of a feed ended in a mistake'); // prettier-ignore
      } finally {
        if (this.#running.get(row.id) === state) this.#running.delete(row.id);
        this.#waiting.shift()?.();
        if (!this.#closed) this.#after(row.id, startedAt, state.again);
      }
    })();
    this.#running.set(row.id, state);
    return state.done;
  }

  /** Waits until fewer than so many others run. */
  async #turn(): Promise<void> {
    if (this.#running.size <= AT_ONCE) return;
    await new Promise<void>((resolve) => this.#waiting.push(resolve));
  }

  async #goOn(
    row: FeedRow,
    { number }: RunRow,
    { confirmed = false, whole = false }: RunOrder,
    stopped: AbortSignal,
  ): Promise<void> {
    const { db, rows, writer, thread, loadDir } = this.#parts;
    // As it is now: one that was being stopped may have written a piece since, or its end.
    const run = db.select().from(feedRuns).where(eq(feedRuns.number, number)).get();
    if (run?.state !== 'running') return;
    const answered = !confirmed ? null : run.asks === null ? 'fields' : 'deletes';
    const target: RunTarget = {
      ...targetOf(row),
      run: run.number,
      used: this.#parts.used(row.collection),
      confirmed: answered,
    };
    const reading = randomUUID();
    try {
      // Everything was read before it asked: only the end is left.
      if (answered === 'deletes') {
        await writer.call('feedRunEnd', [target, { whole: true, position: run.position, unchanged: false }]);
        return await this.#told(row, run, false);
      }
      const order = {
        feedId: row.id,
        keyField: row.keyField,
        position: row.position,
        resume: run.resume,
        whole,
        loadDir,
      };
      await thread.call('open', [reading, rows.pulled(row), order]);
      let shownAt = Date.now();
      for (;;) {
        // An address that hangs is let go of at once. A server whose log is read is not: its slot has to be free again.
        const isLetGo = sourceOf(row).kind === 'poll';
        const piece = await nextPiece(thread, reading, isLetGo ? stopped : new AbortController().signal);
        if (stopped.aborted || piece === null) return await thread.call('close', [reading]);
        if ('end' in piece) {
          const { end } = piece;
          await writer.call('feedRunEnd', [target, { ...end, whole: end.whole && !end.unchanged }]);
          return await this.#told(row, run, end.unchanged);
        }
        if ((await writer.call('feedRunAdd', [target, piece.batch])) === 'asking') {
          await thread.call('close', [reading]);
          return await this.#told(row, run, false);
        }
        if (Date.now() - shownAt < REFRESH_EVERY_MS) continue;
        shownAt = Date.now();
        this.#parts.refresh(row.collectionId);
      }
    } catch (error) {
      if (!stopped.aborted && !this.#closed) await this.#failed(row, run, error as Error);
    }
  }

  /** The run came to its end. */
  async #told(row: FeedRow, run: RunRow, unchanged: boolean): Promise<void> {
    const { db, rows, makeSearchable } = this.#parts;
    rows.set(row.id, { failures: 0, reason: null, heardAt: Date.now() });
    const now = db.select().from(feedRuns).where(eq(feedRuns.number, run.number)).get();
    // A look that found nothing new is no event.
    if (unchanged && run.by !== 'hand' && now?.read === 0) db.delete(feedRuns).where(eq(feedRuns.number, run.number)).run(); // prettier-ignore
    if (now && now.written + now.deleted > 0) await makeSearchable(row.collection);
  }

  async #failed(row: FeedRow, run: RunRow, error: Error): Promise<void> {
    const { writer, rows, log } = this.#parts;
    const note = isRemoteError(error) ? error.note : { name: error.name, message: error.message };
    const isOfSource = note.name === 'SourceError';
    if (!isOfSource && !isThreadLost(error)) log.error({ feed: row.id, error: note.message }, 'a run of a feed failed');
    const reason =
      isOfSource || isThreadLost(error) ? note.message : `Yucca made a mistake while reading: ${note.message}`;
    await writer.call('feedRunBroken', [run.number, 'failed', reason]);
    const failures = (rows.find(row.id)?.failures ?? 0) + 1;
    const { retryAfterS = null, isLasting = false } = note as { retryAfterS?: number | null; isLasting?: boolean };
    const again = isLasting ? null : Date.now() + retryMs(failures, retryAfterS);
    rows.set(row.id, { failures, reason, nextAt: again });
    this.#parts.refresh(row.collectionId);
  }

  /** Sets when a feed runs next. */
  #after(id: string, startedAt: number, again: boolean): void {
    const { rows } = this.#parts;
    const row = rows.find(id);
    if (!row || row.state === 'paused') return;
    const scheduled = nextAt(rows.pulled(row), startedAt);
    // After a failure it was said when it is tried again; a feed without a schedule waits for somebody.
    const next = row.failures > 0 ? (scheduled === null ? null : Math.max(row.nextAt ?? Infinity, scheduled)) : scheduled; // prettier-ignore
    const at = again ? Date.now() : next === Infinity ? null : next;
    rows.set(id, { nextAt: at });
    this.#arm(id, at);
  }

  #disarm(id: string): void {
    clearTimeout(this.#timers.get(id));
    this.#timers.delete(id);
  }

  #arm(id: string, at: number | null): void {
    this.#disarm(id);
    if (at === null || this.#closed) return;
    const ms = Math.max(0, at - Date.now());
    const fire = (): void => {
      if (ms > LONGEST_MS) return this.#arm(id, at);
      void this.run(id, { by: 'schedule' }).catch((error: Error) => this.#parts.log.error({ feed: id, error: error.message }, 'a run of a feed did not begin')); // prettier-ignore
    };
    this.#timers.set(id, setTimeout(fire, Math.min(ms, LONGEST_MS)).unref());
  }

  async #watch(id: string, path: string): Promise<void> {
    const root = await insideLoadDir(this.#parts.loadDir, path).catch(() => null);
    if (root === null || this.#closed) return;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const watcher = watch(root, { ignoreInitial: true, persistent: false, awaitWriteFinish: { stabilityThreshold: SETTLED_MS, pollInterval: 100 } }); // prettier-ignore
    const look = (): void => {
      clearTimeout(timer);
      timer = setTimeout(() => void this.run(id, { by: 'change' }).catch(() => {}), SETTLED_MS).unref();
    };
    watcher.on('error', () => {});
    watcher.on('all', look);
    // What changed before it began to watch.
    watcher.on('ready', look);
    void this.#watchers.get(id)?.close();
    this.#watchers.set(id, watcher);
  }

  /** Runs of a feed, the newest first. */
  list(id: string, page: number, size: number): { items: FeedRun[]; total: number } {
    const { db } = this.#parts;
    const all = db.select().from(feedRuns).where(eq(feedRuns.feedId, id)).orderBy(feedRuns.number).all().reverse();
    return { items: all.slice((page - 1) * size, page * size).map((run) => runOf(run)), total: all.length };
  }

  /** Forgets the runs of a feed, and where it was. */
  forget(id: string): void {
    this.drop(id);
    this.#parts.db.delete(feedRuns).where(eq(feedRuns.feedId, id)).run();
  }
}
