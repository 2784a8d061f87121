/** Whatever is loaded, the thread that takes requests is not held by it. */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { Server } from '../src/server';

/** A process of its own: what the tests before have left in this one's memory takes its time to be collected. */
let server: Server;
const WATCH = `--import ${pathToFileURL(path.join(__dirname, '../src/held-thread.mjs')).href}`;
const held = (): string => path.join(server.dataDir, 'held');
beforeAll(async () => {
  server = new Server();
  await server.start({ NODE_OPTIONS: WATCH, YUCCA_HELD: held() });
  // Once before: what is compiled then is not compiled again.
  await load('first', csv(10), 'text/csv');
  await load('second', JSON.stringify([{ id: 1, name: 'a' }]), 'application/json');
  // Pages are made ready in the seconds after a start.
  await new Promise((resolve) => setTimeout(resolve, 10_000));
});
afterAll(() => server.leave());

const csv = (columns: number, rows = 300): string => {
  const head = `id,${Array.from({ length: columns }, (_, i) => `field ${i}`).join(',')}`;
  const row = Array.from({ length: columns }, (_, i) => `value ${i}`).join(',');
  return `${head}\n${Array.from({ length: rows }, (_, i) => `${i},${row}`).join('\n')}\n`;
};
const LIMIT_MS = 50;
/** Almost a link, over and over: a pattern that goes back tries each beginning of it with each end. */
const almost = `/${'x.svg?'.repeat(30_000)} `;

test.each<[string, () => string, string]>([
  ['fields by the thousand', () => csv(990), 'text/csv'],
  [
    'texts that are almost links',
    () => JSON.stringify(Array.from({ length: 40 }, (_, id) => ({ id, name: almost }))),
    'application/json',
  ],
  [
    'records as large as they may be',
    () => JSON.stringify(Array.from({ length: 60 }, (_, id) => ({ id, name: 'word '.repeat(50_000) }))),
    'application/json',
  ],
  [
    'lists of ten thousand',
    () =>
      JSON.stringify(
        Array.from({ length: 20 }, (_, id) => ({ id, tags: Array.from({ length: 10_000 }, (_, i) => `t${i}`) })),
      ),
    'application/json',
  ],
])('%s', async (name, body, type) => {
  const text = body();
  const tries: number[] = [];
  // A machine that is busy with something else has its say too: what our own code does shows in every try.
  while (tries.length < 3 && !tries.some((ms) => ms <= LIMIT_MS)) {
    await longestHoldMs();
    await load(`${name.replaceAll(' ', '-')}-${tries.length}`, text, type);
    tries.push(await longestHoldMs());
  }
  expect({ tries, fits: Math.min(...tries) <= LIMIT_MS }).toEqual({ tries, fits: true });
});

test('a thread that is held is noticed', async () => {
  const busy = `setTimeout(() => {
    for (const end = performance.now() + ${4 * LIMIT_MS}; performance.now() < end; );
    console.log('was busy');
  }, 50);
  setTimeout(() => {}, 60_000);`;
  const env = { ...process.env, NODE_OPTIONS: WATCH, YUCCA_HELD: held() };
  const child = spawn(process.execPath, ['-e', busy], { env, stdio: ['ignore', 'pipe', 'inherit'] });
  await once(child.stdout, 'data');
  expect(await longestHoldMs(child.pid)).toBeGreaterThan(LIMIT_MS);
  child.kill();
});

/** Loads into a new collection, until it can be searched. */
async function load(collection: string, body: string, type: string): Promise<void> {
  await server.api('POST', '/collections', { name: collection });
  const sent = await server.call('POST', `/collections/${collection}/records?wait=true`, body, {
    'Content-Type': type,
  });
  const { task } = (await sent.json()) as { task: { state: string; done: number } };
  expect(task).toMatchObject({ state: 'done' });
  expect(task.done).toBeGreaterThan(0);
}

/** For how long a process's main thread has worked at a stretch, at the longest, since this was asked the last time. */
async function longestHoldMs(pid = server.pid): Promise<number> {
  rmSync(held(), { force: true });
  process.kill(pid, 'SIGUSR2');
  while (!existsSync(held())) await new Promise((resolve) => setTimeout(resolve, 10));
  return Math.round(Number(readFileSync(held(), 'utf8')));
}
