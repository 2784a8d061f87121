import { buildSync } from 'esbuild';
import path from 'node:path';
import { Worker } from 'node:worker_threads';

const folder = path.join(__dirname, '../src/server/workers');

const bundles = new Map<string, string>();

/** Bundles a worker and starts it from the text: what the bundler of the application does when it builds. */
function spawn(name: string, workerData: unknown): Worker {
  let code = bundles.get(name);
  if (code === undefined) {
    const { outputFiles } = buildSync({
      entryPoints: [path.join(folder, `${name}-worker.ts`)],
      bundle: true,
      platform: 'node',
      format: 'cjs',
      external: ['better-sqlite3', 'pg-native'],
      write: false,
    });
    code = outputFiles[0]!.text;
    bundles.set(name, code);
  }
  return new Worker(code, { eval: true, workerData, name });
}

export const spawnWriter = (workerData: unknown): Worker => spawn('writer', workerData);
export const spawnBuilder = (workerData: unknown): Worker => spawn('builder', workerData);
export const spawnSearcher = (workerData: unknown): Worker => spawn('search', workerData);
export const spawnScan = (workerData: unknown): Worker => spawn('scan', workerData);
export const spawnFeed = (workerData: unknown): Worker => spawn('feed', workerData);
