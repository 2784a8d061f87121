/**
 * The benchmark: the engine in this process, then a built studio over HTTP, at several sizes.
 *
 *   npm run bench                     10 k to 1 M records, and the bars they are held to; writes bench/results.json
 *   npm run bench -- 1000000          other sizes, engine only
 *   npm run bench -- --http 1000000   other sizes, over HTTP only
 */
import { writeFileSync } from 'node:fs';
import { cpus, totalmem } from 'node:os';
import path from 'node:path';
import { isMainThread, parentPort, workerData } from 'node:worker_threads';
import { measureEngine, type EngineResult } from './engine.ts';
import { answerHostile, type HostileJob } from './hostile.ts';
import { measureHttp, type HttpResult } from './http.ts';
import { round } from './stats.ts';

/* eslint-disable no-console -- the tables are what the command is for */

const http = process.argv.includes('--http');
const sizes = process.argv
  .slice(2)
  .filter((one) => one !== '--http')
  .map(Number);

if (!isMainThread) {
  parentPort!.postMessage(answerHostile(workerData as HostileJob));
} else if (sizes.length > 0) {
  for (const size of sizes) console.table([await (http ? measureHttp(size) : measureEngine(size))]);
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
  writeFileSync(file, `${JSON.stringify({ measured, machine, engine, http: overHttp, bars }, null, 2)}\n`);
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
