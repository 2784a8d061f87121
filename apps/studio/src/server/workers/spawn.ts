import { Worker } from 'node:worker_threads';
import type { Pulse } from './rpc';

/** What a thread is told at its start. */
export interface ThreadData extends Pulse {
  dataDir: string;
  /** It leaves its core to others that have something to do. */
  givesWay?: boolean;
}

// The only lines that depend on the bundler: it finds the worker's file by the shape of `new Worker(new URL(…))`.
export const spawnWriter = (workerData: ThreadData): Worker =>
  new Worker(new URL('./writer-worker.ts', import.meta.url), { workerData, name: 'writer' });

export const spawnBuilder = (workerData: ThreadData): Worker =>
  new Worker(new URL('./builder-worker.ts', import.meta.url), { workerData, name: 'builder' });

export const spawnSearcher = (workerData: ThreadData): Worker =>
  new Worker(new URL('./search-worker.ts', import.meta.url), { workerData, name: 'searcher' });

export const spawnScan = (workerData: ThreadData): Worker =>
  new Worker(new URL('./scan-worker.ts', import.meta.url), { workerData, name: 'scan' });

export const spawnFeed = (workerData: ThreadData): Worker =>
  new Worker(new URL('./feed-worker.ts', import.meta.url), { workerData, name: 'feed' });
