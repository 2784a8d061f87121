import path from 'node:path';
import { Worker } from 'node:worker_threads';

/** Where `bundle-workers.ts` put the threads before the first test. */
const bundles = path.join(__dirname, '../../../.cache/test-workers');

/** Starts a thread from its bundle. A cache of another V8 is not taken, and costs only the time it would have saved. */
function spawn(name: string, workerData: unknown): Worker {
  const file = JSON.stringify(path.join(bundles, name));
  const code = `
    const { readFileSync } = require('node:fs');
    const { Script } = require('node:vm');
    new Script(readFileSync(${file} + '.cjs', 'utf8'), {
      filename: '${name}-worker.cjs',
      cachedData: readFileSync(${file} + '.cache'),
    }).runInThisContext()(require, { exports: {} }, {});`;
  return new Worker(code, { eval: true, workerData, name });
}

export const spawnWriter = (workerData: unknown): Worker => spawn('writer', workerData);
export const spawnBuilder = (workerData: unknown): Worker => spawn('builder', workerData);
export const spawnSearcher = (workerData: unknown): Worker => spawn('search', workerData);
export const spawnScan = (workerData: unknown): Worker => spawn('scan', workerData);
export const spawnFeed = (workerData: unknown): Worker => spawn('feed', workerData);
