/** What is acknowledged is on the disk, and the thread that answers everybody never waits for the disk. */
import { buildSync } from 'esbuild';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import { Flushed, logFileIn, type LogFile } from '../src/server/db/flushed';
import { openDb, type Db } from '../src/server/db/open';
import { fromWeb } from '../src/http/incoming';
import { FailedLines } from '../src/server/records/failed-lines';
import { startLoad, type LoadOptions } from '../src/server/records/load-job';
import { RecordStore } from '../src/server/records/record-store';
import type { Runtime } from '../src/server/runtime';
import { RemoteThread } from '../src/server/workers/rpc';
import { House } from './house';

let folder: string;
let db: Db;
let waiting: { onDisk: () => void; refused: (error: Error) => void }[];
let flushes: number;

/** A disk that says when it has taken something. */
const slowLog: LogFile = {
  datasync: () => {
    flushes++;
    return new Promise((onDisk, refused) => waiting.push({ onDisk, refused }));
  },
  close: () => Promise.resolve(),
};

beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'yucca-flushed-'));
  db = openDb(folder, { flushes: false });
  db.$client.exec('create table notes (text)');
  [waiting, flushes] = [[], 0];
});
afterEach(() => {
  db.$client.close();
  rmSync(folder, { recursive: true, force: true });
});

const write = (text: string): unknown => db.$client.prepare('insert into notes values (?)').run(text);
const settled = async (promise: Promise<void>): Promise<boolean> => {
  let is = false;
  promise.then(
    () => (is = true),
    () => (is = true),
  );
  await new Promise((resolve) => setTimeout(resolve, 5));
  return is;
};

test('nothing was written: nothing is flushed', async () => {
  await new Flushed(db, slowLog).done();
  expect(flushes).toBe(0);
});

test('a write is not acknowledged before the disk has it, and what comes during a flush waits for one more', async () => {
  const flushed = new Flushed(db, slowLog);
  write('first');
  const first = flushed.done();
  expect(await settled(first)).toBe(false);
  expect(flushes).toBe(1);
  write('second');
  const others = [flushed.done(), flushed.done(), flushed.done()];
  waiting[0]!.onDisk();
  await first;
  expect(await settled(Promise.race(others))).toBe(false);
  expect(flushes).toBe(2);
  waiting[1]!.onDisk();
  await Promise.all(others);
  await flushed.done();
  expect(flushes).toBe(2);
});

test('what the disk refuses is told, and tried again with the next write', async () => {
  const flushed = new Flushed(db, slowLog);
  write('first');
  const first = flushed.done();
  await settled(first);
  waiting[0]!.refused(Object.assign(new Error('no space'), { code: 'ENOSPC' }));
  await expect(first).rejects.toThrow('no space');
  const again = flushed.done();
  await settled(again);
  waiting[1]!.onDisk();
  await again;
  expect(flushes).toBe(2);
});

test('the log of a folder is flushed while other connections write and move it into the database', async () => {
  const other = openDb(folder);
  const flushed = new Flushed(db, logFileIn(folder));
  for (let round = 0; round < 30; round++) {
    write(`here ${round}`);
    const done = flushed.done();
    other.$client.prepare('insert into notes values (?)').run(`there ${round}`);
    if (round % 10 === 9) other.$client.pragma('wal_checkpoint(TRUNCATE)');
    await done;
  }
  await flushed.close();
  other.$client.close();
  expect(db.$client.prepare('select count(*) from notes').pluck().get()).toBe(60);
});

test('a request that writes is answered when the disk has it, and one that the disk refuses is told so', async () => {
  const house = await new House().open();
  const held = globalThis as { yuccaRuntime?: Runtime };
  try {
    const { POST } = await import('../src/app/api/v1/collections/route');
    const ask = (path: string, body: object) =>
      fromWeb(
        new Request(`http://127.0.0.1/api/v1/${path}`, {
          method: 'POST',
          headers: { Authorization: 'Bearer test-key', 'Content-Type': 'application/json' },
          body: JSON.stringify(body),
        }),
      );
    const create = (name: string) => POST.answer(ask('collections', { name }), {});
    await house.yucca.collections.create({ name: 'tools' });
    await house.search('tools', '');
    let onDisk = (): void => {};
    const flushed = new Promise<void>((resolve) => (onDisk = resolve));
    held.yuccaRuntime = { ...house.yucca, flushed: () => flushed };
    const reply = create('plants');
    expect(await settled(reply.then(() => {}))).toBe(false);
    // A search is answered meanwhile, a visitor's event is not.
    const search = await import('../src/app/api/v1/collections/[collection]/search/route');
    const found = search.POST.answer(ask('collections/tools/search', { q: 'rake' }), { collection: 'tools' });
    expect((await found).status).toBe(200);
    const events = await import('../src/app/api/v1/events/route');
    const event = { type: 'click', queryId: 'none', recordId: 'T-1' };
    const told = events.POST.answer(ask('events', { events: [event] }), {});
    const isTold = await settled(told.then(() => {}));
    onDisk();
    expect((await reply).status).toBe(201);
    expect([isTold, (await told).status]).toEqual([false, 202]);
    const full = Object.assign(new Error('no space left'), { code: 'ENOSPC' });
    held.yuccaRuntime = { ...house.yucca, flushed: () => Promise.reject(full) };
    expect((await create('guides')).status).toBe(503);
  } finally {
    delete held.yuccaRuntime;
    await house.leave();
  }
});

test('a thread that writes answers when the disk has it, and what it acknowledges nothing by at once', async () => {
  const source = `
    import { serve } from '${path.join(__dirname, '../src/server/workers/rpc.ts')}';
    let onDisk = () => {};
    const flushed = new Promise((resolve) => (onDisk = resolve));
    serve({ write: () => 1, look: () => 2, arrive: () => onDisk() }, (method) => (method === 'write' ? flushed : null));`;
  const bundled = buildSync({
    stdin: { contents: source, resolveDir: __dirname },
    bundle: true,
    platform: 'node',
    format: 'cjs',
    write: false,
  }).outputFiles[0]!.text;
  const thread = new RemoteThread<{ write: () => number; look: () => number; arrive: () => void }>({
    name: 'test',
    spawn: (pulse) => new Worker(bundled, { eval: true, workerData: { pulse } }),
  });
  try {
    const told: string[] = [];
    const written = thread.call('write', []).then(() => told.push('written'));
    expect(await thread.call('look', [])).toBe(2);
    told.push('looked');
    await thread.call('arrive', []);
    await written;
    expect(told).toEqual(['looked', 'written']);
  } finally {
    await thread.terminate();
  }
});

test('a load tells of rows once they are on the disk', async () => {
  const house = await new House().open();
  try {
    await house.yucca.collections.create({ name: 'plants' });
    const collectionId = house.yucca.collections.row('plants').id;
    const told: number[] = [];
    let onDisk = (): void => {};
    const disk = new Promise<void>((resolve) => (onDisk = resolve));
    const options = {
      collectionId,
      keyField: 'id',
      mediaType: 'application/x-ndjson',
      mode: 'replace',
      charset: 'utf-8',
    } as LoadOptions;
    const store = new RecordStore(house.yucca.db);
    const job = startLoad(store, options, new FailedLines(folder, 'load'), {
      flushed: () => disk,
      onProgress: ({ done }) => told.push(done),
    });
    const lines = (from: number): Buffer =>
      Buffer.from(Array.from({ length: 500 }, (_, i) => `{"id":"${from + i}","text":"${' '.repeat(200)}"}\n`).join(''));
    await job.write(lines(0));
    const rows = (): unknown => house.yucca.db.$client.prepare('select count(*) from records').pluck().get();
    for (let tries = 0; rows() !== 500 && tries < 200; tries++) await new Promise((resolve) => setTimeout(resolve, 10));
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect([rows(), told]).toEqual([500, []]);
    onDisk();
    await job.write(lines(500));
    for (let tries = 0; told.length < 2 && tries < 200; tries++)
      await new Promise((resolve) => setTimeout(resolve, 10));
    expect(told).toEqual([500, 1_000]);
    expect(await job.end(null)).toMatchObject({ done: 1_000, state: 'done' });
  } finally {
    await house.leave();
  }
});
