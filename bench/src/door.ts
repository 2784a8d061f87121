import autocannon from 'autocannon';
import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { mainThreadMs } from './cpu.ts';
import type { PairResult } from './pair.ts';
import { PLAIN_TUNING, RealRecords } from './real-records.ts';
import { KEY, serverEnvironment } from './server.ts';
import { quantile, round } from './stats.ts';

/** Compiling goes on for some seconds after a start. */
const WARM_UP_SECONDS = 8;
const ROUNDS = 5;
const ROUND_SECONDS = 4;
const CONNECTIONS = 16;
const FIRST_PORT = 4601;
const LINES_AT_ONCE = 500;

interface Door {
  child: ChildProcess;
  base: string;
  dataDir: string;
  figures: { mainMs: number; perS: number; p99Ms: number }[];
}

/**
 * The built studio of another checkout and this one over HTTP, over the same real-shaped records, asked the same
 * keystrokes in turn: what a search costs the main thread, and how many there are a second. The other one may be from
 * before the front server.
 */
export async function measureDoor(checkout: string, records: number): Promise<PairResult[]> {
  const source = new RealRecords();
  const rows = Array.from({ length: records }, (_, i) => JSON.stringify(source.record(i)));
  const paths = source
    .keystrokes(60)
    .map((q) => `/api/v1/collections/bench/search?facets=*&size=20&q=${encodeURIComponent(q)}`);
  const doors: Door[] = [];
  try {
    for (const [i, root] of [checkout, process.cwd()].entries()) doors.push(await opened(root, FIRST_PORT + i, rows));
    for (const door of doors) await ask(door, paths, WARM_UP_SECONDS);
    for (let turn = 0; turn < ROUNDS; turn++)
      for (const door of doors) {
        const before = mainThreadMs(door.child.pid!);
        const { requests, latency } = await ask(door, paths, ROUND_SECONDS);
        const mainMs = (mainThreadMs(door.child.pid!) - before) / requests.total;
        door.figures.push({ mainMs, perS: requests.average, p99Ms: latency.p99 });
      }
  } finally {
    for (const door of doors) await close(door);
  }
  return (['mainMs', 'perS', 'p99Ms'] as const).map((what) => {
    // Of each figure the middle one is told: the machine's speed changes.
    const [before, after] = doors.map(({ figures }) => quantile(figures.map((one) => one[what]).sort((a, b) => a - b), 0.5)) as [number, number]; // prettier-ignore
    return { what, before: round(before), after: round(after), ratio: round(after / before, 3) };
  });
}

async function opened(root: string, port: number, rows: readonly string[]): Promise<Door> {
  const dataDir = mkdtempSync(path.join(tmpdir(), 'yucca-bench-'));
  const front = path.join(root, 'apps/studio/.next/front/main.mjs');
  const command = existsSync(front)
    ? [front]
    : [path.join(root, 'node_modules/next/dist/bin/next'), 'start', '-H', '127.0.0.1', '-p', String(port)];
  const child = spawn(process.execPath, command, {
    cwd: path.join(root, 'apps/studio'),
    stdio: ['ignore', 'ignore', 'inherit'],
    env: serverEnvironment(root, dataDir, port),
  });
  const door: Door = { child, base: `http://127.0.0.1:${port}`, dataDir, figures: [] };
  const call = async (method: string, where: string, body: BodyInit, type = 'application/json'): Promise<void> => {
    const headers = { Authorization: `Bearer ${KEY}`, 'Content-Type': type };
    // A stream needs this; the library's types do not know it.
    const response = await fetch(`${door.base}/api/v1${where}`, {
      method,
      body,
      headers,
      duplex: 'half',
    } as RequestInit);
    if (!response.ok) throw new Error(`${method} ${where}: ${await response.text()}`);
  };
  try {
    for (let tries = 0; ; tries++) {
      if (await fetch(`${door.base}/api/v1/health`).then(({ ok }) => ok, () => false)) break; // prettier-ignore
      if (tries === 300) throw new Error(`The studio of ${root} did not start; run "npm run build" there first`);
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    await call('POST', '/collections', JSON.stringify({ name: 'bench', key: 'id' }));
    await call('PUT', '/collections/bench/tuning/draft', JSON.stringify(PLAIN_TUNING));
    await call('POST', '/collections/bench/tuning/publish', '{}');
    function* pieces(): Generator<Buffer> {
      for (let at = 0; at < rows.length; at += LINES_AT_ONCE)
        yield Buffer.from(`${rows.slice(at, at + LINES_AT_ONCE).join('\n')}\n`);
    }
    const body = Readable.toWeb(Readable.from(pieces())) as unknown as BodyInit;
    await call('POST', '/collections/bench/records?wait=true', body, 'application/x-ndjson');
    return door;
  } catch (error) {
    await close(door);
    throw error;
  }
}

function ask({ base }: Door, paths: readonly string[], duration: number): Promise<autocannon.Result> {
  const requests = paths.map((one) => ({ path: one, headers: { Authorization: `Bearer ${KEY}` } }));
  return autocannon({ url: base, connections: CONNECTIONS, duration, requests });
}

async function close({ child, dataDir }: Door): Promise<void> {
  const ended = new Promise((resolve) => child.once('exit', resolve));
  child.kill();
  await ended;
  rmSync(dataDir, { recursive: true, force: true });
}
