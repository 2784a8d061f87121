/** The keeper: the one thread that writes records, and that makes the small fresh part of an index right after. */
import { workerData } from 'node:worker_threads';
import { openDb } from '../db/open';
import { buildSegment, type BuildJob, type BuiltSegment } from '../index/build-segment';
import { startLoad, type LoadJob, type LoadOptions, type LoadProgress } from '../records/load-job';
import {
  checkRecord,
  keyOf,
  RecordError,
  RecordStore,
  type WriteMode,
  type WriteOutcome,
} from '../records/record-store';
import { clearRecords, collectionIds } from '../records/clear';
import { serve, tell } from './rpc';
import type { ThreadData } from './spawn';

const db = openDb((workerData as ThreadData).dataDir);
const store = new RecordStore(db);
const loads = new Map<string, LoadJob>();

export type KeeperEvent = { load: string; progress: LoadProgress };

const methods = {
  /** Begins a load and answers at once; the end comes as the answer to `loadEnd`. */
  loadBegin(id: string, options: LoadOptions): void {
    loads.set(
      id,
      startLoad(store, options, (progress) => tell({ load: id, progress } satisfies KeeperEvent)),
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
