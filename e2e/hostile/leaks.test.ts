/** What is asked for and given up, thousands of times: nothing stays open, kept, or written. */
import { mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { request } from 'node:http';
import path from 'node:path';
import { loadPlants, Server, somePlants } from '../src/server';

/** Five thousand of each in a long run. */
const ROUNDS = Number(process.env.YUCCA_LEAK_ROUNDS ?? 150);
/** Rounds after which everything that is kept anyhow is there: compiled code, caches, connections. */
const WARM = Math.max(30, Math.round(ROUNDS / 5));
jest.setTimeout(900_000 + ROUNDS * 1_600);
let server: Server;
beforeAll(async () => {
  server = await new Server().start();
  // Fewer stay in memory, and have no files.
  await loadPlants(server, 'plants', somePlants(1_500));
  mkdirSync(path.join(server.dataDir, 'files'), { recursive: true });
  writeFileSync(
    path.join(server.dataDir, 'files', 'leaf.svg'),
    `<svg xmlns="http://www.w3.org/2000/svg">${' '.repeat(200_000)}</svg>`,
  );
});
afterAll(() => server.leave());

const fileCount = (folder: string): number =>
  readdirSync(path.join(server.dataDir, folder), { recursive: true }).length;

interface Reading {
  open: number;
  segmentFiles: number;
  walMb: number;
  residentMb: number;
}

async function look(): Promise<Reading> {
  // What was given up a moment ago is put away first.
  await new Promise((resolve) => setTimeout(resolve, 2_000));
  const status = readFileSync(`/proc/${server.pid}/status`, 'utf8');
  const wal = statSync(path.join(server.dataDir, 'yucca.sqlite-wal'), { throwIfNoEntry: false });
  return {
    open: readdirSync(`/proc/${server.pid}/fd`).length,
    segmentFiles: fileCount('segments'),
    walMb: Math.round((wal?.size ?? 0) / 1024 / 1024),
    residentMb: Math.round(Number(/VmRSS:\s+(\d+)/.exec(status)![1]) / 1024),
  };
}

const read = async (response: Promise<Response>): Promise<number> => {
  const answer = await response;
  await answer.arrayBuffer();
  return answer.status;
};

/** Reads the beginning of an answer and hangs up. */
const abort = (route: string): Promise<void> =>
  new Promise((resolve) => {
    const headers = { Authorization: `Bearer ${server.adminKey}` };
    const sent = request(server.base + route, { headers }, (response) => response.once('data', () => sent.destroy()));
    sent.on('close', () => resolve()).on('error', () => {}).end(); // prettier-ignore
  });

/** Begins a load and hangs up in the middle of a row. */
const vanish = (): Promise<void> =>
  new Promise((resolve) => {
    const sent = request(`${server.base}/api/v1/collections/plants/records`, {
      method: 'POST',
      headers: { Authorization: `Bearer ${server.adminKey}`, 'Content-Type': 'application/x-ndjson' },
    });
    sent.on('close', () => resolve()).on('error', () => {});
    sent.write('{"id":"gone","name":"half of a ro', () => setTimeout(() => sent.destroy(), 1));
  });

async function round(n: number): Promise<void> {
  const headers = { Authorization: `Bearer ${server.adminKey}` };
  const head = (route: string): Promise<Response> => fetch(server.base + route, { method: 'HEAD', headers });
  await Promise.all([
    head('/files/leaf.svg'),
    head('/api/v1/collections/plants/records?format=ndjson'),
    abort('/files/leaf.svg'),
    abort('/api/v1/collections/plants/records?format=ndjson'),
    abort('/api/v1/collections/plants/search?size=200'),
    vanish(),
  ]);
  const statuses = await Promise.all([
    read(server.call('GET', `/collections/plants/search?q=rose+${n % 50}`)),
    read(server.call('PUT', '/collections/plants/records/again', { name: `Rose ${n}` })),
    read(
      fetch(`${server.base}/api/v1/session`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ password: 'x'.repeat(100_000) }),
      }),
    ),
  ]);
  expect(statuses.slice(0, 2)).toEqual([200, expect.any(Number)]);
  const name = `short-lived-${n}`;
  expect(await read(server.call('POST', '/collections', { name }))).toBe(201);
  expect(await read(server.call('POST', `/collections/${name}/records?wait=true`, somePlants(3)))).toBeLessThan(300);
  expect(await read(server.call('DELETE', `/collections/${name}`))).toBeLessThan(300);
}

/** What leaks grows with every lot of rounds; what is only warmed, or not collected yet, stops growing after some. */
const LOTS = 4;
const grown = (before: Reading, after: Reading, of: keyof Reading): number => after[of] - before[of];
const flatFrom = (before: Reading, after: Reading): boolean =>
  grown(before, after, 'open') <= 5 &&
  grown(before, after, 'segmentFiles') <= 3 &&
  after.walMb < 100 &&
  grown(before, after, 'residentMb') <= 30 + ROUNDS / 50;

test(`${ROUNDS} of each: HEAD, aborted exports, searches and loads, sign-ins too large, collections made and deleted`, async () => {
  for (let n = 0; n < WARM; n++) await round(n);
  const readings = [await look()];
  let flat = false;
  for (let lot = 0; lot < LOTS && !flat; lot++) {
    for (let n = 0; n < ROUNDS; n++) await round(WARM + lot * ROUNDS + n);
    readings.push(await look());
    flat = flatFrom(readings.at(-2)!, readings.at(-1)!);
  }
  expect({ flat, readings }).toEqual({ flat: true, readings });
  const { items } = await server.json<{ items: unknown[] }>('GET', '/collections');
  expect(items).toHaveLength(1);
});
