/** Sources that are asked, from outside: by mouse, from the command line, slow, huge, killed in between. */
import type { Feed, FeedRun, FeedWithSecret, Page, SearchAnswer } from '@yucca/contract';
import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type ServerResponse, type Server as HttpServer } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import Database from 'better-sqlite3';
import { By } from 'selenium-webdriver';
import { setTheme, startBrowser, type Browser } from '../src/browser';
import { Person } from '../src/person';
import { Server, somePlants } from '../src/server';

const BIN = path.join(__dirname, '../../packages/cli/bin/yucca.mjs');
const loadDir = mkdtempSync(path.join(tmpdir(), 'yucca-exports-'));
const env = { YUCCA_LOAD_DIR: loadDir };
let server: Server;
let browser: Browser;
let shop: HttpServer;
let host: string;
let answer: (address: string, response: ServerResponse) => void;
const { click, see, seeText, press, until, violations, write } = new Person(() => browser);

beforeAll(async () => {
  server = await new Server().start(env);
  browser = await startBrowser();
  shop = createServer((request, response) => answer(request.url!, response));
  await new Promise<void>((resolve) => shop.listen(0, '127.0.0.1', resolve));
  host = `127.0.0.1:${(shop.address() as { port: number }).port}`;
});
afterAll(async () => {
  await browser?.quit();
  await server.leave();
  shop?.closeAllConnections();
  shop?.close();
  rmSync(loadDir, { recursive: true, force: true });
});

const json = (value: unknown) => (_: string, response: ServerResponse) =>
  void response.writeHead(200, { 'Content-Type': 'application/json' }).end(JSON.stringify(value));
const field = (label: string): By => By.xpath(`//label[contains(normalize-space(.), "${label}")]//input`);
const make = (name: string): Promise<Response> => server.call('POST', '/collections', { name, key: 'id' });
const feedOf = async (collection: string, source: object): Promise<Feed> => {
  await make(collection);
  const { feed } = await server.api<FeedWithSecret>('POST', '/feeds', { name: collection, collection, source });
  return feed;
};
const run = (id: string, query = ''): Promise<FeedRun> => server.json('POST', `/feeds/${id}/run?wait=true${query}`);
const total = async (collection: string): Promise<number> =>
  (await server.json<SearchAnswer>('GET', `/collections/${collection}/search?size=0`)).total;

/** Runs the command as a person would; what it printed and its exit code. */
async function yucca(...args: string[]): Promise<{ code: number; out: string }> {
  const access = { ...process.env, YUCCA_URL: server.base, YUCCA_KEY: server.adminKey };
  try {
    const { stdout } = await promisify(execFile)(process.execPath, [BIN, 'feed', ...args], { env: access });
    return { code: 0, out: stdout };
  } catch (error) {
    const { code, stdout, stderr } = error as { code: number; stdout: string; stderr: string };
    return { code, out: stdout + stderr };
  }
}

test('a newcomer connects an address by mouse, sees its records first, and answers what it asks', async () => {
  await make('plants');
  answer = json({ meta: { shop: 'Quillbrook' }, plants: somePlants(40) });
  const began = Date.now();
  await browser.get(`${server.base}/c/plants/feeds`);
  await seeText('No source is connected');
  await press('An address');
  await write(field('Address'), `http://${host}/export.json`);
  await press('Look at its records');
  // This machine is a private network: that is said, and can be allowed.
  await seeText('is in a private network');
  await press(`Allow ${host}`);
  await seeText('Told apart by “id”');
  expect(await violations()).toEqual([]);
  await press('Connect');
  await seeText('Everything read in');
  expect(Date.now() - began).toBeLessThan(120_000);
  await until(async () => (await total('plants')) === 40);
  expect(await violations()).toEqual([]);
  await setTheme(browser, 'dark');
  expect(await violations()).toEqual([]);
  await setTheme(browser, 'light');

  answer = json({ plants: somePlants(30) });
  await press('Run now');
  await seeText('The source lacks 10 records that are here');
  expect(await violations()).toEqual([]);
  // The overview says so too.
  await browser.get(server.base);
  await seeText('waits for an answer');
  await click(By.partialLinkText('waits for an answer'));
  await press('Delete the 10 records');
  await until(async () => (await total('plants')) === 30);

  // A field is made of another on the way; first it is tried.
  await press('Change …');
  await press('Add a field');
  await write(By.css('input[aria-label="Field"]'), 'cost');
  await write(By.css('input[aria-label="Made of"]'), '/price');
  await press('Try it on its records');
  await see(By.xpath('//section[@aria-label="Mapping"]//th[.="cost"]'));
  await press('Save, and read everything again');
  await seeText('1 field made on the way');
  // “price” was used: it is asked before it goes.
  await seeText('Fields that are used are not what they were');
  await press('Write it all the same');
  await until(async () => {
    const { record } = await server.json<{ record: Record<string, unknown> }>(
      'GET',
      '/collections/plants/records/P-001',
    );
    return record.cost === 4 && record.price === undefined;
  });
  await press('Compare now');
  await see(By.xpath('//dt[.="Same"]/following-sibling::dd[.="30"]'));
});

test('the same from the command line', async () => {
  answer = json({ plants: somePlants(30) });
  expect((await yucca('list')).out).toMatch(/Export\tplants\tpoll\trunning/);
  expect(await yucca('run', 'Export')).toMatchObject({ code: 0, out: expect.stringMatching(/run \d+ done: 30 read, 0 written, 30 as they were/) as string }); // prettier-ignore
  await server.call('PATCH', '/collections/plants/records/P-001', { cost: 1 });
  expect(await yucca('compare', 'Export')).toMatchObject({ code: 3, out: expect.stringMatching(/1 different.*\ndifferent: P-001 \(cost\)/) as string }); // prettier-ignore
  expect((await yucca('repair', 'Export')).out).toMatch(/^1 written, 0 deleted/);
  expect(await yucca('compare', 'Export')).toMatchObject({ code: 0 });
  answer = (_, response) => void response.writeHead(500).end();
  expect(await yucca('run', 'Export')).toMatchObject({ code: 3, out: expect.stringMatching(/answers 500/) as string });
  expect(await yucca('status', 'Export')).toMatchObject({ code: 3, out: expect.stringMatching(/failing/) as string });
  expect(await yucca('run', 'Nothing')).toMatchObject({ code: 1, out: 'There is no feed Nothing.\n' });
});

test('a record of 500 MB, and a list without end: refused, with memory bounded, and others are not held up', async () => {
  const rss = (): number =>
    Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))![1]) / 1024;
  const chunk = Buffer.alloc(1 << 20, 'x');
  answer = (address, response) => {
    response.writeHead(200, { 'Content-Type': 'application/json' });
    if (address === '/small') return void response.end('[{"id":"s"}]');
    let left = 500;
    response.write('[{"id":"a","name":"Fern"},{"id":"huge","text":"');
    const more = (): void => {
      while (left-- > 0) if (!response.write(chunk)) return void response.once('drain', more);
      response.end('"},{"id":"b","name":"Rose"}]');
    };
    more();
  };
  const before = rss();
  let most = 0;
  const watch = setInterval(() => (most = Math.max(most, rss())), 50);
  const big = await feedOf('big', { kind: 'poll', url: `http://${host}/big`, allowPrivate: [host] });
  const reading = run(big.id);
  const small = await feedOf('small', { kind: 'poll', url: `http://${host}/small`, allowPrivate: [host] });
  const began = Date.now();
  expect(await run(small.id)).toMatchObject({ state: 'done' });
  expect(Date.now() - began).toBeLessThan(5_000);
  expect(await reading).toMatchObject({ state: 'done', read: 3, written: 2, failed: 1 });
  clearInterval(watch);
  expect(most - before).toBeLessThan(400);
});

test('a database that is followed by triggers, while the server is killed again and again: both end equal', async () => {
  mkdirSync(path.join(loadDir, 'shop'));
  const file = new Database(path.join(loadDir, 'shop/plants.db'));
  file.pragma('journal_mode = WAL');
  file.exec('create table plants (id text primary key, name text, price int)');
  const put = file.prepare('insert into plants values (?, ?, ?) on conflict do update set price = excluded.price');
  file.transaction(() => Array.from({ length: 3_000 }, (_, i) => put.run(`p${i}`, `Plant ${i}`, i)))();
  const feed = await feedOf('followed', { kind: 'sqlite', file: 'shop/plants.db', table: 'plants', key: 'id', log: true, everyS: 1 }); // prettier-ignore
  await server.api('POST', `/feeds/${feed.id}/triggers`);
  let seed = 5;
  const chance = (most: number): number => (seed = (seed * 48_271) % 2_147_483_647) % most;
  for (let kills = 0, killAt = Date.now() + 400; kills < 3;) {
    for (let n = 0; n < 20; n++)
      if (chance(8) === 0) file.prepare('delete from plants where id = ?').run(`p${chance(3_300)}`);
      else put.run(`p${chance(3_300)}`, 'New', chance(90));
    await new Promise((resolve) => setTimeout(resolve, 30));
    if (Date.now() < killAt) continue;
    kills++;
    await server.stop('SIGKILL');
    await server.start(env);
    killAt = Date.now() + 1_200;
  }
  await server.ready();
  for (let tries = 0; ; tries++) {
    const told = await run(feed.id);
    if (told.state === 'done' && told.read === 0) break;
    if (tries > 60) throw new Error(JSON.stringify(told));
  }
  const many = file.prepare('select count(*) from plants').pluck().get() as number;
  expect(await server.result(`/feeds/${feed.id}/compare`)).toMatchObject({ records: many, same: many, missing: 0, different: 0, extra: 0 }); // prettier-ignore
  expect(await total('followed')).toBe(many);
  await server.call('DELETE', `/feeds/${feed.id}`);
  expect(file.prepare(`select 1 from sqlite_master where name like 'yucca%'`).get()).toBeUndefined();
  file.close();
});

test('what is no folder or file of the allowed one is not read, whatever it is called', async () => {
  await make('outside');
  writeFileSync(path.join(loadDir, 'not.db'), 'no database');
  const files = ['/etc/passwd', '../../etc/passwd', 'shop/../../x', 'a\u0000b', 'not.db', 'absent.db', ''];
  for (const file of files) {
    const sources = [
      { kind: 'folder', path: file },
      { kind: 'sqlite', file: file || '.', table: 'plants', key: 'id' },
    ];
    for (const source of sources.slice(file === '' ? 1 : 0)) {
      const response = await server.call('POST', '/feeds/preview', { source });
      expect({ source, status: response.status }).toEqual({ source, status: 422 });
    }
  }
  const { items } = await server.json<Page<Feed>>('GET', '/feeds?collection=outside');
  expect(items).toEqual([]);
});
