/** @jest-environment node */
/** Folders and databases that are read, and runs that are broken off. */
import type { FeedSource } from '@yucca/contract';
import Database from 'better-sqlite3';
import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { lines } from './house';
import { json, sourceHouse } from './source-house';

const own = sourceHouse();
const { all, asked, connected, pollOf, run, settled } = own;
const TEN = Array.from({ length: 10 }, (_, i) => ({ id: `p${i}`, name: `Plant ${i}`, price: i }));

describe('a folder', () => {
  test('of tables and pages; a file that changes is read by itself', async () => {
    mkdirSync(path.join(own.loadDir, 'shop/guides'), { recursive: true });
    writeFileSync(path.join(own.loadDir, 'shop/plants.csv'), 'id,name\n1,Fern\n2,Rose\n');
    writeFileSync(
      path.join(own.loadDir, 'shop/guides/ferns.md'),
      '---\ntopic: shade\n---\n# Ferns\nThey like it damp.\n',
    );
    const feed = await connected({ kind: 'folder', path: 'shop' });
    expect(feed.run).toMatchObject({ state: 'done', read: 3, written: 3 });
    expect((await all()).map(({ id, name, title, topic }) => ({ id, name: name ?? title, topic }))).toEqual([
      { id: '1', name: 'Fern', topic: undefined },
      { id: '2', name: 'Rose', topic: undefined },
      { id: 'guides/ferns.md', name: 'Ferns', topic: 'shade' },
    ]);
    writeFileSync(path.join(own.loadDir, 'shop/plants.csv'), 'id,name\n1,Fern\n2,Rose\n3,Iris\n');
    for (let tries = 0; (await all()).length < 4; tries++) {
      expect(tries).toBeLessThan(250);
      await new Promise((resolve) => setTimeout(resolve, 40));
    }
    await expect(connected({ kind: 'folder', path: '../..' })).resolves.toMatchObject({ state: 'failing', reason: expect.stringMatching(/There is no/) as string }); // prettier-ignore
  });
});

describe('a SQLite file', () => {
  let db: Database.Database;
  beforeEach(() => {
    db = new Database(path.join(own.loadDir, 'shop.db'));
    db.exec(`create table plants (id text primary key, name text, price real, changed integer, supplier int);
      create table suppliers (id integer primary key, name text);
      insert into suppliers values (1, 'Fernhill');`);
    const insert = db.prepare('insert into plants values (?, ?, ?, ?, 1)');
    for (const { id, name, price } of TEN) insert.run(id, name, price, price);
  });
  afterEach(() => db.close());
  const source = (more: object): FeedSource => ({ kind: 'sqlite', file: 'shop.db', key: 'id', ...more }) as FeedSource;

  test('a query that joins; one that writes is refused', async () => {
    const query = 'select p.id, p.name, s.name as supplier from plants p join suppliers s on s.id = p.supplier';
    const feed = await connected(source({ query }));
    expect(feed.run).toMatchObject({ state: 'done', read: 10, total: 10 });
    expect((await all())[0]).toEqual({ id: 'p0', name: 'Plant 0', supplier: 'Fernhill' });
    for (const bad of ['delete from plants', 'select 1); delete from plants; --', 'select 1; delete from plants', 'pragma journal_mode = delete', 'update plants set name = 1 returning *', 'attach database \'x\' as y', 'nonsense']) {
      const told = await connected(source({ query: bad }));
      expect({ bad, state: told.state }).toEqual({ bad, state: 'failing' });
    } // prettier-ignore
    expect(db.prepare('select count(*) from plants').pluck().get()).toBe(10);
  });

  test('whole numbers are kept exactly, bytes as base64, and keys of any size are followed', async () => {
    db.exec(`create table big (id integer primary key, n integer, bytes blob, share real);
      insert into big values (9007199254740993, 9223372036854775807, x'00ff', 0.5), (1, 2, null, 3)`);
    const { feed } = own.house.yucca.feeds.create({ name: 'Big', collection: 'plants', source: source({ table: 'big', log: true }) }); // prettier-ignore
    await own.house.yucca.feeds.triggers(feed.id, true);
    await settled(feed.id);
    expect(await all()).toEqual([
      { id: 1, n: 2, bytes: null, share: 3 },
      { id: '9007199254740993', n: '9223372036854775807', bytes: 'AP8=', share: 0.5 },
    ]);
    db.exec('update big set n = 1 where id = 9007199254740993; delete from big where id = 1');
    await run(feed);
    expect(await all()).toEqual([{ id: '9007199254740993', n: 1, bytes: 'AP8=', share: 0.5 }]);
  });

  test('a row that could be no record is told by its key, and stops no other', async () => {
    const vast = db.prepare(`update plants set name = replace(hex(zeroblob(2000000)), '0', 'x') where id = ?`);
    vast.run('p3');
    const { feed } = own.house.yucca.feeds.create({ name: 'Vast', collection: 'plants', source: source({ table: 'plants', log: true }) }); // prettier-ignore
    await own.house.yucca.feeds.triggers(feed.id, true);
    const reason = expect.stringContaining('the row is larger than') as string;
    expect((await settled(feed.id)).run).toMatchObject({ state: 'done', read: 10, written: 9, failed: 1, reason });
    vast.run('p4');
    db.exec(`update plants set name = 'New' where id = 'p5'`);
    expect(await run(feed)).toMatchObject({ state: 'done', read: 2 });
    expect(own.house.yucca.feeds.get(feed.id).dead).toBe(2);
    expect((await all()).map(({ id, name }) => `${String(id)} ${String(name)}`).slice(3, 5)).toEqual(['p4 Plant 4', 'p5 New']); // prettier-ignore
  });

  test('by a column that grows: only what changed, and deletions by a whole run', async () => {
    const feed = await connected(source({ table: 'plants', changed: 'changed' }));
    db.exec(`update plants set name = 'New', changed = 100 where id = 'p3'; delete from plants where id = 'p9'`);
    expect(await run(feed)).toMatchObject({ whole: false, read: 1, written: 1, deleted: 0 });
    expect(await run(feed, { whole: true })).toMatchObject({ whole: true, read: 9, deleted: 1 });
  });

  test('by triggers that are shown first: every change, deletions too, in order', async () => {
    const { feed } = own.house.yucca.feeds.create({ name: 'Shop', collection: 'plants', source: source({ table: 'plants', log: true }) }); // prettier-ignore
    expect(own.house.yucca.feeds.get(feed.id).run).toBeNull();
    const { sql } = await own.house.yucca.feeds.triggers(feed.id, false);
    expect(sql).toMatch(/create trigger/);
    await own.house.yucca.feeds.triggers(feed.id, true);
    expect(await settled(feed.id)).toMatchObject({ run: { state: 'done', read: 10 } });
    db.exec(`update plants set name = 'New' where id = 'p3'; delete from plants where id = 'p9';
      update plants set id = 'q1' where id = 'p1'; insert into plants (id, name) values ('p9', 'Back')`);
    expect(await run(feed)).toMatchObject({ whole: false, state: 'done', deleted: 0 });
    expect((await all()).map(({ id, name }) => `${String(id)} ${String(name)}`)).toEqual(
      (db.prepare(`select id || ' ' || name from plants order by id`).pluck().all() as string[]),
    ); // prettier-ignore
    await own.house.yucca.feeds.remove(feed.id);
    expect(db.prepare(`select count(*) from sqlite_master where name like 'yucca%'`).pluck().get()).toBe(0);
  });
});

test('a run that begins anew after it was broken off keeps nothing that is gone meanwhile', async () => {
  let broken = true;
  own.answer = (_, response) => {
    response.writeHead(200, { 'Content-Type': 'application/x-ndjson' });
    if (!broken) return void response.end(lines(TEN.slice(1).map((one) => ({ ...one, pad: 'x'.repeat(200_000) }))));
    // Enough for some pieces, and then the line is cut.
    response.write(lines(TEN.map((one) => ({ ...one, pad: 'x'.repeat(200_000) }))));
    setTimeout(() => response.destroy(), 300);
  };
  const feed = await connected(pollOf());
  expect(feed.run).toMatchObject({ state: 'failed' });
  expect(feed.run!.read).toBeGreaterThan(0);
  broken = false;
  expect(await run(feed)).toMatchObject({ state: 'done', read: 9, deleted: 1 });
  expect((await all()).map(({ id }) => id)).toEqual(TEN.slice(1).map(({ id }) => id));
});

test('a run that was broken off goes on where it was', async () => {
  let broken = true;
  own.answer = (request, response) => {
    const page = Number(new URL(request.url!, 'http://x').searchParams.get('page') ?? 0);
    if (page === 2 && broken) return void response.writeHead(500).end();
    const next = page < 3 ? { Link: `</plants.json?page=${page + 1}>; rel="next"` } : ({} as Record<string, string>);
    json([TEN[page]], next)(request, response);
  };
  const feed = await connected(pollOf());
  expect(feed.run).toMatchObject({ state: 'failed', read: 2 });
  await own.house.reopen();
  broken = false;
  expect(await run(feed)).toMatchObject({ state: 'done', read: 4, deleted: 0 });
  expect(asked.slice(-2)).toEqual(['/plants.json?page=2', '/plants.json?page=3']);
});
