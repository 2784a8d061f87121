/** A disk that is full, and one that cannot be written: a file system of its own, mounted for the test. */
import type { Collection, Readiness, Task } from '@yucca/contract';
import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { loadPlants, Server } from '../src/server';

const folder = mkdtempSync(path.join(tmpdir(), 'yucca-disk-'));
const mount = (...args: string[]): boolean => spawnSync('mount', args, { stdio: 'ignore' }).status === 0;
/** Only the administrator of a machine may; elsewhere these tests are left out, and said to be. */
const mounted = mount('-t', 'tmpfs', '-o', 'size=48m', 'tmpfs', folder);
const onADisk = mounted ? test : test.skip;
let server: Server;

afterEach(() => server?.leave());
afterAll(() => {
  if (mounted) spawnSync('umount', [folder]);
  rmSync(folder, { recursive: true, force: true });
});

const found = async (q = ''): Promise<number> =>
  (await server.json<{ total: number }>('GET', `/collections/plants/search?size=0&q=${q}`)).total;
const rows = (from: number, count: number): object[] =>
  Array.from({ length: count }, (_, i) => ({
    id: `f${from + i}`,
    name: `filling ${from + i}`,
    text: 'word '.repeat(400),
  }));

onADisk('full: loads and writes end with a sentence, searches go on, and all goes on when there is space', async () => {
  const data = path.join(folder, 'data');
  server = await new Server().start({ YUCCA_DATA_DIR: data });
  await loadPlants(server, 'plants');
  const ballast = path.join(folder, 'ballast');
  writeFileSync(ballast, Buffer.alloc(24 * 1024 * 1024));
  let task: Task | null = null;
  for (let n = 0; n < 60 && task?.state !== 'failed'; n++) {
    const response = await server.call('POST', '/collections/plants/records?wait=true', rows(n * 500, 500));
    task = response.ok ? ((await response.json()) as { task: Task }).task : task;
    if (!response.ok) break;
  }
  expect(JSON.stringify(task?.errors)).toMatch(/disk is full|indexing failed/);
  const write = (key: string): Promise<Response> =>
    server.call('PUT', `/collections/plants/records/${key}`, { name: 'one', text: 'x'.repeat(200_000) });
  let refused = await write('one');
  for (let n = 0; n < 100 && refused.ok; n++) refused = await write(`more-${n}`);
  expect([refused.status, refused.headers.get('retry-after')]).toEqual([503, '1']);
  expect(((await refused.json()) as { detail: string }).detail).toContain('disk is full');
  expect(await found('lavender')).toBe(20);
  const unready = await server.call('GET', '/ready');
  expect(unready.status).toBe(503);
  expect(((await unready.json()) as Readiness).storage).toMatchObject({
    state: 'refusing',
    reason: expect.stringContaining('full') as string,
  });
  rmSync(ballast);
  await server.ready();
  expect((await write('last')).status).toBe(201);
  const { records } = await server.api<Collection>('GET', '/collections/plants');
  expect(await found()).toBe(records);
  // What could not be saved was saved since: it is all there after a crash.
  await server.stop('SIGKILL');
  await server.start({ YUCCA_DATA_DIR: data });
  await server.ready();
  expect(await found()).toBe(records);
});

onADisk('read only: it starts, answers what there is, and says why nothing can be stored', async () => {
  server = await new Server().start();
  await loadPlants(server, 'plants');
  await server.stop('SIGKILL');
  rmSync(path.join(folder, 'data'), { recursive: true, force: true });
  const data = path.join(folder, 'frozen');
  cpSync(server.dataDir, data, { recursive: true });
  expect(mount('-o', 'remount,ro', folder)).toBe(true);
  try {
    await server.start({ YUCCA_DATA_DIR: data });
    for (let tries = 0; tries < 50 && (await found('lavender')) !== 20; tries++)
      await new Promise((resolve) => setTimeout(resolve, 100));
    expect(await found('lavender')).toBe(20);
    const { storage } = await server.json<Readiness>('GET', '/ready');
    expect(storage).toMatchObject({
      state: 'refusing',
      reason: expect.stringContaining('cannot be written') as string,
    });
    const refused = await server.call('PUT', '/collections/plants/records/one', { name: 'one' });
    expect([refused.status, ((await refused.json()) as { detail: string }).detail]).toEqual([
      503,
      expect.stringContaining('cannot be written'),
    ]);
    expect((await server.call('POST', '/collections', { name: 'more' })).status).toBe(503);
    expect((await fetch(`${server.base}/s/plants?q=rose`)).status).toBe(200);
  } finally {
    await server.stop();
    mount('-o', 'remount,rw', folder);
  }
});
