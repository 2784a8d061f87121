/** The writer thread: the one that writes records, and that makes the small fresh part of an index right after. */
import type { FeedRepair, FeedRunState, PastSearch } from '@yucca/contract';
import { eq } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { workerData } from 'node:worker_threads';
import { trimAudit, writeNotes, type Audit } from '../audit/audit';
import { Flushed, logFileIn } from '../db/flushed';
import { openDb } from '../db/open';
import { keys } from '../db/schema';
import { buildSegment, type BuildJob, type BuiltSegment } from '../index/build-segment';
import { FeedChanges, type FeedTarget, type Taken as FeedTakenBy } from '../feeds/apply-changes';
import { FeedRuns, type RunTarget } from '../feeds/apply-run';
import { Repair, type RepairOrderOfFeed } from '../feeds/repair';
import type { SourceBatch, SourceEnd } from '../feeds/sources/source';
import type { Message } from '../feeds/take-together';
import { FailedLines } from '../records/failed-lines';
import { rowsThat } from '../scan/rows-that';
import { startLoad, type LoadJob, type LoadOptions, type LoadProgress } from '../records/load-job';
import {
  checkRecord,
  keyOf,
  RecordError,
  RecordStore,
  type WriteMode,
  type WriteOutcome,
} from '../records/record-store';
import { repairRecords, type RepairOrder, type RepairProgress } from '../records/repair-job';
import { clearRecords, collectionIds } from '../records/clear';
import { SearchCounter } from '../insights/search-counter';
import type { LogBatch } from '../insights/search-log';
import { trimInsights, type InsightAges } from '../insights/trim-insights';
import { lastClock, writeClock } from '../settings/last-clock';
import { trimEvents } from '../visitor-events/trim-events';
import { serve, StateLost, tell } from './rpc';
import type { ThreadData } from './spawn';

const { dataDir } = workerData as ThreadData;
const db = openDb(dataDir, { flushes: false });
// Keys come in any order, so a load touches all of their index again and again: 32 MB of it stay in memory, and pages
// are moved into the database when the log holds 16 MB of them, most of them many times.
db.$client.pragma(`cache_size = -${32 * 1024}`);
db.$client.pragma('wal_autocheckpoint = 4000');
const flushed = new Flushed(db, logFileIn(dataDir));
const store = new RecordStore(db);
/** Repairs whose source is coming; what nobody goes on with is forgotten. */
const feedRepairs = new LRUCache<string, Repair>({ max: 4, ttl: 600_000, updateAgeOnGet: true });
const feedChanges = new FeedChanges(db, store);
const feedRuns = new FeedRuns(db, store, feedChanges);
const loads = new Map<string, LoadJob>();
/** Records deleted in one transaction: other writes come between. */
const REMOVED_AT_ONCE = 500;

/** Events and the trail are looked through for what is too old this often. */
const TRIM_EVERY_MS = 60_000;
let trimmedAt = 0;

/** What the main thread has noted since it told the last time. */
interface Notes {
  uses: { id: string; at: string }[];
  notes: ReturnType<Audit['takeNotes']>;
  /** What time it is, in milliseconds since 1970. */
  clock: number;
  eventDays: number;
  insights: { searches: LogBatch; lastEvent: number; ages: InsightAges; secret: string };
}

/** Made with the first notes: they bring what it hashes with. */
let counter: SearchCounter | undefined;

const cancelledRepairs = new Set<string>();

export type WriterEvent = { load: string; progress: LoadProgress } | { repair: string; progress: RepairProgress };

const methods = {
  /** Begins a load and answers at once; the end comes as the answer to `loadEnd`. */
  loadBegin(id: string, options: LoadOptions): void {
    loads.set(
      id,
      startLoad(store, options, new FailedLines(dataDir, id), {
        flushed: () => flushed.done(),
        onProgress: (progress) => tell({ load: id, progress } satisfies WriterEvent),
      }),
    );
  },

  /** Hands over bytes; resolves when more may come, and whether they are wanted. */
  async loadChunk(id: string, chunk: Uint8Array): Promise<boolean> {
    const job = loads.get(id);
    if (!job) throw new StateLost('the load was begun by another');
    return job.write(chunk);
  },

  /** No more bytes; resolves when every row is stored or counted as failed. `broken` = the sender vanished. */
  async loadEnd(id: string, broken: string | null): Promise<LoadProgress> {
    const job = loads.get(id);
    if (!job) throw new StateLost('the load was begun by another');
    try {
      return await job.end(broken);
    } finally {
      loads.delete(id);
    }
  },

  loadCancel(id: string): void {
    loads.get(id)?.cancel();
  },

  /** Brings the records of a collection in line with its field rules. */
  async repair(id: string, order: RepairOrder): Promise<RepairProgress & { cancelled: boolean }> {
    const onProgress = (progress: RepairProgress): void => tell({ repair: id, progress } satisfies WriterEvent);
    const done = await repairRecords(db, store, order, onProgress, () => cancelledRepairs.has(id));
    return { ...done, cancelled: cancelledRepairs.delete(id) };
  },

  repairCancel(id: string): void {
    cancelledRepairs.add(id);
  },

  /** `json`: the record as text, which crosses threads whatever its shape. */
  put(collectionId: number, key: string, json: string, mode: WriteMode, keyField: string): WriteOutcome {
    const checked = checkRecord(JSON.parse(json));
    const own = keyOf(checked, keyField);
    if (own !== null && own !== key)
      throw new RecordError(`the record's "${keyField}" is "${own}", the address says "${key}"`);
    const complete = own === null && mode !== 'merge' ? { [keyField]: key, ...checked } : checked;
    return store.transaction(collectionId, () => store.put(collectionId, key, complete, mode));
  },

  /** Deletes records, in pieces; with a condition, those that still fulfil it. */
  async remove(collectionId: number, keys: string[], filter: string | null): Promise<number> {
    let removed = 0;
    for (let at = 0; at < keys.length; at += REMOVED_AT_ONCE) {
      const piece = keys.slice(at, at + REMOVED_AT_ONCE);
      removed += store.transaction(collectionId, () => {
        const still = filter === null ? piece : rowsThat(db, collectionId, filter, piece).map(({ key }) => key);
        return still.filter((key) => store.remove(collectionId, key)).length;
      });
      await new Promise((resolve) => setImmediate(resolve));
    }
    return removed;
  },

  /** Writes down what was noted in memory, and clears away what is kept long enough. */
  writeNotes({ uses, notes, clock, eventDays, insights }: Notes): void {
    db.$client
      .transaction(() => {
        for (const { id, at } of uses) db.update(keys).set({ lastUsedAt: at }).where(eq(keys.id, id)).run();
        writeNotes(db, notes);
        writeClock(db, clock);
      })
      .immediate();
    counter ??= new SearchCounter(db, insights.secret);
    counter.take(insights.searches, insights.lastEvent, clock);
    if (Date.now() - trimmedAt < TRIM_EVERY_MS) return;
    trimmedAt = Date.now();
    trimAudit(db);
    trimEvents(db, eventDays);
    trimInsights(db, insights.ages);
    feedChanges.trim(Date.now());
  },

  /** Counts searches of another time; see SearchCounter. */
  importSearches(collectionId: number, secret: string, searches: PastSearch[]): void {
    counter ??= new SearchCounter(db, secret);
    counter.import(collectionId, searches);
  },

  /** Erases what is kept of a visit, a viewer or a query. */
  eraseInsights(
    collectionId: number,
    secret: string,
    what: { session?: string; viewer?: string; query?: string },
  ): number {
    counter ??= new SearchCounter(db, secret);
    return counter.erase(collectionId, what);
  },

  /** Stores what a source told, in one transaction, and applies it; see FeedChanges. */
  feedTake(target: FeedTarget, messages: Message[], how: { paused: boolean; now: number }): FeedTakenBy[] {
    return feedChanges.takeAll(target, messages, how);
  },

  /** Applies what has waited, in pieces; returns when nothing waits. */
  async feedApply(target: FeedTarget): Promise<void> {
    while (feedChanges.applyWaiting(target)) await new Promise((resolve) => setImmediate(resolve));
  },

  /** Writes a piece of a run; see FeedRuns. */
  feedRunAdd(target: RunTarget, batch: SourceBatch): FeedRunState {
    return feedRuns.add(target, batch);
  },

  feedRunEnd(target: RunTarget, end: SourceEnd): Promise<FeedRunState> {
    return feedRuns.end(target, end);
  },

  feedRunBroken(run: number, state: 'failed' | 'cancelled', reason: string | null): void {
    feedRuns.broken(run, state, reason);
  },

  /** Begins to repair a collection from its source, whose lines come in parts. */
  feedRepairBegin(id: string, order: RepairOrderOfFeed): void {
    feedRepairs.set(id, new Repair(db, store, order));
  },

  feedRepairAdd(id: string, lines: string[]): void {
    const one = feedRepairs.get(id);
    if (!one) throw new StateLost('the repair was begun by another');
    one.add(lines);
  },

  feedRepairEnd(id: string): Promise<FeedRepair> {
    const one = feedRepairs.get(id);
    if (!one) throw new StateLost('the repair was begun by another');
    feedRepairs.delete(id);
    return one.end();
  },

  /** Ends a repair before its source has; what it has done until then stays. */
  feedRepairStop(id: string): FeedRepair {
    const one = feedRepairs.get(id);
    if (!one) throw new StateLost('the repair was begun by another');
    feedRepairs.delete(id);
    return one.told;
  },

  /** Tries dead events again; returns how many were applied. */
  feedReplay(target: FeedTarget, numbers: number[] | null): number {
    return feedChanges.replay(target, numbers);
  },

  /** Writes something small. Throws when the disk refuses. */
  tryWriting(): void {
    const file = path.join(dataDir, 'try-writing');
    writeFileSync(file, Buffer.alloc(64 * 1024));
    rmSync(file);
    db.$client.transaction(() => writeClock(db, Math.max(lastClock(db), 0))).immediate();
  },

  buildFresh(job: BuildJob): BuiltSegment {
    return buildSegment(db, job);
  },

  /** Clears away the records of deleted collections, a piece at a time so that writes come between. */
  async clearDeleted(): Promise<void> {
    for (const id of collectionIds(db, 'deleted')) {
      while (clearRecords(db, id)) await new Promise((resolve) => setImmediate(resolve));
    }
  },
};

export type WriterMethods = typeof methods;

/** What acknowledges nothing that was written. */
const ACKNOWLEDGES_NOTHING: ReadonlySet<string> = new Set<keyof WriterMethods>(['loadChunk', 'buildFresh']);

// Whoever wrote is told when the disk has it; others write meanwhile, and share the next flush.
serve(methods, (method) => (ACKNOWLEDGES_NOTHING.has(method) ? null : flushed.done()));
