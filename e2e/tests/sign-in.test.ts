import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By } from 'selenium-webdriver';
import { startBrowser } from '../src/browser';
import { Person, WAIT } from '../src/person';
import { Server } from '../src/server';

/** A name that is no secure place for a browser: it leaves out which page asks. */
const HOUSE = 'house.quillbrook.example';

let server: Server;
beforeAll(async () => {
  // It says it is reached from elsewhere; it listens on this machine alone.
  server = await new Server().start({ YUCCA_PUBLIC_URL: `http://${HOUSE}`, YUCCA_PASSWORD: 'quill and brook' });
});
afterAll(() => server.leave());

const get = (path: string, headers: Record<string, string> = {}): Promise<Response> =>
  fetch(server.base + path, { headers, redirect: 'manual' });
const own = { 'Sec-Fetch-Site': 'same-origin' };

const signIn = (password: string, headers: Record<string, string> = own): Promise<Response> =>
  fetch(`${server.base}/session`, {
    method: 'POST',
    redirect: 'manual',
    headers,
    body: new URLSearchParams({ password, next: '/c/plants/records' }),
  });

test('without signing in, every screen leads to the sign-in page and no studio call is answered', async () => {
  for (const path of ['/', '/c/plants/records', '/c/plants/fields', '/keys', '/api']) {
    const response = await get(path);
    expect([path, response.status]).toEqual([path, 307]);
    expect(response.headers.get('location')).toBe(`/sign-in?next=${encodeURIComponent(path)}`);
  }
  expect((await get('/api/v1/collections', own)).status).toBe(401);
  expect((await get('/sign-in')).status).toBe(200);
  expect((await get('/api/v1/health')).status).toBe(200);
});

test('a part of a page cannot be had by asking for it alone', async () => {
  const state = encodeURIComponent(
    JSON.stringify(['', { children: ['(studio)', { children: ['__PAGE__', {}] }] }, null, 'refetch']),
  );
  const response = await get('/', { RSC: '1', 'Next-Router-State-Tree': state });
  expect(await response.text()).not.toContain('Collections');
});

test('the password opens the studio with a cookie no script reads; signing out closes it', async () => {
  const wrong = await signIn('guess');
  expect(wrong.headers.get('location')).toContain('/sign-in?');
  expect(wrong.headers.get('set-cookie')).toBeNull();
  const right = await signIn('quill and brook');
  expect([right.status, right.headers.get('location')]).toEqual([303, '/c/plants/records']);
  const set = right.headers.get('set-cookie')!;
  expect(set).toMatch(/HttpOnly; SameSite=Lax/);
  const cookie = set.split(';')[0]!;
  expect((await get('/', { Cookie: cookie })).status).toBe(200);
  expect((await get('/api/v1/collections', { ...own, Cookie: cookie })).status).toBe(200);
  // Where the browser does not say which page asks (plain HTTP), the cookie is enough to read, and not to write.
  expect((await get('/api/v1/collections', { Cookie: cookie })).status).toBe(200);
  const write = (headers: Record<string, string>): Promise<Response> =>
    fetch(`${server.base}/api/v1/collections`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Cookie: cookie, ...headers },
      body: '{"name":"made"}',
    });
  expect((await write({})).status).toBe(401);
  expect((await write({ Origin: server.base })).status).toBe(401);
  const page = await (await get('/', { Cookie: cookie })).text();
  const token = /name="yucca-page" content="([^"]+)"/.exec(page)![1]!;
  expect((await write({ Origin: 'http://evil.example', 'X-Yucca-Page': token })).status).toBe(401);
  expect((await write({ Origin: server.base, 'X-Yucca-Page': token })).status).toBe(201);
  expect((await get('/api/v1/collections', { Cookie: cookie, 'Sec-Fetch-Site': 'cross-site' })).status).toBe(401);
  await fetch(`${server.base}/session/end`, {
    method: 'POST',
    redirect: 'manual',
    headers: { ...own, Cookie: cookie },
  });
  expect((await get('/', { Cookie: cookie })).status).toBe(307);
});

test('a form of another site signs nobody in, and no link leads away', async () => {
  const response = await signIn('quill and brook', { 'Sec-Fetch-Site': 'cross-site' });
  expect(response.headers.get('set-cookie')).toBeNull();
  const away = await fetch(`${server.base}/session`, {
    method: 'POST',
    redirect: 'manual',
    headers: own,
    body: new URLSearchParams({ password: 'quill and brook', next: '//evil.example/' }),
  });
  expect(away.headers.get('location')).toBe('/');
});

test('signed in over plain HTTP, as in a house of one’s own, somebody can read and write', async () => {
  const browser = await startBrowser({ hosts: { [HOUSE]: '127.0.0.1' } });
  const person = new Person(() => browser);
  try {
    await browser.get(`http://${HOUSE}:${new URL(server.base).port}/keys`);
    await person.write(By.css('input[name=password]'), 'quill and brook');
    await person.press('Sign in');
    await person.seeText('carried by the search pages');
    expect(await browser.executeScript('return window.isSecureContext')).toBe(false);
    await person.write(By.css('aside input.field'), 'House page');
    await person.press('Make key');
    await person.seeText('It is shown this once');
    const { items } = await server.api<{ items: { label: string }[] }>('GET', '/keys');
    expect(items.map(({ label }) => label)).toContain('House page');
    // A file is loaded, watched while it is, and found; a page of its own tells what visitors do.
    const file = path.join(mkdtempSync(path.join(tmpdir(), 'yucca-')), 'house.jsonl');
    writeFileSync(file, '{"id":"h1","name":"House leek"}\n{"id":"h2","name":"Stonecrop"}\n');
    await browser.get(`http://${HOUSE}:${new URL(server.base).port}/`);
    await person.see(By.css('h1'));
    await person.drop(file);
    await person.press('Load 2 records');
    await browser.wait(async () => (await browser.getCurrentUrl()).includes('/c/house/records'), WAIT);
    await server.api('POST', '/interfaces', { slug: 'house', collection: 'house' });
    await browser.get(`http://${HOUSE}:${new URL(server.base).port}/s/house`);
    await person.write(By.css('[role=combobox]'), 'leek');
    await person.until(async () => (await browser.findElements(By.css('[data-part=card] mark'))).length > 0);
    expect(await browser.executeScript(`return sessionStorage.getItem('yucca:session')`)).toMatch(/^\d+(-\d+){3}$/);
    const problems = (await browser.manage().logs().get('browser')).map(({ message }) => message);
    expect(problems.filter((one) => /TypeError|Uncaught/.test(one))).toEqual([]);
  } finally {
    await browser.quit();
  }
});
