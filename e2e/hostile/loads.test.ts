/**
 * Loads that nobody should send. The task ends each time, with what was stored and why it stopped; memory stays
 * bounded.
 */
import type { Collection, Task } from '@yucca/contract';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { request } from 'node:http';
import { createGzip, gzipSync } from 'node:zlib';
import { Readable } from 'node:stream';
import { Server } from '../src/server';

let server: Server;
let restingMb = 0;
beforeAll(async () => {
  server = await new Server().start();
  await server.api('POST', '/collections', { name: 'plants' });
  // Once through everything, so that what is compiled and kept anyhow is there.
  await load(parts(csv(3_000), EMPTY, 0), 'text/csv');
  await new Promise((resolve) => setTimeout(resolve, 1_000));
  restingMb = residentMb();
});
afterAll(() => server.leave());

const MB = 1024 * 1024;
const EMPTY = Buffer.alloc(0);
const csv = (rows: number): string =>
  `id,name\n${Array.from({ length: rows }, (_, i) => `${i},plant ${i}\n`).join('')}`;
const residentMb = (): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))![1]) / 1024;

/** A head, a piece so many times, and a tail. */
function* parts(head: string, piece: Buffer, times: number, tail = ''): Generator<Buffer> {
  if (head !== '') yield Buffer.from(head);
  for (let i = 0; i < times; i++) yield piece;
  if (tail !== '') yield Buffer.from(tail);
}

/** The same, packed. */
const packed = (piece: Buffer, times: number): Readable => Readable.from(parts('', piece, times)).pipe(createGzip());

interface Loaded {
  status: number;
  task: Task;
  mostMb: number;
}

/** Sends a body and watches the server's memory meanwhile. */
async function load(
  body: Iterable<Buffer> | Readable,
  type: string,
  headers: Record<string, string> = {},
): Promise<Loaded> {
  const id = randomUUID();
  let mostMb = 0;
  const watch = setInterval(() => (mostMb = Math.max(mostMb, residentMb())), 50);
  const status = await send(id, body instanceof Readable ? body : Readable.from(body), {
    'Content-Type': type,
    ...headers,
  });
  const task = await ended(id);
  clearInterval(watch);
  return { status, task, mostMb };
}

/** Returns the status; 0 when the connection ended before there was one. */
function send(id: string, body: Readable, headers: Record<string, string>): Promise<number> {
  return new Promise((resolve) => {
    const sent = request(
      `${server.base}/api/v1/collections/plants/records?wait=true&task=${id}`,
      { method: 'POST', headers: { Authorization: `Bearer ${server.adminKey}`, ...headers } },
      (response) =>
        void response
          .resume()
          .on('end', () => resolve(response.statusCode!))
          .on('error', () => resolve(0)),
    );
    sent.on('error', () => resolve(0));
    body.on('error', () => sent.destroy()).pipe(sent);
  });
}

async function ended(id: string): Promise<Task> {
  for (let tries = 0; tries < 300; tries++) {
    const response = await server.call('GET', `/tasks/${id}`);
    const { task } = response.ok ? ((await response.json()) as { task: Task }) : { task: null };
    if (task && ['done', 'failed', 'cancelled'].includes(task.state)) return task;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`task ${id} has no end`);
}

/** What was stored is there, and the server goes on. */
async function healthy(): Promise<void> {
  const { records } = await server.api<Collection>('GET', '/collections/plants');
  const found = await server.json<{ total: number }>('GET', '/collections/plants/search?size=0');
  expect(found.total).toBe(records);
}
afterEach(healthy);

const ROWS = Buffer.from('77,a plant like any other\n'.repeat(40_000));
const X = Buffer.alloc(MB, 'x');
const columns = (count: number): string => Array.from({ length: count }, (_, i) => `c${i}`).join(',');
const dotted = Array.from({ length: 30_000 }, (_, i) => `p${i}`).join('.');
const GZIP = { 'Content-Encoding': 'gzip' };

type Case = [
  name: string,
  type: string,
  body: () => Iterable<Buffer> | Readable,
  reason: RegExp,
  headers: Record<string, string>,
];
const CASES: Case[] = [
  [
    'a quote that is never closed, over 200 MB',
    'text/csv',
    () => parts('id,name\n1,"open\n', ROWS, 200),
    /is a quote not closed/,
    {},
  ],
  [
    'a million columns',
    'text/csv',
    () => parts(`id,${columns(1_000_000)}\n1,2\n`, EMPTY, 0),
    /longer than 4 MB|1000001 columns/,
    {},
  ],
  ['thirty thousand columns', 'text/csv', () => parts(`id,${columns(30_000)}\n1,2\n`, EMPTY, 0), /30001 columns/, {}],
  [
    'a row of five thousand fields',
    'text/csv',
    () => parts(`id,${columns(5_000)}\n1${',2'.repeat(5_000)}\n`, EMPTY, 0),
    /more than 1000 fields/,
    {},
  ],
  ['one line of 500 MB', 'application/x-ndjson', () => parts('', X, 500), /longer than 4 MB/, {}],
  ['a string of 300 MB in a list', 'application/json', () => parts('[{"id":"', X, 300), /not closed/, {}],
  ['an object of 300 MB', 'application/json', () => parts('{"id":"', X, 300), /is no record/, {}],
  ['zeros, packed', 'application/x-ndjson', () => packed(Buffer.alloc(MB), 600), /200 times its size/, GZIP],
  [
    'the same row for ever, packed',
    'application/x-ndjson',
    () => packed(Buffer.from(`{"id":"same","name":"${'x'.repeat(200_000)}"}\n`.repeat(5)), 300),
    /200 times its size/,
    GZIP,
  ],
  [
    'a record nested a hundred thousand levels deep',
    'application/x-ndjson',
    () => parts(`{"id":1,"a":${'['.repeat(100_000)}${']'.repeat(100_000)}}\n`, EMPTY, 0),
    /64 levels/,
    {},
  ],
];

const MOST_OVER_MB = 200;
/**
 * What is no longer used goes when the runtime finds the time; what is bounded is under the bound in one of so many
 * runs.
 */
const RUNS = 3;

test.each(CASES)('%s: the task ends with a sentence, in bounded memory', async (_, type, body, reason, headers) => {
  const overMb: number[] = [];
  do {
    const { task, mostMb } = await load(body(), type, headers);
    expect(JSON.stringify(task.errors)).toMatch(reason);
    overMb.push(Math.round(mostMb - restingMb));
  } while (overMb.at(-1)! > MOST_OVER_MB && overMb.length < RUNS);
  expect({ overMb, fits: overMb.at(-1)! <= MOST_OVER_MB }).toMatchObject({ fits: true });
});

test('a name of thirty thousand parts is a name', async () => {
  const { task } = await load(parts(`id,${dotted}\nodd,1\n`, EMPTY, 0), 'text/csv');
  expect(task).toMatchObject({ state: 'done', done: 1 });
  expect((await server.call('DELETE', '/collections/plants/records/odd')).status).toBe(204);
});

test.each<[string, string, Buffer, Record<string, string>, RegExp]>([
  ['a wrong checksum', 'text/csv', damaged(gzipSync(csv(2_000)), -6), GZIP, /cannot be unpacked/],
  ['a packed body cut in the middle', 'text/csv', gzipSync(csv(2_000)).subarray(0, 5_000), GZIP, /cannot be unpacked/],
  ['something that says it is packed', 'text/csv', Buffer.from(csv(10)), GZIP, /cannot be unpacked/],
  ['garbage', 'application/json', Buffer.from([0, 255, 254, 1, 2, 3, 0, 0]), {}, /neither a JSON array/],
  ['a list that stops', 'application/json', Buffer.from('[{"id":"a"},{"id":'), {}, /not closed/],
  ['nothing', 'text/csv', Buffer.alloc(0), {}, /no records/],
])('%s', async (_, type, body, headers, reason) => {
  const { task, status } = await load(parts('', body, 1), type, headers);
  expect([status, task.state]).toEqual([200, 'failed']);
  expect(JSON.stringify(task.errors)).toMatch(reason);
});

function damaged(bytes: Buffer, at: number): Buffer {
  bytes[bytes.length + at]! ^= 0xff;
  return bytes;
}

/** A load that sends rows until it is told to stop, or breaks off. */
function endless(id: string, every = 5): { stop: () => void; over: Promise<number> } {
  let n = 0;
  let stopped = false;
  const body = new Readable({
    read() {
      setTimeout(() => {
        if (stopped) return void this.destroy(new Error('on purpose'));
        this.push(
          `${Array.from({ length: 50 }, () => JSON.stringify({ id: `e${id.slice(0, 4)}-${n++}`, name: 'endless' })).join('\n')}\n`,
        );
      }, every);
    },
  });
  return { stop: () => (stopped = true), over: send(id, body, { 'Content-Type': 'application/x-ndjson' }) };
}

async function untilStored(id: string, rows: number): Promise<void> {
  for (;;) {
    const response = await server.call('GET', `/tasks/${id}`);
    if (response.ok && ((await response.json()) as { task: Task }).task.done >= rows) return;
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

test('cancelled half-way: what was stored stays, and the task says so', async () => {
  const id = randomUUID();
  const { stop, over } = endless(id);
  await untilStored(id, 1_000);
  expect((await server.call('DELETE', `/tasks/${id}`)).status).toBe(202);
  const task = await ended(id);
  expect(task.state).toBe('cancelled');
  expect(task.done).toBeGreaterThanOrEqual(1_000);
  stop();
  await over;
});

test('a sender that vanishes: the task ends and names it', async () => {
  const id = randomUUID();
  const { stop, over } = endless(id);
  await untilStored(id, 500);
  stop();
  await over;
  const task = await ended(id);
  expect(task.state).toBe('failed');
  expect(JSON.stringify(task.errors)).toContain('connection ended');
});

test('the collection is deleted while a load into it runs', async () => {
  await server.api('POST', '/collections', { name: 'brief' });
  const id = randomUUID();
  const body = new Readable({
    read() {
      setTimeout(() => this.push(`{"id":"${Math.random()}"}\n`.repeat(20)), 5);
    },
  });
  const sent = request(
    `${server.base}/api/v1/collections/brief/records?wait=true&task=${id}`,
    { method: 'POST', headers: { Authorization: `Bearer ${server.adminKey}`, 'Content-Type': 'application/x-ndjson' } },
    (response) => response.resume(),
  );
  sent.on('error', () => {});
  body.pipe(sent);
  await untilStored(id, 10);
  expect((await server.call('DELETE', '/collections/brief')).status).toBe(204);
  const task = await ended(id);
  expect(['failed', 'cancelled']).toContain(task.state);
  body.destroy();
  sent.destroy();
  await server.api('POST', '/collections', { name: 'brief' });
  expect((await server.api<Collection>('GET', '/collections/brief')).records).toBe(0);
  await server.api('DELETE', '/collections/brief');
});

test('loads at once, some of them broken, some cancelled: each has its own end', async () => {
  const good = Array.from({ length: 4 }, (_, i) =>
    load(
      parts(`id,name\n${Array.from({ length: 500 }, (_, n) => `g${i}-${n},good`).join('\n')}\n`, EMPTY, 0),
      'text/csv',
    ),
  );
  const bad = [
    load(parts('[{"id":', EMPTY, 0), 'application/json'),
    load(parts('', damaged(gzipSync(csv(500)), -5), 1), 'text/csv', GZIP),
  ];
  const id = randomUUID();
  const { stop, over } = endless(id);
  await untilStored(id, 100);
  await server.call('DELETE', `/tasks/${id}`);
  stop();
  for (const { task } of await Promise.all(good)) expect(task).toMatchObject({ state: 'done', done: 500 });
  for (const { task } of await Promise.all(bad)) expect(task.state).toBe('failed');
  expect((await ended(id)).state).toBe('cancelled');
  await over;
});
