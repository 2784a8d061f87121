/**
 * The benchmark: the engine in this process, then a built studio over HTTP, at several sizes.
 *
 *   npm run bench                     10 k to 1 M records, and the bars they are held to; writes bench/results.json
 *   npm run bench -- 1000000          other sizes, engine only
 *   npm run bench -- --http 1000000   other sizes, over HTTP only
 *   npm run bench -- --real 200000    real-shaped records, engine only
 *   npm run bench -- --spaceless 200000  the same in a script without spaces
 *   npm run bench -- --offline 50000  folders without a server, engine only
 *   npm run bench -- --load 200000    real-shaped records from the request until they can be searched
 *   npm run bench -- --feeds 200000   how soon a change of a source can be searched, at 200 events a second
 *   npm run bench -- --mixed 200000 30   searches, writes, tuning and publishing side by side for so many minutes
 *   npm run bench -- --waits 200000   completions, and drafts and writes while an index is being built, over HTTP
 *   npm run bench -- --insights 1000000  what visitors' searches cost, at so many a day
 *   npm run bench -- --bars FILE      results held to the bars once more; writes them into the file
 *   npm run bench -- --compare A B    two files of results, with what of the second is of the first
 *   npm run bench -- --pair ../other 100000   the engine of another checkout and this one, asked in turn; named behind
 *                                     it, only some sets: bench, real, spaceless
 *   npm run bench -- --door ../other 200000   their built studios over HTTP, asked in turn
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { cpus, totalmem } from 'node:os';
import path from 'node:path';
import { isMainThread, parentPort, workerData } from 'node:worker_threads';
import { barsOf, PARTS, type Results } from './bars.ts';
import { measureDoor } from './door.ts';
import { measureEngine, type EngineResult } from './engine.ts';
import { answerHostile, type HostileJob } from './hostile.ts';
import { measureFeeds, type FeedsResult } from './feeds.ts';
import { measureHttp, type HttpResult } from './http.ts';
import { measureInsights, type InsightsResult } from './insights.ts';
import { measureLoad, type LoadResult } from './load.ts';
import { measureMixed } from './mixed.ts';
import { measureOffline, type OfflineResult } from './offline.ts';
import { measurePair } from './pair.ts';
import { measureReal, measureSpaceless, type RealResult } from './real.ts';
import { round } from './stats.ts';
import { measureWaits, type WaitsResult } from './waits.ts';

/* eslint-disable no-console -- the tables are what the command is for */

const [kind, ...rest] = process.argv.slice(2);
const given = kind?.startsWith('--') ? rest : process.argv.slice(2);

if (!isMainThread) {
  parentPort!.postMessage(answerHostile(workerData as HostileJob));
} else if (kind === '--compare') {
  console.table(
    compareResults(...(given.map((file) => JSON.parse(readFileSync(file, 'utf8')) as Figures) as [Figures, Figures])),
  );
} else if (kind === '--bars') {
  const results = JSON.parse(readFileSync(given[0]!, 'utf8')) as Results;
  writeResults(given[0]!, results);
} else if (kind === '--pair') {
  console.table(await measurePair(path.resolve(given[0]!), Number(given[1] ?? 100_000), given.slice(2)));
} else if (kind === '--mixed') {
  const { longest, ...figures } = await measureMixed(Number(given[0] ?? 200_000), Number(given[1] ?? 30));
  console.table(figures);
  console.table(longest);
} else if (kind === '--door') {
  console.table(await measureDoor(path.resolve(given[0]!), Number(given[1] ?? 200_000)));
} else if (given.length > 0) {
  const others = {
    '--http': measureHttp,
    '--real': measureReal,
    '--spaceless': measureSpaceless,
    '--offline': measureOffline,
    '--load': measureLoad,
    '--feeds': measureFeeds,
    '--waits': measureWaits,
    '--insights': measureInsights,
  };
  const measure = kind !== undefined && kind in others ? others[kind as keyof typeof others] : measureEngine;
  for (const size of given) console.table([await measure(Number(size))]);
} else {
  await measureAll();
}

async function measureAll(): Promise<void> {
  const engine: EngineResult[] = [];
  for (const size of [10_000, 100_000, 200_000, 1_000_000]) {
    engine.push(await measureEngine(size));
    console.table(engine.slice(-1));
  }
  const overHttp: HttpResult[] = [];
  for (const size of [10_000, 200_000, 1_000_000]) {
    overHttp.push(await measureHttp(size));
    console.table(overHttp.slice(-1));
  }
  const real: RealResult[] = [];
  for (const size of [10_000, 200_000, 1_000_000]) {
    real.push(measureReal(size));
    console.table(real.slice(-1));
  }
  const spaceless: RealResult[] = [measureSpaceless(200_000)];
  console.table(spaceless);
  const offline: OfflineResult[] = [];
  for (const size of [3_000, 50_000]) {
    offline.push(measureOffline(size));
    console.table(offline.slice(-1));
  }
  const load: LoadResult[] = [await measureLoad(200_000)];
  console.table(load);
  const insights: InsightsResult[] = [measureInsights(1_000_000)];
  console.table(insights);
  const feeds: FeedsResult[] = [await measureFeeds(200_000)];
  console.table(feeds);
  const waits: WaitsResult[] = [await measureWaits(200_000)];
  console.table(waits);
  const machine = {
    cpu: cpus()[0]?.model,
    cores: cpus().length,
    memoryGb: Math.round(totalmem() / 1e9),
    node: process.version,
  };
  const measured = new Date().toISOString().slice(0, 10);
  const parts = { engine, real, spaceless, offline, load, insights, feeds, waits, http: overHttp };
  writeResults(path.join(process.cwd(), 'bench/results.json'), { measured, machine, ...parts });
}

/** Holds results to the bars, shows those, and writes both. */
function writeResults(file: string, results: Results): void {
  const bars = barsOf(results);
  console.table(bars);
  const { measured, machine, ...parts } = results;
  writeFileSync(file, `${JSON.stringify({ measured, machine, bars, ...parts }, null, 2)}\n`);
}

type Figures = Record<string, Record<string, number>[]>;

/** Every figure that two results have both, by the size it was measured at. */
function compareResults(before: Figures, after: Figures): object[] {
  return PARTS.flatMap((part) =>
    (after[part] ?? []).flatMap((now) => {
      const was = before[part]?.find(({ records }) => records === now.records);
      if (was === undefined) return [];
      const names = Object.keys(now).filter((name) => name !== 'records' && typeof was[name] === 'number');
      return names.map((name) => ({
        what: `${part} ${now.records}: ${name}`,
        before: was[name],
        after: now[name],
        ratio: round(now[name]! / was[name]!),
      }));
    }),
  );
}
