/** Pages as they are taken away: installed from their own README elsewhere, built, and used from another origin. */
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Key } from 'selenium-webdriver';
import { startBrowser, type Browser } from '../src/browser';
import { install, run, Site, takeAway, type HandedOver } from '../src/handed-over';
import { PageInUse } from '../src/page-in-use';
import { loadQuillbrook } from '../src/quillbrook';
import { freePort, Server, somePlants } from '../src/server';

jest.setTimeout(600_000);
/** Those of the demo, and the page that a collection has from the moment it is dropped. */
const PAGES = ['nursery', 'growing', 'collect', 'dropped'] as const;
type Page = (typeof PAGES)[number];
const away = mkdtempSync(path.join(tmpdir(), 'yucca-handover-'));
const { CHROME_PATH = '/usr/bin/chromium', CHROMEDRIVER_PATH = '/usr/bin/chromedriver' } = process.env;
const BROWSER = { CHROME_PATH, CHROMEDRIVER_PATH };
let server: Server;
let site: Site;
let browser: Browser;
const visitor = new PageInUse(() => browser);
const { wait } = visitor;

beforeAll(async () => {
  server = await new Server().start();
  site = await new Site().start();
  await loadQuillbrook(server);
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

/**
 * What must work on every page; what is guessed of a dropped collection may be without a filter. A link to a record
 * that stands on the server leads there.
 */
async function use(base: string, page: Page): Promise<void> {
  expect((await visitor.use(base)) || page === 'dropped').toBe(true);
  const record = await visitor.firstRecord();
  if (new URL(record).origin === server.base) expect((await fetch(record)).status).toBe(200);
}

test('React: typed strictly, built, used from another origin under its policy', async () => {
  let first: HandedOver | undefined;
  for (const page of PAGES) {
    const project = await takeAway(server, page, 'react', [site.base], away);
    await install(project, first);
    first ??= project;
    await run('npm', ['run', 'check'], project.folder);
    await run('npm', ['run', 'build'], project.folder);
    site.folder = path.join(project.folder, 'dist');
    site.policy = project.policy;
    await use(`${site.base}/`, page);
  }
  // The smoke test that comes along, as its owner would run it.
  const own = await takeAway(server, 'growing', 'react', [], path.join(away, 'smoke'));
  await install(own, first);
  await run('npm', ['run', 'smoke'], own.folder, BROWSER);
});

test.each(PAGES)('one HTML file, %s: used from another origin under its policy', async (page) => {
  const { folder, policy } = await takeAway(server, page, 'html', [site.base], away);
  Object.assign(site, { folder, policy });
  await use(`${site.base}/`, page);
});

test('without a framework: typed strictly, built, used from another origin under its policy', async () => {
  let first: HandedOver | undefined;
  for (const page of PAGES) {
    const project = await takeAway(server, page, 'plain', [site.base], away);
    await install(project, first);
    first ??= project;
    await run('npm', ['run', 'check'], project.folder);
    await run('npm', ['run', 'build'], project.folder);
    Object.assign(site, { folder: path.join(project.folder, 'dist'), policy: project.policy });
    await use(`${site.base}/`, page);
  }
  const own = await takeAway(server, 'growing', 'plain', [], path.join(away, 'smoke'));
  await install(own, first);
  await run('npm', ['run', 'smoke'], own.folder, BROWSER);
});

/** A word of each page's records without its end, and with it. */
const WORDS: Record<Page, readonly [typed: string, rest: string]> = {
  nursery: ['lavend', 'er'],
  growing: ['garde', 'n'],
  collect: ['gar', 'den'],
  dropped: ['lavend', 'er'],
};

test.each(PAGES)('the search field of a header, %s: offers, and the way to the site’s own results', async (page) => {
  const { folder, policy } = await takeAway(server, page, 'header', [site.base], away);
  Object.assign(site, { folder, policy });
  await visitor.problems();
  await browser.get(`${site.base}/`);
  await wait(async () => (await visitor.all('[role=combobox]')).length > 0);
  const [typed, rest] = WORDS[page];
  await (await visitor.one('[role=combobox]')).sendKeys(typed);
  await wait(async () => (await visitor.all('[role=option] mark')).length > 0);
  expect(await visitor.problems()).toEqual([]);
  await (await visitor.one('[role=combobox]')).sendKeys(rest, Key.ENTER);
  await wait(async () => (await visitor.address()) === `${site.base}/search?q=${typed}${rest}`);
});

/** What Next serves of a built project, until `done` ends it. */
async function served(folder: string, port: number): Promise<{ base: string; done: () => void }> {
  const base = `http://127.0.0.1:${port}`;
  const command = [
    path.join(folder, 'node_modules/next/dist/bin/next'),
    'start',
    '-H',
    '127.0.0.1',
    '-p',
    String(port),
  ];
  const env = { PATH: process.env.PATH, SITE: base } as NodeJS.ProcessEnv;
  const next = spawn(process.execPath, command, { cwd: folder, stdio: 'ignore', env });
  const isUp = (): Promise<boolean> => fetch(base).then(({ ok }) => ok, () => false); // prettier-ignore
  for (let tries = 0; tries < 200 && !(await isUp()); tries++) await new Promise((resolve) => setTimeout(resolve, 100));
  return { base, done: () => void next.kill() };
}

test('Next.js: first results from its server, record pages, a sitemap', async () => {
  for (const page of PAGES) {
    const port = await freePort();
    const project = await takeAway(server, page, 'next', [`http://127.0.0.1:${port}`], away);
    // Its bundler follows no link out of the project's folder, so that each has packages of its own.
    await install(project);
    await run('npm', ['run', 'build'], project.folder);
    await run('npm', ['run', 'check'], project.folder);
    const { base, done } = await served(project.folder, port);
    try {
      const word = WORDS[page].join('');
      const html = await (await fetch(`${base}/?q=${word}`)).text();
      expect(html).toMatch(new RegExp(`<mark[^>]*>(<!-- -->)?${word}`, 'i'));
      await use(`${base}/`, page);
      // Nothing is asked for again by the browser.
      await browser.get(`${base}/?q=${word}`);
      await wait(async () => (await visitor.number()) > 0);
      const asked = await browser.executeScript<string[]>(
        `return performance.getEntriesByType('resource').map(({ name }) => name).filter((name) => name.includes('/api/v1/'))`,
      );
      expect(asked.filter((one) => !one.includes('/events'))).toEqual([]);
      const title = await visitor.text('[data-part=card] h2');
      const record = await visitor.firstRecord();
      expect(new URL(record).origin).toBe(base);
      await browser.get(record);
      expect(await visitor.text('article h2')).toBe(title);
      const sitemap = await (await fetch(`${base}/sitemap.xml`)).text();
      expect(sitemap).toContain(`<loc>${base}`);
      if (page === 'nursery') expect(sitemap.match(/<loc>/g)!.length).toBeGreaterThan(2_000);
      expect((await fetch(`${record}-nothing-of-that-name`)).status).toBe(404);
    } finally {
      done();
    }
  }
  const own = await takeAway(server, 'growing', 'next', [], path.join(away, 'smoke'));
  await install(own);
  await run('npm', ['run', 'smoke'], own.folder, BROWSER);
});

test('a key for another site, a key that was taken back, a server that is away', async () => {
  const { folder } = await takeAway(server, 'growing', 'html', ['https://elsewhere.example'], path.join(away, 'wrong'));
  Object.assign(site, { folder, policy: '' });
  await browser.get(`${site.base}/?wrong-origin`);
  await visitor.said('is not for pages of');
  const own = await takeAway(server, 'growing', 'html', [], path.join(away, 'gone'));
  site.folder = own.folder;
  const { items } = await server.json<{ items: { id: string; label: string }[] }>('GET', '/keys');
  for (const { id, label } of items.filter(({ label }) => label.includes('handed over')))
    expect({ label, status: (await server.call('DELETE', `/keys/${id}`)).status }).toEqual({ label, status: 204 });
  await browser.get(`${site.base}/?taken-back`);
  await visitor.said('The search could not be reached');
  const file = path.join(own.folder, 'index.html');
  writeFileSync(file, readFileSync(file, 'utf8').replace(/ server="[^"]+"/, ' server="http://127.0.0.1:9"'));
  await browser.get(`${site.base}/?server-away`);
  await visitor.said('The search could not be reached');
  await (await visitor.one('button')).click();
  await visitor.said('The search could not be reached');
});
