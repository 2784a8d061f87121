/** Pages as they are taken away: installed from their own README elsewhere, built, and used from another origin. */
import { spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { gunzipSync } from 'node:zlib';
import type { OfflineManifest, SearchAnswer, SearchRequest } from '@yucca/contract';
import { OfflineCollections } from '@yucca/offline';
import { Key } from 'selenium-webdriver';
import { startBrowser, type Browser } from '../src/browser';
import { install, installFromHere, run, Site, takeAway } from '../src/handed-over';
import { HandedOverPage } from '../src/handed-over-page';
import { Person } from '../src/person';
import { freePort, Server, somePlants } from '../src/server';

const ROOT = path.join(__dirname, '../..');
const TSX = path.join(ROOT, 'node_modules/tsx/dist/cli.mjs');
/** Those of the demo, and the page that a collection has from the moment it is dropped. */
const PAGES = ['nursery', 'growing', 'collect', 'dropped'] as const;
type Page = (typeof PAGES)[number];
/** Every project in the way of its README, with its own smoke test: half an hour, so not each time. */
const IS_WHOLE = process.env.YUCCA_TEST_HANDOVER === 'whole';
/** Where a project's own smoke test finds a browser. */
const BROWSERS = {
  CHROME_PATH: process.env.CHROME_PATH ?? '/usr/bin/chromium',
  CHROMEDRIVER_PATH: process.env.CHROMEDRIVER_PATH ?? '/usr/bin/chromedriver',
};
const away = mkdtempSync(path.join(tmpdir(), 'yucca-handover-'));
let server: Server;
let site: Site;
let browser: Browser;
const { until: wait } = new Person(() => browser);
const { all, click, one, text, number, address, firstRecord, use, problemsOf } = new HandedOverPage(() => browser);

beforeAll(async () => {
  server = await new Server().start();
  site = await new Site().start();
  await run(process.execPath, [TSX, path.join(ROOT, 'demo/src/make.ts'), server.dataDir], ROOT);
  await run(process.execPath, [TSX, path.join(ROOT, 'demo/src/load.ts'), server.base, server.dataDir], ROOT, {
    YUCCA_ADMIN_KEY: server.adminKey,
  });
  await server.api('POST', '/collections', { name: 'dropped' });
  await server.api('POST', '/collections/dropped/records?wait=true', somePlants());
  browser = await startBrowser();
});
afterAll(async () => {
  await browser?.quit();
  site?.stop();
  await server?.leave();
  rmSync(away, { recursive: true, force: true });
});

test.each(PAGES)('React, %s: typed strictly, built, used from another origin under its policy', (page) =>
  vite('react', page, 'growing'),
);

/** A page as a project: checked, built and used; one of them also by the smoke test that comes along. */
async function vite(target: 'react' | 'plain', page: Page, smoked: Page): Promise<void> {
  const project = await takeAway(server, page, target, [site.base, 'http://localhost:4173'], away);
  // One in the way of its README: a registry may be slow, and what npm does is the same for all.
  await (IS_WHOLE || (target === 'plain' && page === smoked) ? install : installFromHere)(project);
  await run('npm', ['run', 'check'], project.folder);
  await run('npm', ['run', IS_WHOLE || page === smoked ? 'smoke' : 'build'], project.folder, BROWSERS);
  Object.assign(site, { folder: path.join(project.folder, 'dist'), policy: project.policy });
  await use(`${site.base}/`, page === 'dropped');
  expect((await fetch(await firstRecord())).status).toBe(200);
}

test.each(PAGES)('one HTML file, %s: used from another origin under its policy', async (page) => {
  const { folder, policy } = await takeAway(server, page, 'html', [site.base], away);
  Object.assign(site, { folder, policy });
  await use(`${site.base}/`, page === 'dropped');
});

test.each(PAGES)('without a framework, %s: typed strictly, built, used from another origin under its policy', (page) =>
  vite('plain', page, 'collect'),
);

test('without a framework: a text before a search, rows of records, a table', async () => {
  await server.api('POST', '/interfaces', {
    ...{ slug: 'compared', title: 'Compared', collection: 'plants', layout: 'table' },
    table: [{ field: 'name' }, { field: 'price', label: 'Costs' }, { field: 'colours' }],
    start: { text: 'Begin here.', results: false },
    shelves: [
      { from: 'chosen', label: 'Ours', ids: ['P-0002', 'P-0001'] },
      { from: 'found', label: 'Guides', collection: 'guides', size: 2 },
      { from: 'viewed', label: 'Seen before' },
    ],
  });
  const project = await takeAway(server, 'compared', 'plain', [site.base], away);
  await installFromHere(project);
  await run('npm', ['run', 'build'], project.folder);
  Object.assign(site, { folder: path.join(project.folder, 'dist'), policy: project.policy });
  const shelf = (label: string): string => `[data-part=shelf][aria-label="${label}"] h2 a`;
  await problemsOf();
  await browser.get(`${site.base}/`);
  await wait(async () => (await all(shelf('Ours'))).length === 2);
  expect(await (await one(shelf('Ours'))).getAttribute('href')).toMatch(/\/r\/P-0002$/);
  expect(await text('[data-part=start]')).toBe('Begin here.');
  expect(await all('[data-part=table], [data-part=count]')).toEqual([]);
  await (await one('[role=combobox]')).sendKeys('lavender', Key.ENTER);
  await wait(async () => (await all('tbody tr mark')).length > 0 && (await all(shelf('Guides'))).length > 0);
  expect(await all(`[data-part=start], ${shelf('Ours')}`)).toEqual([]);
  expect(await Promise.all((await all('thead th')).map((cell) => cell.getText()))).toEqual([
    'Name',
    'Costs',
    'Colours',
  ]);
  expect(await text('tbody td[data-figures=true] [data-part=figure]')).toMatch(/\d/);
  expect(await (await one(shelf('Guides'))).getAttribute('href')).toMatch(/\/s\/growing\/r\//);
  const name = await text('tbody tr th');
  await click('tbody tr th a');
  await wait(async () => /\/r\/P-\d+$/.test(await address()));
  await browser.get(`${site.base}/`);
  await wait(async () => (await all(shelf('Seen before'))).length === 1);
  expect(await text(shelf('Seen before'))).toBe(name);
  expect(await problemsOf()).toEqual([]);
});

test.each(PAGES)('the search field of a header, %s: offers, and the way to the site’s own results', async (page) => {
  const { folder, policy } = await takeAway(server, page, 'header', [site.base], away);
  Object.assign(site, { folder, policy });
  const word = await aWordOf(page);
  await browser.get(`${site.base}/`);
  const begun = word.slice(0, -2);
  await (await one('[role=combobox]')).sendKeys(begun);
  await wait(async () => (await all('[role=option] mark')).length > 0);
  expect(await problemsOf()).toEqual([]);
  await (await one('[role=combobox]')).sendKeys(word.slice(-2), Key.ENTER);
  await wait(async () => (await address()) === `${site.base}/search?q=${encodeURIComponent(word)}`);
});

/** A word of the first result of the page that Yucca hosts. */
async function aWordOf(page: Page): Promise<string> {
  await browser.get(`${server.base}/s/${page}`);
  const word = /\p{L}{5,}/u.exec(await text('[data-part=card] h2'))![0];
  await problemsOf();
  return word;
}

// The fullest and the barest: each takes half a minute. A build also checks types.
test.each(IS_WHOLE ? PAGES : (['nursery', 'dropped'] as const))(
  'Next.js, %s: typed strictly, built, first results from its server, record pages, a sitemap',
  async (page) => {
    const port = await freePort();
    const base = `http://127.0.0.1:${port}`;
    const project = await takeAway(server, page, 'next', [base, 'http://localhost:3100'], away);
    await (IS_WHOLE ? install : installFromHere)(project);
    await run('npm', ['run', IS_WHOLE || page === 'nursery' ? 'smoke' : 'build'], project.folder, BROWSERS);
    if (IS_WHOLE || page === 'nursery') await run('npm', ['run', 'check'], project.folder);
    const next = spawn(process.execPath, [path.join(project.folder, 'node_modules/next/dist/bin/next'), 'start', '-H', '127.0.0.1', '-p', String(port)], { cwd: project.folder, stdio: 'ignore', env: { PATH: process.env.PATH, SITE: base } as NodeJS.ProcessEnv }); // prettier-ignore
    const ended = new Promise((resolve) => next.once('exit', resolve));
    try {
      await answers(base);
      await use(`${base}/`, page === 'dropped');
      await firstResultsFromServer(base, page);
    } finally {
      next.kill();
      await ended;
    }
  },
);

/** Waits until a server is there. */
const answers = (base: string): Promise<unknown> =>
  wait(() =>
    fetch(base).then(
      ({ ok }) => ok,
      () => false,
    ),
  );

/** What only a server can do: results in the first HTML, pages of records, a sitemap. */
async function firstResultsFromServer(base: string, page: Page): Promise<void> {
  const word = await aWordOf(page);
  const asking = `${base}/?q=${encodeURIComponent(word)}`;
  expect(await (await fetch(asking)).text()).toMatch(new RegExp(`<mark[^>]*>(<!-- -->)?${word}`, 'i'));
  // Nothing is asked for again by the browser.
  await browser.get(asking);
  await wait(async () => (await number()) > 0);
  const asked = await browser.executeScript<string[]>(
    `return performance.getEntriesByType('resource').map(({ name }) => name).filter((name) => name.includes('/api/v1/'))`,
  );
  expect(asked.filter((one) => !one.includes('/events'))).toEqual([]);
  const script = await browser.executeScript<number>(
    `return performance.getEntriesByType('resource').filter(({ initiatorType, name }) => initiatorType === 'script' || name.endsWith('.js'))
      .reduce((sum, { encodedBodySize }) => sum + encodedBodySize, 0)`,
  );
  expect(script).toBeLessThan(160_000);
  const title = await text('[data-part=card] h2');
  const record = await firstRecord();
  const collection = new RegExp(`^${base}/([a-z]+)/[^/]+$`).exec(record)![1]!;
  await browser.get(record);
  expect(await text('article h2')).toBe(title);
  const { records } = await server.api<{ records: number }>('GET', `/collections/${collection}`);
  const sitemap = await (await fetch(`${base}/sitemap.xml`)).text();
  expect(sitemap.match(/<loc>/g)!.length).toBeGreaterThan(records);
  expect((await fetch(`${base}/${collection}/nothing-of-that-name`)).status).toBe(404);
}

describe('a folder without a server', () => {
  // A worker that keeps a folder takes over when no page is under an older one.
  beforeEach(() => browser.get('about:blank'));

  test.each(PAGES)('%s: used under its policy, with Yucca out of reach of it', async (page) => {
    const { folder, policy } = await takeAway(server, page, 'static', [], away);
    Object.assign(site, { folder, policy, asked: [] });
    // The policy lets it ask nobody but its own site.
    expect(policy).toContain("connect-src 'self';");
    await use(`${site.base}/`, page === 'dropped');
    await click('[data-part=card] h2 a');
    expect(await text('yucca-record h1')).not.toBe('');
    expect(await problemsOf()).toEqual([]);
  });

  test('without a line: the page as it was, searches and all', async () => {
    await browser.get(`${site.base}/`);
    await wait(async () => (await number()) > 0);
    const WAITS = `const done = arguments[0];
      navigator.serviceWorker.getRegistration().then((one) => done(Boolean(one?.waiting)))`;
    const kept = `const name = (await caches.keys()).find((one) => one.startsWith('yucca/dropped/'));
      if (name === undefined) return 0;
      return (await (await caches.open(name)).keys()).length`;
    // Whatever is in the folder but its README, the worker itself, and the page under its other name.
    const files = readdirSync(site.folder, { recursive: true, withFileTypes: true }).filter((file) => file.isFile());
    await wait(async () => {
      // The worker of the folder before may not have noticed yet that nobody is left: then this is a visit under it.
      if (await browser.executeAsyncScript<boolean>(WAITS)) {
        await browser.get('about:blank');
        await browser.get(`${site.base}/`);
      }
      return (await browser.executeScript<number>(`return (async () => { ${kept} })()`)) >= files.length - 1;
    });
    const { folder } = site;
    site.folder = path.join(away, 'nothing');
    try {
      await browser.get(`${site.base}/?q=lavender`);
      await wait(async () => (await number()) > 0 && (await all('[data-part=card] mark')).length > 0);
      expect(site.asked.length).toBeGreaterThan(0);
    } finally {
      site.folder = folder;
    }
  });

  test('its answers are the server’s: order, totals, facets, marks of 200 queries', async () => {
    const { folder } = await takeAway(server, 'nursery', 'static', [], path.join(away, 'equal'));
    const data = path.join(folder, 'data');
    const manifest = JSON.parse(readFileSync(path.join(data, 'manifest.json'), 'utf8')) as OfflineManifest;
    const files = new OfflineCollections(manifest.collections, (file) =>
      Promise.resolve(new Uint8Array(gunzipSync(readFileSync(path.join(data, file))))),
    );
    const questions = questionsFrom(readFileSync(path.join(server.dataDir, 'quillbrook/plants.jsonl'), 'utf8'));
    expect(questions).toHaveLength(200);
    const told = ({ total, pages, results, facets, understood }: SearchAnswer): object => ({
      ...{ total, pages, facets, understood },
      results: results.map(({ id, marks, snippets }) => ({ id, marks, snippets })),
    });
    let found = 0;
    for (const question of questions) {
      const there = await server.api<SearchAnswer>('POST', '/collections/plants/search', question);
      const here = await files.search('plants', question);
      expect({ question, ...told(here) }).toEqual({ question, ...told(there) });
      found += here.total;
    }
    expect(found).toBeGreaterThan(1_000);
    const completions = await server.json<{ suggestions: { kind: string; text: string }[] }>('GET', '/collections/plants/suggest?q=lav'); // prettier-ignore
    const texts = (list: { kind: string; text: string }[]): string[] =>
      list.filter(({ kind }) => kind !== 'query').map(({ text }) => text);
    // Where the server offers what others have asked, there is room for more here.
    const here = texts((await files.suggest('plants', 'lav', 8)).suggestions);
    expect(here.slice(0, texts(completions.suggestions).length)).toEqual(texts(completions.suggestions));
  });
});

/** Queries as people type them: names and their beginnings, misspelt, with choices, sorts and further pages. */
function questionsFrom(jsonLines: string): SearchRequest[] {
  const plants = jsonLines.trim().split('\n').map((line) => JSON.parse(line) as { name: string; botanical: string; colours: string[] }); // prettier-ignore
  return Array.from({ length: 200 }, (_, i): SearchRequest => {
    const { name, botanical, colours } = plants[(i * 13) % plants.length]!;
    const texts = [
      name,
      name.slice(0, 3 + (i % 4)),
      botanical,
      name.slice(0, 2) + name.slice(3),
      `${botanical.split(' ')[0]!} ${colours[0] ?? ''}`,
      `"${name}"`,
      '',
    ];
    return {
      q: texts[i % texts.length]!,
      facets: ['*'],
      size: 24,
      page: 1 + (i % 2),
      ...(i % 3 === 0 && colours.length > 0 && { select: { colour: colours.slice(0, 1) } }),
      ...(i % 5 === 0 && { sort: 'price-low' }),
    };
  });
}

/** Whether a worker keeps the page, or is about to. */
const REGISTERED = `const done = arguments[0];
  navigator.serviceWorker.getRegistrations().then((all) => done(all.some((one) => one.active || one.installing)))`;

describe('what can go wrong is said on the page', () => {
  const said = async (part: string): Promise<unknown> =>
    wait(async () => {
      const places = await all('[role=status], [role=alert], [data-part=trouble]');
      return (await Promise.all(places.map((place) => place.getText()))).some((words) => words.includes(part));
    });
  /** Runs before anything of the next pages does. */
  async function before(source: string): Promise<() => Promise<void>> {
    const { identifier } = (await browser.sendAndGetDevToolsCommand('Page.addScriptToEvaluateOnNewDocument', { source })) as unknown as { identifier: string }; // prettier-ignore
    return () => browser.sendDevToolsCommand('Page.removeScriptToEvaluateOnNewDocument', { identifier });
  }

  test('a key for another site, a key that was taken back, a server that is away', async () => {
    const { folder } = await takeAway(
      server,
      'growing',
      'html',
      ['https://elsewhere.example'],
      path.join(away, 'wrong'),
    );
    Object.assign(site, { folder, policy: '' });
    await browser.get(`${site.base}/?wrong-origin`);
    await said('is not for pages of');
    const own = await takeAway(server, 'growing', 'html', [], path.join(away, 'gone'));
    site.folder = own.folder;
    const { items } = await server.json<{ items: { id: string; label: string }[] }>('GET', '/keys');
    for (const { id, label } of items.filter(({ label }) => label.includes('handed over')))
      expect({ label, status: (await server.call('DELETE', `/keys/${id}`)).status }).toEqual({ label, status: 204 });
    await browser.get(`${site.base}/?taken-back`);
    await said('The search could not be reached');
    const file = path.join(own.folder, 'index.html');
    writeFileSync(file, readFileSync(file, 'utf8').replace(/ server="[^"]+"/, ' server="http://127.0.0.1:9"'));
    await browser.get(`${site.base}/?server-away`);
    await said('The search could not be reached');
    await click('button');
    await said('The search could not be reached');
  });

  test('without a server: an old browser, a private window, no room, a damaged file', async () => {
    const { folder, policy } = await takeAway(server, 'collect', 'static', [], path.join(away, 'bad'));
    Object.assign(site, { folder, policy });
    const old = await before('delete window.DecompressionStream');
    await browser.get(`${site.base}/?old`);
    await said('this browser has no unpacking of files');
    await old();
    const full = await before(`ServiceWorkerContainer.prototype.register = () => Promise.reject(new Error('no room'))`);
    await browser.get(`${site.base}/?q=garden`);
    await wait(async () => (await number()) > 0);
    await full();
    // A window that keeps nothing: no storage, no worker beside the page.
    const forgetful = await before(`
      for (const name of ['localStorage', 'sessionStorage', 'indexedDB', 'caches'])
        Object.defineProperty(window, name, { get: () => { throw new DOMException('Not in this window', 'SecurityError'); } });
      delete Navigator.prototype.serviceWorker;`);
    await browser.get('about:blank');
    await problemsOf();
    await use(`${site.base}/`);
    await forgetful();
    // No room on the disk: the worker is not kept, and the page works as it does the first time.
    await browser.sendDevToolsCommand('Storage.clearDataForOrigin', { origin: site.base, storageTypes: 'all' });
    await browser.sendDevToolsCommand('Storage.overrideQuotaForOrigin', { origin: site.base, quotaSize: 1_000 });
    await browser.get('about:blank');
    site.asked = [];
    await browser.get(`${site.base}/`);
    await wait(async () => (await number()) > 0);
    await wait(() => Promise.resolve(site.asked.some((one) => one.startsWith('/data/index-'))));
    await wait(async () => !(await browser.executeAsyncScript<boolean>(REGISTERED)));
    await (await one('[role=combobox]')).sendKeys('garden');
    await wait(async () => (await all('[data-part=card] mark')).length > 0);
    await browser.sendDevToolsCommand('Storage.overrideQuotaForOrigin', { origin: site.base });
    const data = path.join(folder, 'data');
    for (const name of readdirSync(data).filter((one) => one.startsWith('index-'))) {
      const bytes = readFileSync(path.join(data, name));
      writeFileSync(path.join(data, name), bytes.subarray(0, bytes.length / 2));
    }
    await browser.executeScript(
      `return caches.keys().then((names) => Promise.all(names.map((one) => caches.delete(one))))`,
    );
    await browser.get(`${site.base}/`);
    await wait(async () => (await number()) > 0);
    await (await one('[role=combobox]')).sendKeys('garden');
    await said('damaged');
    // What was there stays.
    expect((await all('[data-part=card]')).length).toBeGreaterThan(0);
    await problemsOf();
  });
});
