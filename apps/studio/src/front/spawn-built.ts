import { Worker } from 'node:worker_threads';
import type { ThreadData } from '@/server/workers/spawn';

/** Starts a thread from the file that was bundled beside this one; takes the place of `server/workers/spawn.ts`. */
function start(file: string, name: string, workerData: ThreadData): Worker {
  return new Worker(new URL(`./${file}.mjs`, import.meta.url), { workerData, name });
}

export const spawnWriter = (data: ThreadData): Worker => start('writer-worker', 'writer', data);
export const spawnBuilder = (data: ThreadData): Worker => start('builder-worker', 'builder', data);
export const spawnSearcher = (data: ThreadData): Worker => start('search-worker', 'searcher', data);
export const spawnScan = (data: ThreadData): Worker => start('scan-worker', 'scan', data);
export const spawnFeed = (data: ThreadData): Worker => start('feed-worker', 'feed', data);
