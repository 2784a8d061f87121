/** How the server ends: told to, killed, or kept from starting. */
import type { Collection } from '@yucca/contract';
import { spawn, spawnSync } from 'node:child_process';
import { readdirSync, rmSync, existsSync, writeFileSync } from 'node:fs';
import { request } from 'node:http';
import path from 'node:path';
import { freePort, loadPlants, Server, somePlants } from '../src/server';

jest.setTimeout(1_800_000);
/** More of them in a long run. */
const KILLS = Number(process.env.YUCCA_KILLS ?? 6);
let server: Server;
beforeEach(async () => {
  server = await new Server().start();
});
afterEach(() => server.leave());

test('told to stop, it lets answers come to their end, takes no new work, and ends with 0', async () => {
  await loadPlants(server, 'plants');
  let send: (piece: string | null) => void = () => {};
  const answered = new Promise<[number, string | undefined]>((resolve, reject) => {
    const sent = request(
      `${server.base}/api/v1/collections/plants/records?wait=true`,
      {
        method: 'POST',
        headers: { Authorization: `Bearer ${server.adminKey}`, 'Content-Type': 'application/x-ndjson' },
      },
      (response) => response.resume().on('end', () => resolve([response.statusCode!, response.headers.connection])),
    );
    sent.on('error', reject);
    send = (piece) => void (piece === null ? sent.end() : sent.write(piece));
  });
  send('{"id":"slow","name":"sent while it stops"}\n');
  await new Promise((resolve) => setTimeout(resolve, 300));
  const ended = server.stop('SIGTERM');
  await new Promise((resolve) => setTimeout(resolve, 300));
  await expect(fetch(`${server.base}/api/v1/health`)).rejects.toThrow();
  send(null);
  expect(await answered).toEqual([200, 'close']);
  expect(await ended).toBe(0);
  await server.start();
  expect((await server.call('GET', '/collections/plants/records/slow')).status).toBe(200);
});

test('a signal to “npm start” reaches the server', async () => {
  await server.stop();
  const port = await freePort();
  const child = spawn('npm', ['start'], {
    cwd: path.join(__dirname, '../..'),
    stdio: 'ignore',
    env: { ...process.env, NODE_ENV: 'production', PORT: String(port), YUCCA_HOST: '127.0.0.1', YUCCA_DATA_DIR: server.dataDir, YUCCA_LOG: 'silent' }, // prettier-ignore
  });
  const ended = new Promise<number | null>((resolve) => child.on('exit', resolve));
  const healthy = (): Promise<boolean> =>
    fetch(`http://127.0.0.1:${port}/api/v1/health`).then(
      ({ ok }) => ok,
      () => false,
    );
  while (!(await healthy())) await new Promise((resolve) => setTimeout(resolve, 100));
  child.kill('SIGTERM');
  expect(await ended).toBe(0);
  expect(await healthy()).toBe(false);
  // A clean end leaves no mark behind.
  expect(existsSync(path.join(server.dataDir, 'running'))).toBe(false);
});

test('a second process over the same folder says who has it, and ends with 75', () => {
  const root = path.join(__dirname, '../..');
  const { status, stderr } = spawnSync(process.execPath, [path.join(root, 'apps/studio/.next/front/main.mjs')], {
    cwd: path.join(root, 'apps/studio'),
    env: { ...process.env, NODE_ENV: 'production', PORT: '4398', YUCCA_DATA_DIR: server.dataDir, YUCCA_MIGRATIONS: path.join(root, 'apps/studio/drizzle'), YUCCA_LOG: 'silent' }, // prettier-ignore
  });
  expect([status, stderr.toString()]).toEqual([75, expect.stringContaining(`in use by process ${server.pid}`)]);
});

test('a database that is none, and an index without one: a sentence, and 74', async () => {
  // Fewer stay in memory, and have no files.
  await loadPlants(server, 'kept', somePlants(1_500));
  await server.stop();
  const root = path.join(__dirname, '../..');
  const start = (): [number | null, string] => {
    const { status, stderr } = spawnSync(process.execPath, [path.join(root, 'apps/studio/.next/front/main.mjs')], {
      cwd: path.join(root, 'apps/studio'),
      env: { ...process.env, NODE_ENV: 'production', PORT: '4398', YUCCA_DATA_DIR: server.dataDir, YUCCA_MIGRATIONS: path.join(root, 'apps/studio/drizzle'), YUCCA_LOG: 'silent' }, // prettier-ignore
    });
    expect(stderr.toString()).not.toContain('    at ');
    return [status, stderr.toString()];
  };
  const file = path.join(server.dataDir, 'yucca.sqlite');
  rmSync(file);
  const segments = readdirSync(path.join(server.dataDir, 'segments'), { recursive: true });
  expect(start()).toEqual([74, expect.stringContaining('has an index and no database')]);
  expect(readdirSync(path.join(server.dataDir, 'segments'), { recursive: true })).toEqual(segments);
  writeFileSync(file, 'this is no database, whatever its name says '.repeat(100));
  expect(start()).toEqual([74, expect.stringContaining('The database cannot be opened')]);
});

test(`killed ${KILLS} times under mixed work: what was acknowledged is there, searchable, and whole`, async () => {
  await server.api('POST', '/collections', { name: 'mixed' });
  const ledger: Ledger = { acknowledged: new Map(), unsure: new Set() };
  for (let round = 0; round < KILLS; round++) {
    const end = Date.now() + 300 + ((round * 577) % 1500);
    const work = [writeOne(ledger, round, end), loadSome(ledger, round, end), publishAll(end), removeSome(ledger, round, end)]; // prettier-ignore
    await new Promise((resolve) => setTimeout(resolve, end - Date.now()));
    await server.stop('SIGKILL');
    await Promise.all(work);
    await server.start();
    await server.ready();
    await sameAs(ledger);
  }
  const { task } = await server.api<{ task: { state: string; errors: unknown[] } }>('POST', '/ready/check?wait=true');
  expect(task).toMatchObject({ state: 'done', errors: [] });
});

interface Ledger {
  /** By key: what the server said it has; null = that it has none. */
  acknowledged: Map<string, number | null>;
  /** What it was asked and did not answer: it may be there or not. */
  unsure: Set<string>;
}

/** Runs until the end, or until the server is gone. */
async function until(end: number, step: (n: number) => Promise<void>): Promise<void> {
  for (let n = 0; Date.now() < end; n++) {
    try {
      await step(n);
    } catch (error) {
      if ((error as Error).name === 'TypeError') return;
      throw error;
    }
  }
}

/** Asks for changes; they are sure once the server has said so. `null`: gone. */
async function change(
  { acknowledged, unsure }: Ledger,
  changes: readonly [key: string, value: number | null][],
  ask: () => Promise<Response>,
): Promise<void> {
  for (const [key] of changes) unsure.add(key);
  const { ok } = await ask();
  if (!ok) return;
  for (const [key, value] of changes) {
    acknowledged.set(key, value);
    unsure.delete(key);
  }
}

function writeOne(ledger: Ledger, round: number, end: number): Promise<void> {
  return until(end, (n) => {
    const key = `w${n % 15}`;
    const value = round * 100_000 + n;
    const record = { name: `written ${value}`, value };
    return change(ledger, [[key, value]], () => server.call('PUT', `/collections/mixed/records/${key}`, record));
  });
}

function loadSome(ledger: Ledger, round: number, end: number): Promise<void> {
  return until(end, (n) => {
    const rows = Array.from({ length: 1_200 }, (_, i) => ({ id: `l${round}-${n}-${i}`, name: 'loaded', value: i }));
    const changes = rows.map(({ id, value }): [string, number] => [id, value]);
    return change(ledger, changes, () => server.call('POST', '/collections/mixed/records?wait=true', rows));
  });
}

function removeSome(ledger: Ledger, round: number, end: number): Promise<void> {
  return until(end, async (n) => {
    const old = [...ledger.acknowledged.keys()].filter((key) => key.startsWith(`l${round - 1}`));
    const ids = old.slice(n * 7, n * 7 + 7);
    if (ids.length === 0) return void (await new Promise((resolve) => setTimeout(resolve, 50)));
    const changes = ids.map((id): [string, null] => [id, null]);
    await change(ledger, changes, () => server.call('POST', '/collections/mixed/records/delete', { ids }));
  });
}

function publishAll(end: number): Promise<void> {
  return until(end, async (n) => {
    await server.call('PATCH', '/collections/mixed/tuning/draft', { signalShare: (n % 100) / 100, facets: [{ name: n % 3 ? 'value' : 'name', field: n % 3 ? 'value' : 'name' }] }); // prettier-ignore
    await server.call('POST', '/collections/mixed/tuning/publish', {});
  });
}

/** Database, index and what was acknowledged are the same. */
async function sameAs({ acknowledged, unsure }: Ledger): Promise<void> {
  const text = await (await server.call('GET', '/collections/mixed/records?format=ndjson')).text();
  const stored = new Map(text.split('\n').filter(Boolean).map((line) => JSON.parse(line) as { id: string; value: number }).map(({ id, value }) => [id, value])); // prettier-ignore
  const wrong = [...acknowledged].filter(([key, value]) => !unsure.has(key) && (stored.get(key) ?? null) !== value);
  expect(wrong).toEqual([]);
  const { records } = await server.api<Collection>('GET', '/collections/mixed');
  const found = await server.json<{ total: number }>('GET', '/collections/mixed/search?size=0');
  expect([stored.size, found.total]).toEqual([records, records]);
  // What nobody was told is as it turned out to be.
  for (const key of unsure) acknowledged.set(key, stored.get(key) ?? null);
  unsure.clear();
}
