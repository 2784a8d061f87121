import autocannon from 'autocannon';
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { tuningDocument } from './collection.ts';
import { Generator } from './generator.ts';
import { keystrokes } from './keystrokes.ts';
import { percentiles, quantile, round } from './stats.ts';

export interface HttpResult {
  records: number;
  /** From the first byte sent until everything can be searched. */
  loadRecordsPerS: number;
  /** Requests a second, 16 connections: of a route that does nothing, and of searches. */
  emptyPerS: number;
  searchesPerS: number;
  shareOfEmpty: number;
  /** Of searches, alone and while another client writes one record after the other. */
  p99Ms: number;
  p99WhileWritingMs: number;
  /** One record: from the request to the answer, after which it can be searched. */
  upsertMedianMs: number;
  upsertP99Ms: number;
  /** Of the whole server process, after all this. */
  residentMb: number;
}

const PORT = 4399;
const BASE = `http://127.0.0.1:${PORT}`;
const KEY = 'bench-key';
/** Compiling goes on for some seconds after a start. */
const WARM_UP_SECONDS = 8;
const PAIRS = 5;
const PAIR_SECONDS = 4;
/** Of searches while another client writes. */
const SECONDS = 8;

/** Measures a built studio over HTTP with so many records. */
export async function measureHttp(records: number): Promise<HttpResult> {
  const dataDir = mkdtempSync(path.join(tmpdir(), 'yucca-bench-'));
  const server = startServer(dataDir);
  try {
    await healthy();
    const seconds = await load(records);
    const generator = new Generator();
    const paths = keystrokes(generator, 60).map(
      (q) => `/api/v1/collections/bench/search?facets=*&size=20&q=${encodeURIComponent(q)}`,
    );
    await run(paths, WARM_UP_SECONDS);
    // In turn, because the machine's speed changes: of each figure the middle one is told.
    const pairs: { empty: autocannon.Result; searches: autocannon.Result }[] = [];
    for (let n = 0; n < PAIRS; n++)
      pairs.push({ empty: await run(['/api/v1/health'], PAIR_SECONDS), searches: await run(paths, PAIR_SECONDS) });
    const middle = (of: (pair: (typeof pairs)[number]) => number): number => quantile(pairs.map(of).sort((a, b) => a - b), 0.5); // prettier-ignore
    const upserts = await upsertFor(4_000);
    const [writing] = await Promise.all([run(paths, SECONDS), upsertFor(SECONDS * 1000)]);
    const times = percentiles(upserts);
    return {
      records,
      loadRecordsPerS: Math.round(records / seconds),
      emptyPerS: Math.round(middle(({ empty }) => empty.requests.average)),
      searchesPerS: Math.round(middle(({ searches }) => searches.requests.average)),
      shareOfEmpty: round(middle(({ empty, searches }) => searches.requests.average / empty.requests.average)),
      p99Ms: middle(({ searches }) => searches.latency.p99),
      p99WhileWritingMs: writing.latency.p99,
      upsertMedianMs: times.medianMs,
      upsertP99Ms: times.p99Ms,
      residentMb: residentMb(server.pid!),
    };
  } finally {
    const ended = new Promise((resolve) => server.once('exit', resolve));
    server.kill();
    await ended;
    rmSync(dataDir, { recursive: true, force: true });
  }
}

function startServer(dataDir: string): ChildProcess {
  const root = process.cwd();
  return spawn(
    process.execPath,
    [path.join(root, 'node_modules/next/dist/bin/next'), 'start', '-H', '127.0.0.1', '-p', String(PORT)],
    {
      cwd: path.join(root, 'apps/studio'),
      stdio: ['ignore', 'ignore', 'inherit'],
      env: {
        ...process.env,
        NODE_ENV: 'production',
        NEXT_TELEMETRY_DISABLED: '1',
        YUCCA_DATA_DIR: dataDir,
        YUCCA_MIGRATIONS: path.join(root, 'apps/studio/drizzle'),
        YUCCA_HOST: '127.0.0.1',
        YUCCA_ADMIN_KEY: KEY,
        YUCCA_LOG: 'silent',
      },
    },
  );
}

async function healthy(): Promise<void> {
  for (let tries = 0; tries < 200; tries++) {
    const ok = await fetch(`${BASE}/api/v1/health`).then(
      (response) => response.ok,
      () => false,
    );
    if (ok) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('the studio did not start; run "npm run build" first');
}

async function call(method: string, route: string, body: BodyInit, type = 'application/json'): Promise<void> {
  const response = await fetch(`${BASE}/api/v1${route}`, {
    method,
    headers: { Authorization: `Bearer ${KEY}`, 'Content-Type': type },
    body,
    duplex: 'half',
  } as RequestInit);
  if (!response.ok) throw new Error(`${method} ${route}: ${await response.text()}`);
  await response.arrayBuffer();
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

function run(paths: string[], duration: number): Promise<autocannon.Result> {
  const requests = paths.map((one) => ({ path: one, headers: { Authorization: `Bearer ${KEY}` } }));
  return autocannon({ url: BASE, connections: 16, duration, requests });
}

/** Writes one record after the other for so long; answers how long each took until it could be searched. */
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

/** Resident memory of a process and everything in it, from the kernel. */
function residentMb(pid: number): number {
  const match = /VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
  return Math.round(Number(match?.[1] ?? 0) / 1024);
}
