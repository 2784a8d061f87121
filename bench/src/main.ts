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
 *   npm run bench -- --insights 1000000  what visitors' searches cost, at so many a day
 *   npm run bench -- --compare A B    two files of results, with what of the second is of the first
 *   npm run bench -- --pair ../other 100000   the engine of another checkout and this one, asked in turn; named behind
 *                                     it, only some sets: bench, real, spaceless
 *   npm run bench -- --door ../other 200000   their built studios over HTTP, asked in turn
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { cpus, totalmem } from 'node:os';
import path from 'node:path';
import { isMainThread, parentPort, workerData } from 'node:worker_threads';
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

/* eslint-disable no-console -- the tables are what the command is for */

const [kind, ...rest] = process.argv.slice(2);
const given = kind?.startsWith('--') ? rest : process.argv.slice(2);

if (!isMainThread) {
  parentPort!.postMessage(answerHostile(workerData as HostileJob));
} else if (kind === '--compare') {
  console.table(
    compareResults(...(given.map((file) => JSON.parse(readFileSync(file, 'utf8')) as Results) as [Results, Results])),
  );
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
  const bars = compare(engine, overHttp);
  console.table(bars);
  const machine = {
    cpu: cpus()[0]?.model,
    cores: cpus().length,
    memoryGb: Math.round(totalmem() / 1e9),
    node: process.version,
  };
  const measured = new Date().toISOString().slice(0, 10);
  const file = path.join(process.cwd(), 'bench/results.json');
  writeFileSync(
    file,
    `${JSON.stringify({ measured, machine, bars, engine, real, spaceless, offline, load, insights, feeds, http: overHttp }, null, 2)}\n`,
  );
}

type Results = Record<string, Record<string, number>[]>;

/** Every figure that two results have both, by the size it was measured at. */
function compareResults(before: Results, after: Results): object[] {
  return ['engine', 'real', 'spaceless', 'offline', 'load', 'insights', 'feeds', 'http'].flatMap((part) =>
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

interface Bar {
  what: string;
  bar: number;
  measured: number;
  holds: boolean;
}

/** The bars of the design, and whether they hold. */
function compare([small, tenfold, middle, large]: EngineResult[], [, http200k, http1M]: HttpResult[]): Bar[] {
  const most = (what: string, bar: number, measured: number): Bar => ({ what, bar, measured, holds: measured <= bar });
  const least = (what: string, bar: number, measured: number): Bar => ({ what, bar, measured, holds: measured >= bar });
  return [
    most('200 k: median ms a keystroke', 1.5, middle!.medianMs),
    most('200 k: p95 ms', 6, middle!.p95Ms),
    most('200 k: p99 ms', 15, middle!.p99Ms),
    least('200 k: times faster than a scan', 20, middle!.timesFasterThanScan),
    most('10 times the records, times the median', 5, round(tenfold!.medianMs / small!.medianMs)),
    most('again 10 times the records, times the median', 5, round(large!.medianMs / tenfold!.medianMs)),
    most('1 M: p95 ms', 25, large!.p95Ms),
    most('1 M: resident MB of the server', 2_500, http1M!.residentMb),
    least('build, records a second', 50_000, middle!.buildRecordsPerS),
    most('200 k: open, ms', 500, middle!.openMs),
    most('index to searchable and facet text', 1.2, middle!.indexToText),
    most('200 k: upsert ms', 50, http200k!.upsertMedianMs),
    most('16 connections: main thread ms a search', 0.35, http200k!.mainMsSearch),
    most('16 connections: empty route, times a bare node:http', 2, round(http200k!.mainMsEmpty / http200k!.bareMs)),
    most('16 connections: process ms a search besides the engine', 0.45, http200k!.besidesEngineMs),
    most('200 k: the most hostile request, ms', 50, middle!.hostileMs),
    most('1 M: the most hostile request, ms', 50, large!.hostileMs),
  ];
}
