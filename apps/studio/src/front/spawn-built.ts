import { Worker } from 'node:worker_threads';
import type { ThreadData } from '@/server/workers/spawn';

/** Starts a thread from the file that was bundled beside this one; takes the place of `server/workers/spawn.ts`. */
function start(file: string, name: string, workerData: ThreadData): Worker {
  return new Worker(new URL(`./${file}.mjs`, import.meta.url), { workerData, name });
}

export const spawnKeeper = (data: ThreadData): Worker => start('keeper-worker', 'keeper', data);
export const spawnBuilder = (data: ThreadData): Worker => start('builder-worker', 'builder', data);
export const spawnSearcher = (data: ThreadData): Worker => start('search-worker', 'searcher', data);
export const spawnReader = (data: ThreadData): Worker => start('reader-worker', 'reader', data);
