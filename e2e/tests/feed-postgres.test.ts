/** A feed that follows a PostgreSQL server (the real one): snapshot and log meet, whoever is killed in between. */
import type { Collection, Feed, FeedComparison, FeedRun, FeedWithSecret, Page, SearchAnswer } from '@yucca/contract';
import { readFileSync } from 'node:fs';
import type pg from 'pg';
import { Postgres } from '../src/postgres.ts';
import { Server } from '../src/server.ts';

/** Changes under which the server is killed; with more by YUCCA_TEST_CHANGES=20000 it is killed every ten seconds. */
const CHANGES = Number(process.env.YUCCA_TEST_CHANGES ?? 3_000);
const IS_LONG = CHANGES > 3_000;
jest.setTimeout(900_000 * (CHANGES / 3_000));

let server: Server;
let postgres: Postgres;
let client: pg.Client;

beforeAll(async () => {
  [server, postgres] = await Promise.all([new Server().start(), Postgres.start()]);
  client = await postgres.client();
});
afterAll(async () => {
  await client?.end();
  await server?.leave();
  await postgres?.stop();
});

const source = (more: object): object => ({
  kind: 'postgres',
  host: '127.0.0.1',
  port: postgres.port,
  database: 'postgres',
  user: 'shop',
  key: 'id',
  allowPrivate: [`127.0.0.1:${postgres.port}`],
  ...more,
});

async function feedOf(collection: string, more: object): Promise<Feed> {
  await server.json<Collection>('POST', '/collections', { name: collection, key: 'id' });
  const order = { name: collection, collection, source: source(more) };
  const { feed } = await server.json<FeedWithSecret>('POST', '/feeds', order);
  return settled(feed.id);
}

async function settled(id: string): Promise<Feed> {
  for (let tries = 0; ; tries++) {
    const feed = await server.json<Feed>('GET', `/feeds/${id}`);
    if (feed.run !== null && feed.run.state !== 'running') return feed;
    if (tries > 600) throw new Error(`the run does not end: ${JSON.stringify(feed)}`);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}
const run = (id: string, query = ''): Promise<FeedRun> => server.json('POST', `/feeds/${id}/run?wait=true${query}`);
const compare = (id: string): Promise<FeedComparison> => server.result(`/feeds/${id}/compare`);
const plantsOf = async (collection: string): Promise<string[]> => {
  const { items } = await server.json<Page<Record<string, unknown>>>('GET', `/collections/${collection}/records?size=100`); // prettier-ignore
  return items.map(({ id, name, price }) => `${String(id)} ${String(name)} ${String(price)}`).sort();
};

test('each change of a table, by its log: new keys, several in a transaction, long values, a truncated table', async () => {
  await client.query(
    `create table plants (id text primary key, name text, price numeric(8,2), tags text[], extra jsonb, body text);
     insert into plants select 'p' || i, 'Plant ' || i, i + 0.5, array['a', 'b'], '{"k": [1]}', repeat(md5(i::text), 500) from generate_series(1, 12) i`,
  );
  const { id, run: first } = await feedOf('plants', { table: 'plants', follow: true });
  expect(first).toMatchObject({ state: 'done', whole: true, read: 12, written: 12 });
  const record = await server.json<{ record: object }>('GET', '/collections/plants/records/p1');
  expect(record.record).toMatchObject({ price: 1.5, tags: ['a', 'b'], extra: { k: [1] } });
  await client.query(
    `update plants set price = 9 where id = 'p3'; delete from plants where id = 'p4'; insert into plants (id, name) values ('n1', 'New');
     update plants set id = 'q5' where id = 'p5'; begin; update plants set name = 'x' where id = 'p6'; update plants set name = 'y' where id = 'p6'; commit;
     begin; delete from plants where id = 'p7'; rollback`,
  );
  expect(await run(id)).toMatchObject({ state: 'done', whole: false, failed: 0 });
  const now = (await client.query<{ line: string }>(`select id || ' ' || name || ' ' || coalesce(trim(trailing '.' from trim(trailing '0' from price::text)), 'null') as line from plants`)).rows; // prettier-ignore
  expect(await plantsOf('plants')).toEqual(now.map(({ line }) => line).sort());
  expect(await compare(id)).toMatchObject({ same: 12, missing: 0, different: 0, extra: 0 });
  // The rows are long: what an update leaves as it was is not in the log.
  expect((await server.json<{ record: { body: string } }>('GET', '/collections/plants/records/p3')).record.body).toHaveLength(16_000); // prettier-ignore
  expect(await run(id, '&whole=true')).toMatchObject({ whole: true, read: 12, same: 12, deleted: 0 });
  await client.query("truncate plants; insert into plants (id, name) values ('only', 'One')");
  await run(id);
  // Its one row has less in it than the others had: that is asked about first, and then what would be deleted.
  expect(await run(id)).toMatchObject({ state: 'asking', asks: null, written: 0 });
  expect(await run(id, '&confirm=true')).toMatchObject({ state: 'asking', asks: 12, deleted: 0 });
  expect(await run(id, '&confirm=true')).toMatchObject({ state: 'done', deleted: 12 });
  expect(await plantsOf('plants')).toEqual(['only One null']);
  // Nothing is left behind in the source.
  await server.call('DELETE', `/feeds/${id}`);
  expect((await client.query('select 1 from pg_replication_slots')).rowCount).toBe(0);
  expect((await client.query('select 1 from pg_publication')).rowCount).toBe(0);
});

test('what has drifted is found by hashes that the server makes, whoever changed it, and repaired', async () => {
  await client.query(
    `create table seeds (id text primary key, name text, price numeric, seen timestamptz);
     insert into seeds select 'd' || i, 'Seed ' || i, i / 3.0, '2026-05-04T10:00:00+02' from generate_series(1, 3000) i`,
  );
  const { id } = await feedOf('seeds', { table: 'seeds', follow: true });
  expect(await compare(id)).toMatchObject({ records: 3_000, same: 3_000, missing: 0, different: 0, extra: 0 });
  await client.query(`update seeds set price = 1 where id = 'd1'`);
  await run(id);
  expect(await compare(id)).toMatchObject({ same: 3_000, different: 0 });
  // In the collection, behind the feed's back.
  await server.call('PATCH', '/collections/seeds/records/d2', { name: 'By hand' });
  await server.call('DELETE', '/collections/seeds/records/d3');
  await server.call('PUT', '/collections/seeds/records/x1', { id: 'x1', name: 'Extra' });
  // In the source, and not read yet.
  await client.query(
    `update seeds set name = 'New' where id = 'd4'; delete from seeds where id = 'd5'; insert into seeds values ('d9999', 'Newest', 1, null)`,
  );
  const found = await compare(id);
  expect(found).toMatchObject({ records: 3_000, same: 2_996, missing: 2, different: 2, extra: 2 });
  expect(found.samples.different.sort((a, b) => (a.key < b.key ? -1 : 1))).toEqual([
    { key: 'd2', fields: ['name'] },
    { key: 'd4', fields: ['name'] },
  ]);
  expect([found.samples.missing.sort(), found.samples.extra.sort()]).toEqual([['d3', 'd9999'], ['d5', 'x1']]); // prettier-ignore
  const repaired = await server.result(`/feeds/${id}/repair?what=missing,different,extra`);
  expect(repaired).toMatchObject({ written: 4, deleted: 2, left: 0, asks: null });
  expect(await compare(id)).toMatchObject({ same: 3_000, missing: 0, different: 0, extra: 0 });
  await run(id);
  expect(await compare(id)).toMatchObject({ same: 3_000, missing: 0, different: 0, extra: 0 });
});

test('a row of 60 MB, and a transaction of many rows: bounded memory, and what can be stored is', async () => {
  const rss = (): number =>
    Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))![1]) / 1024;
  await client.query(
    `create table vast (body text, id text primary key, n int);
     insert into vast select '', 'v' || i, i from generate_series(1, 30) i; insert into vast values (repeat('x', 60000000), 'huge', 0)`,
  );
  // With the threads that reading a source starts.
  await feedOf('small', { query: 'select id, n from vast' });
  const before = rss();
  let most = 0;
  const watch = setInterval(() => (most = Math.max(most, rss())), 50);
  const { id, run: first } = await feedOf('vast', { table: 'vast', follow: true, timeoutS: 60 });
  expect(first).toMatchObject({ state: 'done', read: 31, written: 30, failed: 1, reason: expect.stringContaining('larger than') as string }); // prettier-ignore
  // Its key stands behind the large value in the log: everything is looked at again, and nothing is lost.
  await client.query(`update vast set body = repeat('y', 60000000) where id = 'huge'; update vast set n = 100 where id = 'v1'`); // prettier-ignore
  await run(id);
  expect(await run(id)).toMatchObject({ state: 'done', read: 31, written: 1, failed: 1, deleted: 0 });
  clearInterval(watch);
  expect(most - before).toBeLessThan(150);
  await client.query(`insert into vast select repeat(md5(i::text), 30), 'w' || i, i from generate_series(1, 20000) i`);
  await run(id);
  const { total } = await server.json<SearchAnswer>('GET', '/collections/vast/search?size=0');
  expect(total).toBe(20_030);
  // The large row is one that the collection lacks; nothing else is another.
  expect(await compare(id)).toMatchObject({ records: 20_031, missing: 1, different: 0, extra: 0 });
});

test('a first reading that is killed goes on where it was, and misses nothing of what changed meanwhile', async () => {
  await client.query(
    `create table orders (id text primary key, name text, n int);
     insert into orders select 'o' || i, repeat('Seed ', 50), i from generate_series(1, 20000) i`,
  );
  await server.json<Collection>('POST', '/collections', { name: 'orders', key: 'id' });
  const order = { name: 'orders', collection: 'orders', source: source({ table: 'orders', follow: true }) };
  const { feed } = await server.json<FeedWithSecret>('POST', '/feeds', order);
  const readNow = async (): Promise<number> => (await server.json<Feed>('GET', `/feeds/${feed.id}`)).run?.read ?? 0;
  while ((await readNow()) < 2_000) await new Promise((resolve) => setTimeout(resolve, 20));
  await server.stop('SIGKILL');
  // Before the place and behind it: it is somewhere in between.
  await client.query(
    `update orders set name = 'New' where id in (select id from orders order by id limit 100);
     update orders set name = 'New' where id in (select id from orders order by id desc limit 100);
     delete from orders where id in ('o1', 'o10', 'o9999', 'o9998'); insert into orders values ('a', 'First', 0), ('z', 'Last', 0)`,
  );
  await server.start();
  const { run: whole } = await settled(feed.id);
  expect(whole).toMatchObject({ state: 'done', whole: true });
  // Of what was written the last piece may not have been noted.
  expect(whole!.same).toBeLessThanOrEqual(500);
  await run(feed.id);
  const many = (await client.query('select 1 from orders')).rowCount!;
  expect(await compare(feed.id)).toMatchObject({ records: many, same: many, missing: 0, different: 0, extra: 0 });
});

test('a query that does more than read is refused, and one that takes too long', async () => {
  await client.query(`create table precious (id text primary key); insert into precious values ('a'), ('b')`);
  const bad = [
    'delete from precious returning *',
    'select 1) as r; drop table precious; --',
    'select 1; drop table precious',
    'with gone as (delete from precious returning *) select * from gone',
    'select * from precious for update',
    'select pg_sleep(60)::text as id',
    'nonsense',
  ];
  for (const [i, query] of bad.entries()) {
    const { state, reason } = await feedOf(`bad-${i}`, { query, timeoutS: 1 });
    expect({ query, state, reason }).toEqual({ query, state: 'failing', reason: expect.stringMatching(/PostgreSQL at/) as string }); // prettier-ignore
  }
  expect((await client.query('select 1 from precious')).rowCount).toBe(2);
  const { status } = await server.call('POST', '/feeds', { name: 'x', collection: 'bad-0', source: source({ table: 'precious', host: '/var/run/postgresql' }) }); // prettier-ignore
  expect(status).toBe(201);
});

test('while rows change and the server is killed again and again: both end equal', async () => {
  await client.query(
    `create table stock (id text primary key, name text, price int, rev int);
     insert into stock select 's' || i, 'Seed ' || i, i, 0 from generate_series(1, 4000) i`,
  );
  await server.json<Collection>('POST', '/collections', { name: 'stock', key: 'id' });
  const order = { name: 'stock', collection: 'stock', source: source({ table: 'stock', follow: true, everyS: 1 }) };
  const { feed } = await server.json<FeedWithSecret>('POST', '/feeds', order);
  let seed = 11;
  const chance = (most: number): number => (seed = (seed * 48_271) % 2_147_483_647) % most;
  let kills = 0;
  for (let made = 0, killAt = Date.now() + 700; made < CHANGES || kills < 4; made++) {
    const id = `s${chance(4_400)}`;
    const what = chance(10);
    if (what === 0) await client.query('delete from stock where id = $1', [id]);
    else await client.query('insert into stock values ($1, $2, $3, $4) on conflict (id) do update set price = excluded.price, rev = excluded.rev', [id, `Seed ${id}`, chance(500), made]); // prettier-ignore
    if (IS_LONG) await new Promise((resolve) => setTimeout(resolve, 15));
    if (Date.now() < killAt || (kills === 4 && !IS_LONG)) continue;
    // In the middle of the first reading, of the log, and of what is written of it.
    kills++;
    await server.stop('SIGKILL');
    await server.start();
    killAt = Date.now() + (IS_LONG ? 10_000 : 1_500);
  }
  expect(kills).toBeGreaterThanOrEqual(4);
  await server.ready();
  // What is still to be read is read now.
  for (let tries = 0; ; tries++) {
    const told = await run(feed.id);
    if (told.state === 'done' && told.read === 0) break;
    if (tries > 100) throw new Error(JSON.stringify(told));
  }
  const many = (await client.query('select 1 from stock')).rowCount!;
  expect(await compare(feed.id)).toMatchObject({ records: many, same: many, missing: 0, different: 0, extra: 0 });
  const { total } = await server.json<SearchAnswer>('GET', '/collections/stock/search?size=0');
  expect(total).toBe(many);
});
