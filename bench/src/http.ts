import autocannon from 'autocannon';
import { spawn, type ChildProcess } from 'node:child_process';
import { cpus } from 'node:os';
import { Readable } from 'node:stream';
import { mainThreadMs, processMs, threadsMs } from './cpu.ts';
import { tuningDocument } from './collection.ts';
import { Generator } from './generator.ts';
import { keystrokes } from './keystrokes.ts';
import { BASE, call, KEY, residentMb, withServer } from './server.ts';
import { percentiles, quantile, round } from './stats.ts';

export interface HttpResult {
  records: number;
  /** From the first byte sent until everything can be searched. */
  loadRecordsPerS: number;
  /** Requests a second, 16 connections: of a route that does nothing, and of searches. */
  emptyPerS: number;
  searchesPerS: number;
  shareOfEmpty: number;
  /**
   * CPU of the main thread, in milliseconds a request: of a route that does nothing, of searches; and of a bare
   * `node:http`.
   */
  mainMsEmpty: number;
  mainMsSearch: number;
  bareMs: number;
  /** Of the whole process, a search, and what of it is not that of the threads that search. */
  processMsSearch: number;
  besidesSearchersMs: number;
  /** Of searches, alone and while another client writes one record after the other. */
  p99Ms: number;
  p99WhileWritingMs: number;
  /** One record: from the request to the answer, after which it can be searched. */
  upsertMedianMs: number;
  upsertP99Ms: number;
  /** Of the whole server process, after all this. */
  residentMb: number;
}

/** Compiling goes on for some seconds after a start. */
const WARM_UP_SECONDS = 8;
const PAIRS = 5;
const PAIR_SECONDS = 4;
/** Of searches while another client writes. */
const SECONDS = 8;

/** Measures a built studio over HTTP with so many records. */
export const measureHttp = (records: number): Promise<HttpResult> =>
  withServer(async (server) => {
    const seconds = await load(records);
    const generator = new Generator();
    const paths = keystrokes(generator, 60).map(
      (q) => `/api/v1/collections/bench/search?facets=*&size=20&q=${encodeURIComponent(q)}`,
    );
    await run(paths, WARM_UP_SECONDS);
    // In turn, because the machine's speed changes: of each figure the middle one is told.
    const bare = await startBare();
    const pairs: { empty: Measured; searches: Measured; bare: Measured }[] = [];
    for (let n = 0; n < PAIRS; n++)
      pairs.push({
        empty: await measured(server.pid!, () => run(['/api/v1/health'], PAIR_SECONDS)),
        searches: await measured(server.pid!, () => run(paths, PAIR_SECONDS)),
        bare: await measured(bare.pid!, () => run(['/'], PAIR_SECONDS, BARE)),
      });
    bare.kill();
    const middle = (of: (pair: (typeof pairs)[number]) => number): number => quantile(pairs.map(of).sort((a, b) => a - b), 0.5); // prettier-ignore
    const processMsSearch = middle(({ searches }) => searches.processMs);
    const upserts = await upsertFor(4_000);
    const [writing] = await Promise.all([run(paths, SECONDS), upsertFor(SECONDS * 1000)]);
    const times = percentiles(upserts);
    return {
      records,
      loadRecordsPerS: Math.round(records / seconds),
      emptyPerS: Math.round(middle(({ empty }) => empty.result.requests.average)),
      searchesPerS: Math.round(middle(({ searches }) => searches.result.requests.average)),
      shareOfEmpty: round(
        middle(({ empty, searches }) => searches.result.requests.average / empty.result.requests.average),
      ),
      mainMsEmpty: round(middle(({ empty }) => empty.mainMs)),
      mainMsSearch: round(middle(({ searches }) => searches.mainMs)),
      bareMs: round(middle(({ bare: alone }) => alone.mainMs)),
      processMsSearch: round(processMsSearch),
      besidesSearchersMs: round(middle(({ searches }) => searches.processMs - searches.searchersMs)),
      p99Ms: middle(({ searches }) => searches.result.latency.p99),
      p99WhileWritingMs: writing.latency.p99,
      upsertMedianMs: times.medianMs,
      upsertP99Ms: times.p99Ms,
      residentMb: residentMb(server.pid!),
    };
  });

interface Measured {
  result: autocannon.Result;
  /** CPU milliseconds a request: of the thread that takes requests, and of all threads. */
  mainMs: number;
  processMs: number;
  /** Of the threads that search, which are the busiest but for the first. */
  searchersMs: number;
}

async function measured(pid: number, load: () => Promise<autocannon.Result>): Promise<Measured> {
  const read = () => ({ main: mainThreadMs(pid), all: processMs(pid), threads: threadsMs(pid) });
  const before = read();
  const result = await load();
  const after = read();
  const { total } = result.requests;
  const others = [...after.threads]
    .filter(([id]) => id !== String(pid))
    .map(([id, ms]) => ms - (before.threads.get(id) ?? 0));
  const searchers = others.sort((a, b) => b - a).slice(0, SEARCHERS);
  return {
    result,
    mainMs: (after.main - before.main) / total,
    processMs: (after.all - before.all) / total,
    searchersMs: searchers.reduce((sum, ms) => sum + ms, 0) / total,
  };
}

/** A thread a core but for one, and two at the least (apps/studio/src/server/workers/threads.ts). */
const SEARCHERS = Math.max(2, cpus().length - 1);

const BARE_PORT = 4398;
const BARE = `http://127.0.0.1:${BARE_PORT}`;

/** A server that does nothing but answer: what HTTP costs by itself here. */
async function startBare(): Promise<ChildProcess> {
  const body = '{"status":"ok","version":"0.1.0","collections":1,"uptimeS":10}';
  const source = `require('node:http').createServer((request, response) => {
    response.writeHead(200, { 'content-type': 'application/json', 'content-length': ${body.length} }).end('${body}');
  }).listen(${BARE_PORT}, '127.0.0.1')`;
  const child = spawn(process.execPath, ['-e', source], { stdio: 'ignore' });
  for (let tries = 0; tries < 100; tries++) {
    if (await fetch(BARE).then(({ ok }) => ok, () => false)) return child; // prettier-ignore
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('the bare server did not start');
}

async function load(records: number): Promise<number> {
  await call('POST', '/collections', JSON.stringify({ name: 'bench', key: 'id' }));
  await call('PUT', '/collections/bench/tuning/draft', JSON.stringify(tuningDocument));
  await call('POST', '/collections/bench/tuning/publish', '{}');
  const generator = new Generator();
  async function* lines(): AsyncGenerator<Buffer> {
    for (let id = 1; id <= records;) {
      let text = '';
      for (let n = 0; n < 500 && id <= records; n++) text += `${JSON.stringify(generator.record(id++))}\n`;
      yield Buffer.from(text);
    }
  }
  const start = performance.now();
  const body = Readable.toWeb(Readable.from(lines())) as unknown as BodyInit;
  await call('POST', '/collections/bench/records?wait=true', body, 'application/x-ndjson');
  return (performance.now() - start) / 1000;
}

function run(paths: string[], duration: number, url = BASE): Promise<autocannon.Result> {
  const requests = paths.map((one) => ({ path: one, headers: { Authorization: `Bearer ${KEY}` } }));
  return autocannon({ url, connections: 16, duration, requests });
}

/** Writes one record after the other for so long; returns how long each took until it could be searched. */
async function upsertFor(milliseconds: number): Promise<number[]> {
  const generator = new Generator();
  const times: number[] = [];
  const end = performance.now() + milliseconds;
  for (let n = 0; performance.now() < end; n++) {
    const start = performance.now();
    const body = JSON.stringify({ ...generator.record(1), id: `new-${n % 50}`, title: `Changed ${n}` });
    await call('PUT', `/collections/bench/records/new-${n % 50}`, body);
    times.push(performance.now() - start);
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  return times;
}
