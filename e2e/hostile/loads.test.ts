/** Loads that nobody should send. The task ends each time, with what was stored and why it stopped; memory stays bounded. */
import type { Collection, Task } from '@yucca/contract';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { request } from 'node:http';
import { createGzip, gzipSync } from 'node:zlib';
import { Readable } from 'node:stream';
import { Server, somePlants } from '../src/server';

jest.setTimeout(300_000);
let server: Server;
let restingMb = 0;
beforeAll(async () => {
  server = await new Server().start();
  await server.api('POST', '/collections', { name: 'plants' });
  // Once through everything, so that what is compiled and kept anyhow is there.
  await load(pieces(Buffer.from(csv(3_000)), 1), 'text/csv');
  await new Promise((resolve) => setTimeout(resolve, 1_000));
  restingMb = residentMb();
});
afterAll(() => server.leave());

const MB = 1024 * 1024;
const csv = (rows: number): string =>
  `id,name\n${Array.from({ length: rows }, (_, i) => `${i},plant ${i}\n`).join('')}`;
const residentMb = (): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))![1]) / 1024;

function* pieces(piece: Buffer, times: number, end: Buffer = Buffer.alloc(0)): Generator<Buffer> {
  for (let i = 0; i < times; i++) yield piece;
  if (end.length > 0) yield end;
}

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

/** Answers the status; 0 when the connection ended before there was one. */
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

const line = (text: string): Buffer => Buffer.from(text);
const rows = line('77,a plant like any other\n'.repeat(40_000));

describe('memory', () => {
  test.each<[string, () => Iterable<Buffer> | Readable, string, Record<string, string>, RegExp]>([
    [
      'a quote that is never closed, over 200 MB',
      () => pieces(rows, 200, line('end')).toArrayLike(line('id,name\n1,"open\n')),
      'text/csv',
      {},
      /quote/,
    ],
    [
      'a million columns',
      () => pieces(line(`id,${'c,'.repeat(1_000_000)}\n`), 1, line('1,2\n')),
      'text/csv',
      {},
      /4 MB|columns/,
    ],
    [
      'thirty thousand columns',
      () =>
        pieces(line(`id,${Array.from({ length: 30_000 }, (_, i) => `c${i}`).join(',')}\n1${',2'.repeat(30_000)}\n`), 1),
      'text/csv',
      {},
      /30001 columns/,
    ],
    ['one line of 500 MB', () => pieces(Buffer.alloc(MB, 'x'), 500), 'application/x-ndjson', {}, /longer than 4 MB/],
    [
      'a string of 300 MB in an array',
      () => pieces(Buffer.alloc(MB, 'x'), 300).toArrayLike(line('[{"id":"')),
      'application/json',
      {},
      /not closed|longer/,
    ],
    ['gzip of zeros', () => zeros(600), 'application/x-ndjson', { 'Content-Encoding': 'gzip' }, /200 times its size/],
    [
      'gzip of nothing but one row',
      () => packed(line('{"id":"same","name":"x"}\n'.repeat(40_000)), 300),
      'application/x-ndjson',
      { 'Content-Encoding': 'gzip' },
      /200 times its size/,
    ],
  ] as never)('%s', async (_, body, type, headers, reason) => {
    const { task, mostMb } = await load(body(), type, headers);
    expect(JSON.stringify(task.errors)).toMatch(reason);
    expect(['failed', 'done']).toContain(task.state);
    expect({ overMb: Math.round(mostMb - restingMb), fits: mostMb - restingMb <= 200 }).toMatchObject({ fits: true });
  });
});
