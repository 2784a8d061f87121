/** Feeds from outside: a newcomer connects a source, the back office changes a plant, nothing is lost in crashes. */
import type { Feed, FeedComparison, FeedEvent, FeedRepair, FeedWithSecret, Page, SearchAnswer } from '@yucca/contract';
import { execFile } from 'node:child_process';
import { createHmac, randomUUID } from 'node:crypto';
import { mkdirSync, mkdtempSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import { By } from 'selenium-webdriver';
import { startBackOffice, type BackOffice } from '../../demo/src/back-office/server';
import { startSending } from '../../demo/src/back-office/sender';
import { SENDERS } from '../../apps/studio/src/features/feeds/sender-code';
import { Store } from '../../demo/src/back-office/store';
import { setTheme, startBrowser, type Browser } from '../src/browser';
import { Person } from '../src/person';
import { loadPlants, Server, somePlants } from '../src/server';

/** Changes of the back office, and how often the server is killed under them; more by YUCCA_TEST_CHANGES=20000. */
const CHANGES = Number(process.env.YUCCA_TEST_CHANGES ?? 3_000);
const KILL_EVERY_MS = CHANGES > 3_000 ? 10_000 : 2_500;
const MOST_KILLS = CHANGES > 3_000 ? Infinity : 5;
jest.setTimeout(900_000 * (CHANGES / 3_000));
const away = mkdtempSync(path.join(tmpdir(), 'yucca-feeds-'));
let server: Server;
let browser: Browser;
const { click, see, seeText, press, until, violations, write } = new Person(() => browser);

beforeAll(async () => {
  server = await new Server().start();
  await loadPlants(server, 'plants', somePlants());
  browser = await startBrowser();
});
afterAll(async () => {
  await browser?.quit();
  await server.leave();
  rmSync(away, { recursive: true, force: true });
});

const price = async (id: string): Promise<unknown> =>
  (await server.json<{ record: { price: unknown } }>('GET', `/collections/plants/records/${id}`)).record.price;

const has = (command: string): Promise<boolean> =>
  promisify(execFile)('sh', ['-c', `command -v ${command}`]).then(
    () => true,
    () => false,
  );

test('a newcomer connects a source in a minute, sends from it, and looks after it', async () => {
  const began = Date.now();
  await browser.get(`${server.base}/c/plants/feeds`);
  await seeText('No source is connected');
  expect(await violations()).toEqual([]);
  await (await see(By.css('form input'))).sendKeys('Shop');
  await press('Connect');
  await seeText('It is told this once');
  const secret = await (await see(By.css('main code'))).getText();
  expect(secret).toMatch(/^whsec_/);
  await seeText('Nothing has come yet');
  // The code as it stands on the screen, in a folder of its own.
  await press('Node');
  const code = await (await see(By.css('pre'))).getText();
  writeFileSync(path.join(away, 'send.mjs'), code.replace('P-0166', 'P-001'));
  const env = { ...process.env, FEED_SECRET: secret };
  await promisify(execFile)(process.execPath, ['send.mjs'], { cwd: away, env });
  await until(async () => (await price('P-001')) === 12);
  await seeText('applied');
  expect(Date.now() - began).toBeLessThan(120_000);
  expect(await violations()).toEqual([]);
  await setTheme(browser, 'dark');
  expect(await violations()).toEqual([]);
  await setTheme(browser, 'light');

  // The other languages, where they are installed.
  const [{ id }] = (await server.json<Page<Feed>>('GET', '/feeds?collection=plants')).items as [Feed];
  const runs = { curl: ['sh', 'send.sh'], PHP: ['php', 'send.php'], Python: ['python3', 'send.py'] } as const;
  let sent = 1;
  for (const [language, [command, file]] of Object.entries(runs)) {
    if (!(await has(command))) continue;
    const sender = SENDERS.find((one) => one.language === language)!;
    const text = sender.code(`${server.base}/api/v1/feeds/${id}/events`).replace('P-0166', 'P-002');
    writeFileSync(path.join(away, file), text);
    const { stdout } = await promisify(execFile)(command, [file], { cwd: away, env });
    expect({ language, stdout: stdout.trim().replace(/\s/g, '') }).toEqual({ language, stdout: '{"taken":1,"repeats":0}' }); // prettier-ignore
    sent++;
  }
  expect((await server.json<Feed>('GET', `/feeds/${id}`)).events).toBe(sent);

  await press('Send a test event');
  // The first record is named once it is known.
  const key = await see(By.css('label:nth-of-type(1) input'));
  await until(async () => (await key.getAttribute('value')) === 'P-001');
  await write(By.css('label:nth-of-type(3) input'), '{"price": 99}');
  await press('Send');
  await seeText('The test event: applied.');
  expect(await price('P-001')).toBe(99);
  await press('Pause');
  await seeText('Paused');
  await server.api('POST', `/feeds/${id}/test`, { key: 'P-001', action: 'patch', data: { price: 7 } });
  await seeText('waits: the feed is paused');
  expect(await price('P-001')).toBe(99);
  await press('Resume');
  await until(async () => (await price('P-001')) === 7);

  await server.api('POST', `/feeds/${id}/test`, { key: 'P-003', action: 'upsert', data: { id: 'another' } });
  await seeText('1 event not applied');
  await seeText('its event says');
  await press('Try them again');
  await seeText('0 events applied now.');
  // What the source has, beside what is here: one was lost, one is another, one is too many.
  const records = somePlants().map((plant, i) => (i === 4 ? { ...plant, name: 'Moonlit fern' } : plant));
  const source = path.join(away, 'source.jsonl');
  writeFileSync(source, [...records.slice(3), { id: 'P-999', name: 'Lost on the way' }].map((one) => JSON.stringify(one)).join('\n')); // prettier-ignore
  utimesSync(source, new Date(), new Date(Date.now() + 60_000));
  await (await see(By.css('input[type=file]'))).sendKeys(source);
  await seeText('P-005 (name)');
  await seeText('P-999');
  expect(await violations()).toEqual([]);
  await press('Write the 2 records missing or different');
  await seeText('2 records written, 0 deleted.');
  await press('Delete the 3 records not in the source');
  await seeText('0 records written, 3 deleted.');
  await press('End …');
  await (await see(By.css('[role=dialog] input'))).sendKeys('Shop');
  await press('End the feed');
  await seeText('No source is connected');
});

const signed = (secret: string, body: string): Record<string, string> => {
  const [id, now] = [randomUUID(), String(Math.floor(Date.now() / 1_000))];
  const key = Buffer.from(secret.replace('whsec_', ''), 'base64');
  const signature = createHmac('sha256', key).update(`${id}.${now}.${body}`).digest('base64');
  return { 'webhook-id': id, 'webhook-timestamp': now, 'webhook-signature': `v1,${signature}` };
};

test('who has no signature gets in nowhere, and learns nothing', async () => {
  const order = { name: 'Shop', collection: 'plants', source: { kind: 'webhook' } };
  const { feed, secret = '' } = await server.api<FeedWithSecret>('POST', '/feeds', order);
  const body = JSON.stringify({
    specversion: '1.0',
    id: '1',
    source: '/s',
    type: 'a.upserted',
    subject: 'x',
    data: {},
  });
  const send = (headers: Record<string, string>, text = body, id = feed.id): Promise<Response> =>
    fetch(`${server.base}/api/v1/feeds/${id}/events`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/cloudevents+json', ...headers },
      body: text,
    });
  const good = signed(secret, body);
  const refused: Record<string, string>[] = [
    {},
    { ...good, 'webhook-id': '' },
    { ...good, 'webhook-id': 'x'.repeat(2_000) },
    { ...good, 'webhook-timestamp': '0' },
    { ...good, 'webhook-timestamp': '1e99' },
    { ...good, 'webhook-timestamp': String(Number(good['webhook-timestamp']) + 1) },
    { ...good, 'webhook-signature': 'v1,' },
    { ...good, 'webhook-signature': 'v2,' + good['webhook-signature']!.slice(3) },
    { ...good, 'webhook-signature': good['webhook-signature']!.slice(0, -4) },
    { ...signed('whsec_AAAA', body) },
    { Authorization: `Bearer ${server.adminKey}` },
  ];
  for (const headers of refused) expect({ headers, status: (await send(headers)).status }).toEqual({ headers, status: 401 }); // prettier-ignore
  expect((await send(good, body.replace('"x"', '"y"'))).status).toBe(401);
  // A feed that is not there is told like one whose secret is wrong.
  const [known, unknown] = [await send({ ...good, 'webhook-id': 'z' }), await send({ ...good, 'webhook-id': 'z' }, body, randomUUID())]; // prettier-ignore
  expect(await unknown.json()).toEqual(await known.json());
  for (const [text, status] of [
    ['{', 400],
    ['[]', 422],
    ['null', 422],
    ['{"specversion":"1.0"}', 422],
  ] as const)
    expect({ text, status: (await send(signed(secret, text), text)).status }).toEqual({ text, status });
  const big = JSON.stringify({ text: 'x'.repeat(20_000_000) });
  expect((await send(signed(secret, big), big)).status).toBe(413);
  expect((await send(good)).status).toBe(202);
  // The same message once more, as somebody who listened would send it.
  expect((await send(good)).status).toBe(200);
  expect((await send(signed(secret, body))).status).toBe(200);
  await server.call('DELETE', `/feeds/${feed.id}`);
  await server.call('DELETE', '/collections/plants/records/x');
});

describe('the back office', () => {
  let office: BackOffice;
  const dataDir = path.join(away, 'office');

  beforeAll(async () => {
    mkdirSync(path.join(dataDir, 'quillbrook'), { recursive: true });
    const lines = somePlants().map((plant) => JSON.stringify({ stock: 5, ...plant }));
    writeFileSync(path.join(dataDir, 'quillbrook/plants.jsonl'), lines.join('\n'));
    office = await startBackOffice({ dataDir, yucca: server.base, adminKey: server.adminKey, port: 0 });
  });

  test('edit a plant there, and see it in the search a moment later', async () => {
    await browser.get(`${office.address}/?q=fern`);
    await click(By.linkText('P-005'));
    const name = await see(By.css('input[name=name]'));
    await name.clear();
    await name.sendKeys('Moonlit cinnamon fern');
    await click(By.css('button[value=save]'));
    const saved = Date.now();
    await until(async () => {
      const { results } = await server.json<SearchAnswer>('GET', '/collections/plants/search?q=moonlit');
      return results[0]?.id === 'P-005';
    });
    expect(Date.now() - saved).toBeLessThan(3_000);
    // No longer for sale there, and not found here.
    await click(By.css('button[value=delete]'));
    await until(async () => (await server.json<SearchAnswer>('GET', '/collections/plants/search?q=moonlit')).total === 0); // prettier-ignore
    // Its own comparison finds nothing to do.
    await browser.get(`${office.address}/line`);
    await click(By.css('form[action="/compare"] button'));
    await seeText('Compared with the search');
    await click(By.css('form[action="/repair"] button'));
    await seeText('were written');
    // A page of another site cannot do that.
    const across = { method: 'POST', body: 'do=delete', headers: { 'Sec-Fetch-Site': 'cross-site' } };
    expect((await fetch(`${office.address}/plants/P-006`, across)).status).toBe(403);
  });

  test('losses, repeats, another order, a server that is killed again and again: both end equal', async () => {
    await office.close();
    const own = new Store(path.join(dataDir, 'back-office.sqlite'));
    own.set('trouble', JSON.stringify({ lose: 0.05, repeat: 0.1, reorder: 0.2, delayMs: 50 }));
    const feed = own.setting('feed')!;
    let seed = 7;
    const chance = (): number => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647;
    const plants = somePlants().map((plant) => (plant as { id: string }).id);
    let made = 0;
    let kills = 0;
    const start = (): (() => Promise<void>) => startSending(own, { address: `${server.base}/api/v1/feeds/${feed}/events`, secret: own.setting('secret')! }); // prettier-ignore
    let stop = start();
    const nextKill = (): number => Date.now() + KILL_EVERY_MS;
    let killAt = nextKill();
    while (made < CHANGES || own.waiting > 0) {
      for (let n = 0; made < CHANGES && n < 25; n++, made++) {
        const id = plants[Math.floor(chance() * plants.length)]!;
        const isThere = own.plant(id) !== null;
        if (isThere && chance() < 0.1) own.change(id, null);
        else if (isThere && chance() < 0.5) own.change(id, { price: Math.floor(chance() * 100) });
        else if (isThere) own.change(id, { stock: Math.floor(chance() * 50), care: `Changed ${made} times` });
        else own.change(id, { name: `New plant ${made}`, price: 1, stock: 1 });
      }
      await new Promise((resolve) => setTimeout(resolve, 40));
      if (Date.now() < killAt || kills === MOST_KILLS) continue;
      kills++;
      await stop();
      await server.stop('SIGKILL');
      await server.start();
      // It has another address now.
      stop = startSending(own, { address: `${server.base}/api/v1/feeds/${feed}/events`, secret: own.setting('secret')! }); // prettier-ignore
      killAt = nextKill();
    }
    await stop();
    expect(kills).toBeGreaterThanOrEqual(3);
    await server.ready();
    // What was lost on the way is found by comparing, and nothing else is.
    const lines = own.lines().join('\n');
    const type = { 'Content-Type': 'application/x-ndjson' };
    const compare = (): Promise<FeedComparison> => server.result(`/feeds/${feed}/compare`, lines, type);
    const found = await compare();
    expect(found.missing + found.different + found.extra).toBeGreaterThan(0);
    const repaired = await server.result<FeedRepair>(`/feeds/${feed}/repair?what=missing,different,extra`, lines, type); // prettier-ignore
    expect(repaired).toMatchObject({ unreadable: 0, asks: null, left: 0 });
    expect(repaired.written + repaired.deleted).toBe(found.missing + found.different + found.extra);
    expect(await compare()).toMatchObject({ missing: 0, different: 0, extra: 0 });
    const items = [];
    for (const page of [1, 2])
      items.push(...(await server.json<Page<Record<string, unknown>>>('GET', `/collections/plants/records?size=100&page=${page}`)).items); // prettier-ignore
    const here = new Map(items.map((record) => [record.id as string, record]));
    for (const id of plants) {
      const there = own.plant(id);
      const { name, price, stock } = here.get(id) ?? {};
      const expected = there === null ? {} : { name: there.name, price: there.price };
      expect({ id, name, price }).toEqual({ id, name: undefined, price: undefined, ...expected });
      if (there?.care !== undefined && String(there.care).startsWith('Changed')) expect({ id, stock }).toEqual({ id, stock: there.stock }); // prettier-ignore
    }
    const told = await server.json<Feed>('GET', `/feeds/${feed}`);
    expect(told).toMatchObject({ dead: 0, lagS: 0 });
    const { total } = await server.json<SearchAnswer>('GET', '/collections/plants/search?size=0');
    expect(total).toBe(items.length);
    const [newest] = (await server.json<Page<FeedEvent>>('GET', `/feeds/${feed}/events?size=1`)).items;
    expect(newest!.source).toBe('/back-office');
    own.close();
  });
});
