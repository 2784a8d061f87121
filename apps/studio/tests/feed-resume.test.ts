/** @jest-environment node */
/** The first reading of a table, broken off at any place: it goes on there, and misses nothing of what changed. */
import type { FeedRun, FeedSource } from '@yucca/contract';
import Database from 'better-sqlite3';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { House } from './house';

const ROWS = 2_000;
let house: House;
let loadDir: string;
let shop: Database.Database;

beforeEach(async () => {
  loadDir = mkdtempSync(path.join(tmpdir(), 'yucca-resume-'));
  house = await new House({ YUCCA_LOAD_DIR: loadDir }).open();
  await house.yucca.collections.create({ name: 'plants' });
  shop = new Database(path.join(loadDir, 'shop.db'));
});
afterEach(async () => {
  shop.close();
  await house.leave();
  rmSync(loadDir, { recursive: true, force: true });
});

/** Keys in an order that is not the one of their rows. */
const KEYS: Record<string, (i: number) => unknown> = {
  text: (i) => `k${(i * 1_361) % ROWS}`,
  integer: (i) => BigInt((i * 1_361) % ROWS) * 3_000_000_000_000_000n - 9_000_000_000_000_000_000n,
  real: (i) => ((i * 1_361) % ROWS) / 7 - 100,
};
const SOURCES: Record<string, object> = {
  'by its log': { table: 'plants', log: true },
  'by a column that grows': { table: 'plants', changed: 'rev' },
  'by a query': { query: 'select id, name, rev from plants' },
};

const lastRun = (id: string): FeedRun | null => house.yucca.feeds.get(id).run;
async function until(holds: () => boolean): Promise<void> {
  for (let tries = 0; !holds(); tries++) {
    if (tries > 5_000) throw new Error('it does not come');
    await new Promise((resolve) => setTimeout(resolve, 2));
  }
}

describe.each(Object.keys(SOURCES))('%s', (how) => {
  test.each(Object.keys(KEYS))('keys of %s', async (kind) => {
    shop.exec(`create table plants (id ${kind}, name text, rev integer); create unique index by_id on plants (id)`);
    const insert = shop.prepare('insert into plants values (?, ?, ?)');
    const keyAt = KEYS[kind]!;
    shop.transaction(() => {
      for (let i = 0; i < ROWS; i++) insert.run(keyAt(i), `Plant ${i} ${'x'.repeat(200)}`, i);
    })();
    const source = { kind: 'sqlite', file: 'shop.db', key: 'id', ...SOURCES[how] } as FeedSource;
    const { feed } = house.yucca.feeds.create({ name: 'Shop', collection: 'plants', source });
    if (how === 'by its log') await house.yucca.feeds.triggers(feed.id, true);
    await until(() => (lastRun(feed.id)?.read ?? 0) >= 500);
    await house.yucca.feeds.pause(feed.id);
    await house.reopen();
    const { read } = lastRun(feed.id)!;
    expect(read).toBeLessThan(ROWS);
    // On both sides of the place.
    const keys = shop.prepare('select cast(id as text) from plants order by id').pluck().all() as string[];
    const ofRow = 'where id = (select id from plants order by id limit 1 offset ?)';
    shop.exec('begin');
    for (const at of [0, 10, read - 1, read, read + 1, ROWS - 10])
      shop.prepare(`update plants set name = 'New', rev = rev + ${ROWS} ${ofRow}`).run(at);
    for (const at of [5, ROWS - 5]) shop.prepare(`delete from plants ${ofRow}`).run(at);
    insert.run(kind === 'text' ? 'A' : kind === 'real' ? -500.5 : -9_100_000_000_000_000_000n, 'First', ROWS * 3);
    insert.run(kind === 'text' ? 'z' : kind === 'real' ? 9e9 : 9_200_000_000_000_000_000n, 'Last', ROWS * 3);
    shop.exec('commit');
    await house.yucca.feeds.resume(feed.id);
    await until(() => lastRun(feed.id)?.state === 'done');
    const run = lastRun(feed.id)!;
    // What was read is not read again, but for the rows of the last key.
    expect(run.same).toBeLessThanOrEqual(1);
    expect(run.read).toBeLessThanOrEqual(ROWS + 3);
    await house.yucca.feeds.run(feed.id, { by: 'hand' }, true);
    // Who keeps no log finds what is gone by reading everything.
    if (how === 'by a column that grows') await house.yucca.feeds.run(feed.id, { by: 'hand', whole: true }, true);
    const names = shop.prepare('select name from plants order by name').pluck().all() as string[];
    const stored = house.yucca.collections.list().find(({ name }) => name === 'plants')!.records;
    expect(stored).toBe(names.length);
    const found: unknown[] = [];
    for (let page = 1; found.length < names.length; page++)
      found.push(...(await house.yucca.records.list('plants', page, 1_000)).items.map(({ name }) => name));
    expect(found.sort()).toEqual(names.sort());
    expect(keys).toHaveLength(ROWS);
  });
});
