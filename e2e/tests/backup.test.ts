import type { Collection, Task } from '@yucca/contract';
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { loadPlants, Server } from '../src/server';

const YUCCA = path.join(__dirname, '../../packages/cli/bin/yucca.mjs');
const folder = mkdtempSync(path.join(tmpdir(), 'yucca-restored-'));
let server: Server;
beforeAll(async () => {
  server = await new Server().start();
  await loadPlants(server, 'plants');
});
afterAll(async () => {
  await server.leave();
  rmSync(folder, { recursive: true, force: true });
});

function yucca(...args: string[]): { status: number | null; out: string; err: string } {
  const env = { ...process.env, YUCCA_URL: server.base, YUCCA_KEY: server.adminKey };
  const { status, stdout, stderr } = spawnSync(process.execPath, [YUCCA, ...args], { env });
  return { status, out: stdout.toString(), err: stderr.toString() };
}

test('a backup that is taken under load is restored to exactly what was acknowledged before it', async () => {
  const { secret, key } = await server.api<{ secret: string; key: { id: string } }>('POST', '/keys', {
    label: 'Shop',
    rights: ['search'],
  });
  const before = new Map<string, number>();
  let writing = true;
  let acknowledged = 0;
  const writer = (async () => {
    for (let i = 0; writing; i++) {
      await server.api('PUT', `/collections/plants/records/w${i}`, { name: 'written', i });
      acknowledged = i;
    }
  })();
  while (acknowledged < 20) await new Promise((resolve) => setTimeout(resolve, 10));
  for (let i = 0; i <= acknowledged; i++) before.set(`w${i}`, i);
  // Calls without waiting, so that the writer goes on in this process.
  const { task } = await server.api<{ task: Task }>('POST', '/backups?wait=true');
  writing = false;
  await writer;
  expect(task).toMatchObject({ state: 'done', kind: 'backup' });
  const made = path.join(`${server.dataDir}-backups`, task.backup!);
  expect(yucca('check', made)).toMatchObject({ status: 0, out: expect.stringContaining('whole') as string });
  const restored = path.join(folder, 'data');
  expect(yucca('restore', made, restored)).toMatchObject({ status: 0 });
  expect(yucca('restore', made, restored).err).toContain('is not empty');
  const twin = await new Server().start({ YUCCA_DATA_DIR: restored });
  try {
    await twin.ready();
    const text = await (
      await twin.call('GET', '/collections/plants/records?format=ndjson&filter=i%20IS%20NOT%20NULL')
    ).text();
    const rows = text.split('\n').filter(Boolean).map((line) => JSON.parse(line) as { id: string; i: number }); // prettier-ignore
    for (const [id, i] of before) expect(rows).toContainEqual({ id, name: 'written', i });
    // One moment: what came after it is not there in part.
    expect(rows.map(({ i }) => i).sort((a, b) => a - b)).toEqual(rows.map((_, i) => i));
    const { records, liveVersion } = await twin.api<Collection>('GET', '/collections/plants');
    expect(records).toBe(120 + rows.length);
    expect(liveVersion).toBe((await server.api<Collection>('GET', '/collections/plants')).liveVersion);
    const search = (base: string) =>
      fetch(`${base}/api/v1/collections/plants/search?q=lavender`, { headers: { Authorization: `Bearer ${secret}` } });
    expect(((await (await search(twin.base)).json()) as { total: number }).total).toBe(20);
    expect((await twin.api<{ items: { id: string }[] }>('GET', '/keys')).items.map(({ id }) => id)).toContain(key.id);
  } finally {
    await twin.leave();
  }
});

test('a backup that was damaged is not restored, and says what is wrong', async () => {
  const { out, status } = yucca('backup');
  expect(status).toBe(0);
  const made = path.join(`${server.dataDir}-backups`, /yucca-[\w-]+/.exec(out)![0]);
  const database = path.join(made, 'yucca.sqlite');
  const bytes = readFileSync(database);
  bytes[bytes.length - 100]! ^= 0xff;
  writeFileSync(database, bytes);
  expect(yucca('check', made)).toMatchObject({
    status: 1,
    out: expect.stringContaining('yucca.sqlite is not as it was') as string,
  });
  const to = path.join(folder, 'broken');
  expect(yucca('restore', made, to)).toMatchObject({
    status: 1,
    err: expect.stringContaining('nothing was restored') as string,
  });
  expect(existsSync(to) || existsSync(`${to}.part`)).toBe(false);
  expect(yucca('restore', folder, to).err).toContain('is no backup');
  const list = await server.api<{ items: { name: string; records: number }[] }>('GET', '/backups');
  expect(list.items.length).toBe(2);
});
