/** What an owner of a trusted system expects: threads that come back, damage that is mended, copies that are whole. */
import { execFileSync } from 'node:child_process';
import {
  copyFileSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import Database from 'better-sqlite3';
import { FolderLock } from '../src/server/storage/folder-lock';
import { readinessOf } from '../src/server/operations/readiness';
import { House, lines } from './house';

let house: House;
beforeEach(async () => {
  house = await new House().open();
  await house.yucca.collections.create({ name: 'plants', key: 'id' });
});
afterEach(() => house.leave());

const plants = (count: number, from = 0): object[] =>
  Array.from({ length: count }, (_, i) => ({ id: `p${from + i}`, name: `lavender number ${from + i}`, n: i % 10 }));
const loaded = (count: number, from = 0) => house.load('plants', lines(plants(count, from)), 'application/x-ndjson');
const total = async (q = ''): Promise<number> => (await house.search('plants', q)).total;
const lose = (name: string): void => {
  for (const thread of house.yucca.threads()) if (thread.name === name) thread.replace(new Error('on purpose'));
};
const segments = (): string[] => {
  const folder = path.join(house.dataDir, 'segments', readdirSync(path.join(house.dataDir, 'segments'))[0]!);
  return readdirSync(folder).map((file) => path.join(folder, file));
};
async function eventually(holds: () => boolean | Promise<boolean>): Promise<void> {
  for (let tries = 0; tries < 200; tries++) {
    if (await holds()) return;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('it never came to hold');
}

describe('threads that are lost', () => {
  test('searchers: searches that were under way are asked again, and new ones find the same', async () => {
    await loaded(500);
    const asked = Array.from({ length: 40 }, () => total('lavender'));
    lose('searcher');
    expect(await Promise.all(asked)).toEqual(Array.from({ length: 40 }, () => 500));
    lose('searcher');
    expect(await total('lavender')).toBe(500);
  });

  test('the one that writes: a load under way ends with its reason, what it told of is stored, the next goes well', async () => {
    const body = (async function* () {
      for (let i = 0; i < 400; i++) {
        yield new Uint8Array(Buffer.from(lines(plants(50, i * 50))));
        if (i === 200) lose('writer');
      }
    })();
    const order = {
      mediaType: 'application/x-ndjson',
      gzip: false,
      mode: 'replace' as const,
      assignKeys: false,
      bytes: null,
      body,
    };
    const task = await (await house.yucca.records.load('plants', order)).searchable;
    expect(task.state).toBe('failed');
    expect(task.errors[0]!.detail).toContain('started again');
    await eventually(() => house.yucca.threads().every(({ alive }) => alive));
    expect(await loaded(100)).toMatchObject({ state: 'done', done: 100 });
    const { records } = house.yucca.collections.get('plants');
    expect(records).toBeGreaterThanOrEqual(task.done);
    expect(await total()).toBe(records);
  });

  test('the one that reads: an export breaks off with what may be asked again', async () => {
    await loaded(5_000);
    const pieces = house.yucca.records.export('plants', 'ndjson');
    await pieces.next();
    lose('scan');
    await expect((async () => { for await (const piece of pieces) void piece; })()).rejects.toMatchObject({ code: 'unavailable' }); // prettier-ignore
    let text = '';
    for await (const piece of house.yucca.records.export('plants', 'ndjson')) text += piece;
    expect(text.split('\n')).toHaveLength(5_001);
  });
});

describe('a damaged index', () => {
  test.each<[string, (file: string) => void]>([
    ['is missing', (file) => rmSync(file)],
    ['is cut', (file) => truncateSync(file, 100)],
    ['has a byte that is wrong', (file) => { const bytes = readFileSync(file); bytes[bytes.length >> 1]! ^= 0xff; writeFileSync(file, bytes); }], // prettier-ignore
  ])('a segment that %s is made again, and the collection answers meanwhile', async (_, damage) => {
    await loaded(30_000);
    await loaded(3_000, 30_000);
    const [largest] = segments().sort((a, b) => readFileSync(b).length - readFileSync(a).length);
    await house.yucca.close();
    damage(largest!);
    const opening = house.open();
    // What was written last is found as soon as anything is.
    await eventually(
      () => house.yucca?.indexManager.readiness(house.yucca.collections.row('plants').id).state !== 'opening',
    );
    expect(await total('number 32999')).toBeGreaterThan(0);
    await opening;
    expect(readinessOf(house.yucca)).toMatchObject({ status: 'ready', collections: [{ state: 'ready', progress: 1 }] });
    expect(await total()).toBe(33_000);
    await house.reopen();
    expect(await total()).toBe(33_000);
  });

  test('writes and deletions while it is made again are right afterwards', async () => {
    await loaded(20_000);
    await house.yucca.close();
    for (const file of segments()) rmSync(file);
    const opening = house.open();
    await eventually(
      () => house.yucca.indexManager.readiness(house.yucca.collections.row('plants').id).state !== 'opening',
    );
    await house.yucca.records.put('plants', 'p5', { name: 'thyme' }, 'replace');
    await house.yucca.records.put('plants', 'new', { name: 'thyme' }, 'replace');
    await house.yucca.records.remove('plants', ['p6', 'p19999']);
    expect(await total('thyme')).toBe(2);
    await opening;
    expect([await total('thyme'), await total(), await total('lavender')]).toEqual([2, 19_999, 19_997]);
  });
});

describe('the disk', () => {
  test('a full database: writes are refused with a sentence, searches go on, and it recovers by itself', async () => {
    await loaded(2_000);
    const { db, storage } = house.yucca;
    const pages = db.$client.pragma('page_count', { simple: true }) as number;
    db.$client.pragma(`max_page_count = ${pages}`);
    const much = Array.from({ length: 5_000 }, (_, i) => ({ query: `${i} ${'x'.repeat(300)}`, grades: { p1: 3 } }));
    expect(() => house.yucca.judgements.replace('plants', much)).toThrow(expect.objectContaining({ code: 'SQLITE_FULL' }) as Error); // prettier-ignore
    expect(storage.heard(Object.assign(new Error('full'), { code: 'SQLITE_FULL' }))).toBe(true);
    expect(readinessOf(house.yucca)).toMatchObject({ status: 'not-ready', storage: { state: 'refusing', reason: expect.stringContaining('disk is full') as string } }); // prettier-ignore
    expect(await total('lavender')).toBe(2_000);
    db.$client.pragma('max_page_count = 1073741823');
    await eventually(() => storage.state.state === 'ok');
  });

  test('one process holds the folder; a second is told which', () => {
    expect(() => FolderLock.take(house.dataDir)).toThrow(`in use by process ${process.pid}`);
  });

  test('a holder that was killed is in nobody’s way', () => {
    const folder = mkdtempSync(path.join(tmpdir(), 'yucca-lock-'));
    const script = `const D = require('better-sqlite3'); const d = new D(${JSON.stringify(path.join(folder, 'lock.sqlite'))}); d.exec('begin exclusive'); process.kill(process.pid, 'SIGKILL')`;
    expect(() => execFileSync(process.execPath, ['-e', script], { cwd: __dirname })).toThrow();
    FolderLock.take(folder).release();
    rmSync(folder, { recursive: true });
  });

  test('a stop that was not clean is followed by a check, which finds what is wrong', async () => {
    await loaded(200);
    await house.yucca.close();
    writeFileSync(path.join(house.dataDir, 'running'), '1\n');
    await house.open();
    await eventually(() => house.yucca.integrity.state.state === 'ok');
    house.yucca.db.$client.prepare('update collections set records = 7').run();
    expect(await house.yucca.integrity.check()).toMatchObject({ state: 'damaged', problems: ['collection plants counts 7 records and has 200'] }); // prettier-ignore
    expect(readinessOf(house.yucca).status).toBe('not-ready');
    const { task } = house.yucca.checks.begin();
    await eventually(() => house.yucca.tasks.get(task.id).state === 'failed');
  });
});

describe('backups', () => {
  test('taken while records are written, they hold one moment, whole', async () => {
    await loaded(1_000);
    writeFileSync(path.join(house.dataDir, 'files-note'), 'not copied');
    let writing = true;
    const writer = (async () => {
      for (let i = 0; writing; i++)
        await house.yucca.records.put('plants', `w${i}`, { name: 'written meanwhile', i }, 'replace');
    })();
    const { ended } = house.yucca.backups.make();
    expect(() => house.yucca.backups.make()).toThrow('already');
    const task = await ended;
    writing = false;
    await writer;
    expect(task).toMatchObject({ state: 'done', kind: 'backup' });
    const [backup] = house.yucca.backups.list();
    expect(backup).toMatchObject({ name: task.backup, collections: 1 });
    expect(backup!.records).toBeGreaterThanOrEqual(1_000);
    const folder = path.join(`${house.dataDir}-backups`, backup!.name);
    expect(readdirSync(folder).sort()).toEqual(['backup.json', 'secret.key', 'yucca.sqlite']);
    const copy = new Database(path.join(folder, 'yucca.sqlite'), { readonly: true });
    const rows = copy
      .prepare(`select json from records where key like 'w%' order by version_id`)
      .pluck()
      .all() as string[];
    // Those written before the moment, and none after a gap.
    expect(rows.map((json) => (JSON.parse(json) as { i: number }).i)).toEqual(rows.map((_, i) => i));
    copy.close();
  });

  test('a schedule makes them and takes the oldest of its own away', async () => {
    const often = new House({ YUCCA_BACKUP_EVERY: String(0.2 / 3600), YUCCA_BACKUPS_KEPT: '2' });
    await often.open();
    await eventually(() => often.yucca.backups.list().length >= 2);
    const [first] = often.yucca.backups.list().map(({ name }) => name).sort(); // prettier-ignore
    await eventually(() => !often.yucca.backups.list().some(({ name }) => name === first));
    await eventually(() => often.yucca.backups.list().length <= 2);
    await often.leave();
  });

  test('one that cannot be written fails with its reason and leaves nothing half', async () => {
    writeFileSync(`${house.dataDir}-backups`, 'a file where the folder should be');
    const { state, errors } = await house.yucca.backups.make().ended;
    expect([state, errors[0]!.detail]).toEqual(['failed', expect.stringContaining('No backup was made')]);
    expect(house.yucca.tasks.running).toBe(0);
    rmSync(`${house.dataDir}-backups`);
    expect(existsSync(`${house.dataDir}-backups`)).toBe(false);
    copyFileSync(path.join(house.dataDir, 'secret.key'), path.join(house.dataDir, 'secret.copy'));
  });
});

test('the trail says who changed what, the newest first, and keeps to a length', async () => {
  const { audit } = house.yucca;
  for (let i = 1; i <= 30; i++)
    audit.note({ actor: i % 2 ? 'studio' : 'Shop', keyId: null, remote: '127.0.0.1', method: 'PUT', path: `/x/${i}`, collection: i % 3 ? 'plants' : null, detail: { i } }); // prettier-ignore
  // As when the disk takes nothing for a while.
  audit.giveBack(audit.takeNotes());
  const page = audit.list({ page: 1, size: 10, collection: null });
  expect([page.total, page.pages, page.items[0]!.path, page.items[0]!.detail]).toEqual([30, 3, '/x/30', { i: 30 }]);
  expect(audit.list({ page: 1, size: 50, collection: 'plants' }).total).toBe(20);
  expect([...audit.all()].flat().map(({ path: at }) => at)).toHaveLength(30);
});
