/** The keeper: the one thread that writes records, and that makes the small fresh part of an index right after. */
import { workerData } from 'node:worker_threads';
import { openDb } from '../db/open';
import { buildSegment, type BuildJob, type BuiltSegment } from '../index/build-segment';
import { FailedLines } from '../records/failed-lines';
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
import { serve, tell } from './rpc';
import type { ThreadData } from './spawn';

const { dataDir } = workerData as ThreadData;
const db = openDb(dataDir);
const store = new RecordStore(db);
const loads = new Map<string, LoadJob>();
const cancelledRepairs = new Set<string>();

export type KeeperEvent = { load: string; progress: LoadProgress } | { repair: string; progress: RepairProgress };

const methods = {
  /** Begins a load and answers at once; the end comes as the answer to `loadEnd`. */
  loadBegin(id: string, options: LoadOptions): void {
    loads.set(
      id,
      startLoad(store, options, new FailedLines(dataDir, id), (progress) =>
        tell({ load: id, progress } satisfies KeeperEvent),
      ),
    );
  },

  /** Hands over bytes; answers when more may come. */
  async loadChunk(id: string, chunk: Uint8Array): Promise<void> {
    await loads.get(id)?.write(chunk);
  },

  /** No more bytes; answers when every row is stored or counted as failed. `broken` = the sender vanished. */
  async loadEnd(id: string, broken: string | null): Promise<LoadProgress> {
    const job = loads.get(id)!;
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
    const onProgress = (progress: RepairProgress): void => tell({ repair: id, progress } satisfies KeeperEvent);
    const done = await repairRecords(db, store, order, onProgress, () => cancelledRepairs.has(id));
    return { ...done, cancelled: cancelledRepairs.delete(id) };
  },

  repairCancel(id: string): void {
    cancelledRepairs.add(id);
  },

  put(collectionId: number, key: string, record: unknown, mode: WriteMode, keyField: string): WriteOutcome {
    const checked = checkRecord(record);
    const own = keyOf(checked, keyField);
    if (own !== null && own !== key)
      throw new RecordError(`the record's "${keyField}" is "${own}", the address says "${key}"`);
    const complete = own === null && mode !== 'merge' ? { [keyField]: key, ...checked } : checked;
    return store.transaction(collectionId, () => store.put(collectionId, key, complete, mode));
  },

  remove(collectionId: number, keys: string[]): number {
    return store.transaction(collectionId, () => keys.filter((key) => store.remove(collectionId, key)).length);
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

export type KeeperMethods = typeof methods;

serve(methods);
