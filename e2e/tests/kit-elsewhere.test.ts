import { spawn, type ChildProcess } from 'node:child_process';
import { copyFileSync, cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { buildSync } from 'esbuild';
import { By, Key, until } from 'selenium-webdriver';
import { hearBeacons, shiftsOf, startBrowser, type Browser } from '../src/browser';
import { Ear } from '../src/ear';
import { installFromHere, run as runAround } from '../src/handed-over';
import { otherSite, type OtherSite } from '../src/other-site';
import { run } from '../src/handed-over';
import { DIST, GUIDE, packedKit, ROOT, weighed } from '../src/packed-kit';
import { Person, WAIT } from '../src/person';
import { freePort, type Server } from '../src/server';
import { shopServer, writePlainPage } from '../src/shop';

const away = mkdtempSync(path.join(tmpdir(), 'yucca-elsewhere-'));
const app = path.join(away, 'app');
let server: Server;
let site: OtherSite;
/** A site whose router answers for addresses that are no files. */
let routed: OtherSite;
let browser: Browser;
let key: string;
const { click, see, until: wait } = new Person(() => browser);
const ear = new Ear(() => browser);

beforeAll(async () => {
  server = await shopServer();
  await packedKit(server, away);

  site = await otherSite(away);
  routed = await otherSite(path.join(app, 'dist'), 'router.html');
  const made = await server.api<{ secret: string }>('POST', '/keys', {
    label: 'Our shop',
    rights: ['search'],
    origins: [site.origin, routed.origin],
  });
  key = made.secret;
  writePlainPage(away, server, key);
  browser = await startBrowser();
});
afterAll(async () => {
  await browser?.quit();
  site?.close();
  routed?.close();
  await server.leave();
  rmSync(away, { recursive: true, force: true });
});

test('an application tests itself without a server: the engine answers in its own process', async () => {
  const outfile = path.join(app, 'testing.mjs');
  buildSync({
    entryPoints: [path.join(app, 'src/testing.ts')],
    outfile,
    bundle: true,
    format: 'esm',
    platform: 'node',
  });
  const script = `import { findsRoses } from './testing.mjs'; console.log(await findsRoses());`;
  const { stdout } = await run(process.execPath, ['--input-type=module', '-e', script], app);
  expect(stdout.trim()).toBe('true');
});

test('what a visitor has to load stays small', () => {
  const weigh = (contents: string): number => weighed(contents, app);
  expect(gzipSync(readFileSync(path.join(DIST, 'yucca-search.js')), { level: 9 }).length).toBeLessThanOrEqual(30_000);
  expect(weigh(`export * from '@yucca/kit'`)).toBeLessThan(11_800);
  expect(weigh(`export * from '@yucca/kit'; export * from '@yucca/kit/react'`)).toBeLessThan(30_700);
  expect(weigh(`export { SearchView } from '@yucca/kit/react'`)).toBeLessThanOrEqual(26_500);
  for (const language of ['arabic', 'english', 'french', 'german', 'japanese', 'spanish'])
    expect({ language, bytes: weigh(`export * from '@yucca/kit/texts/${language}'`) < 2_000 }).toEqual({
      language,
      bytes: true,
    });
  expect(weigh(`export { createInsights } from '@yucca/kit/insights'`)).toBeLessThan(950);
  expect(weigh(`export { createClient, SearchState } from '@yucca/kit'`)).toBeLessThan(4_000);
  expect(weigh(`export * from '@yucca/kit/vue'`)).toBeLessThan(5_600);
  expect(weigh(`export * from '@yucca/kit/svelte'`)).toBeLessThan(5_600);
  expect(gzipSync(readFileSync(path.join(DIST, 'styles.css'))).length).toBeLessThan(4_700);
});

describe('a fresh Vite app with the packed package', () => {
  beforeAll(async () => {
    await run(process.execPath, [path.join(ROOT, 'node_modules/typescript/bin/tsc'), '-p', '.'], app);
    await run(process.execPath, ['node_modules/vite/bin/vite.js', 'build', '--base', './'], app, {
      VITE_YUCCA_SERVER: server.base,
      VITE_YUCCA_KEY: key,
      NODE_ENV: 'production',
    });
  });
  const open = (page: string): Promise<void> => browser.get(`${site.origin}/app/dist/${page}`);
  const text = async (css: string): Promise<string> => (await see(By.css(css))).getText();

  test('the whole page in one component', async () => {
    await open('index.html?q=fern&colour=blue');
    await wait(async () => (await text('[data-part=count] strong')) === '10');
    expect(await (await see(By.css('article h2 a'))).getAttribute('href')).toMatch(/\/plants\/P-\d+$/);
    await click(By.css('[data-part=choice]'));
    await wait(async () => (await text('[data-part=count] strong')) === '20');
  });

  test('whoever changes the address, the results follow: a router, a link of the page, Back', async () => {
    await open('index.html');
    await wait(async () => (await text('[data-part=count]')).startsWith('120 results'));
    await browser.executeScript(`history.pushState(null, '', '?q=fern')`);
    await wait(async () => (await text('[data-part=count] strong')) === '20');
    expect(await (await see(By.css('[role=combobox]'))).getAttribute('value')).toBe('fern');
    await browser.executeScript(`history.replaceState(null, '', '?q=fern&colour=blue')`);
    await wait(async () => (await text('[data-part=count] strong')) === '10');
    await browser.navigate().back();
    await wait(async () => (await text('[data-part=count]')).startsWith('120 results'));
    await browser.navigate().forward();
    await wait(async () => (await text('[data-part=count] strong')) === '10');
  });

  test('what visitors do there is told to the server, with the key of the page', async () => {
    const beacons = await hearBeacons(browser);
    await open('index.html?q=fern');
    await wait(async () => (await beacons.told()).some(({ body }) => body.includes('"view"')));
    const { address, body, sent } = (await beacons.told())[0]!;
    expect([address, sent]).toEqual([`${server.base}/api/v1/events?key=${key}`, true]);
    const answer = await fetch(address, { method: 'POST', body, headers: { Origin: site.origin } });
    expect(answer.status).toBe(202);
    await beacons.stop();
  });

  test('parts in an own order', async () => {
    await open('parts.html');
    await wait(async () => (await text('[data-part=count]')).startsWith('120 results'));
    await (await see(By.css('[role=combobox]'))).sendKeys('laven');
    await browser.wait(until.elementLocated(By.xpath('//*[@role="group"][contains(., "Guides")]')), WAIT);
    expect(await text('main ol mark')).toBe('laven');
    // A record is opened, and is no query.
    await click(By.css('[role=option]'));
    await wait(async () => /\?q=laven#\/plants\/P-\d+$/.test(await browser.getCurrentUrl()));
    const field = await see(By.css('[role=combobox]'));
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), 'mint', Key.ENTER);
    await wait(async () => (await text('main ol mark')) === 'mint');
    // What was asked for is offered before the first letter of the next.
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), Key.BACK_SPACE);
    await see(By.xpath('//*[@role="group"][contains(., "Asked before")]//*[@role="option"][contains(., "mint")]'));
    await browser.actions().sendKeys(Key.ESCAPE).perform();
    await click(By.css('input[name="category"]'));
    await wait(async () => (await browser.getCurrentUrl()).includes('category='));
  });

  test('under a router: its links, its Back and the page of the kit lead to the same results', async () => {
    const at = routed.origin;
    const total = (): Promise<string> => text('[data-part=count] strong');
    await browser.get(`${at}/?colour=blue`);
    await wait(async () => (await total()) === '30');
    await browser.executeScript('window.wasHere = true');
    await click(By.linkText('Ferns'));
    await wait(async () => (await total()) === '20');
    expect(await (await see(By.css('[role=combobox]'))).getAttribute('value')).toBe('fern');
    await click(By.css('input[value=blue]'));
    await wait(async () => (await total()) === '10');
    expect(await browser.getCurrentUrl()).toBe(`${at}/?q=fern&colour=blue`);
    await click(By.css('article h2 a'));
    await wait(async () => (await text('article h1')).startsWith('Plant P-'));
    // Back to the search as it was left, and to each step before it.
    await browser.navigate().back();
    await wait(async () => (await total()) === '10');
    await browser.navigate().back();
    await wait(async () => (await total()) === '20');
    await browser.navigate().back();
    await wait(async () => (await total()) === '30');
    await browser.navigate().forward();
    await browser.navigate().forward();
    await wait(async () => (await total()) === '10');
    // What was typed just now belongs to the page that is left.
    await (await see(By.css('[role=combobox]'))).sendKeys(Key.chord(Key.CONTROL, 'a'), 'tree');
    await wait(async () => (await text('article mark')) === 'Tree');
    await see(By.css('[role=combobox][aria-expanded=true]'));
    await browser.actions().sendKeys(Key.ESCAPE).perform();
    await click(By.css('article h2 a'));
    await click(By.linkText('Blue plants'));
    await wait(async () => (await total()) === '30');
    await browser.navigate().back();
    await see(By.css('article h1'));
    await browser.navigate().back();
    await wait(async () => (await text('article mark')) === 'Tree');
    expect(await browser.executeScript('return window.wasHere')).toBe(true);
    // Opened anew there, as somebody does who got the link.
    await browser.navigate().refresh();
    await wait(async () => (await text('article mark')) === 'Tree');
  });

  test('less than everything: what is not in stock is neither found, counted nor offered', async () => {
    await open('stock.html');
    await wait(async () => (await text('[data-part=count] strong')) === '80');
    expect(await text('input[value=blue] ~ [data-part=figure]')).toBe('20');
    await (await see(By.css('[role=combobox]'))).sendKeys('century');
    await wait(async () => (await text('[data-part=count] strong')) === '20');
    await see(By.css('[role=option]'));
    // There is no snake plant left, not even among what is offered.
    await (await see(By.css('[role=combobox]'))).sendKeys(Key.chord(Key.CONTROL, 'a'), 'snake plant');
    await see(By.css('[data-part=nothing]'));
    expect(await browser.findElements(By.css('[role=option]'))).toHaveLength(0);
  });

  test('a query is spoken: results follow word by word, and the address in the end', async () => {
    await open('voice.html');
    await wait(async () => (await text('[data-part=count]')).startsWith('120 results'));
    await ear.standIn();
    await click(By.css('button[aria-label="Search by voice"]'));
    await see(By.css('button[aria-label="Stop listening"]'));
    await ear.hear('century');
    await wait(async () => (await text('[data-part=count] strong')) === '20');
    await ear.hear('snake plant.');
    await ear.end();
    await wait(async () => (await text('article mark')).toLowerCase() === 'snake');
    expect(await browser.getCurrentUrl()).toMatch(/\?q=snake\+plant$/);
    await see(By.css('button[aria-label="Search by voice"]'));
  });

  test.each(['vue', 'svelte'])('the core in %s: typed, chosen, turned over, and back', async (framework) => {
    await open(`${framework}.html?q=fern`);
    await wait(async () => (await text('[role=status]')) === '20 plants');
    await (await see(By.css('input[type=search]'))).sendKeys(Key.chord(Key.CONTROL, 'a'), 'centry');
    await wait(async () => (await text('ol mark')) === 'Century');
    await wait(async () => (await browser.getCurrentUrl()).endsWith('?q=centry'));
    await click(By.css('input[value=blue]'));
    await wait(async () => (await text('[role=status]')) === '10 plants');
    expect(await browser.getCurrentUrl()).toMatch(/\?q=centry&colour=blue$/);
    await browser.navigate().back();
    await wait(async () => (await text('[role=status]')) === '20 plants');
    await click(By.css('button'));
    await wait(async () => (await browser.findElements(By.css('ol li'))).length === 8);
    await browser.navigate().refresh();
    await wait(async () => (await browser.findElements(By.css('ol li'))).length === 8);
    expect(await (await see(By.css('input[type=search]'))).getAttribute('value')).toBe('centry');
  });

  const pages = ['index.html', 'index.html?q=fern&colour=blue', 'parts.html?q=fern', 'core.html', 'german.html'];
  test.each([...pages, 'stock.html', 'voice.html', 'vue.html?q=fern', 'svelte.html?q=fern', '../../plain.html'])(
    'nothing jumps on a slow line: %s',
    async (name) => {
      const slow = { offline: false, latency: 300, download_throughput: 200_000, upload_throughput: 200_000 };
      await browser.setNetworkConditions(slow);
      try {
        await open(name);
        await wait(() =>
          browser.executeScript(`const tree = document.querySelector('yucca-search')?.shadowRoot ?? document;
            return tree.querySelector('[data-part=count],ol li') !== null`),
        );
        await new Promise((resolve) => setTimeout(resolve, 1_000));
        expect(await shiftsOf(browser)).toBeLessThanOrEqual(0.02);
      } finally {
        await browser.deleteNetworkConditions();
      }
    },
  );

  test('parts in another language, with a text of its own', async () => {
    await open('german.html');
    await wait(async () => /^\d+ Ergebnisse für „lavender“ · 1 bis 1$/.test(await text('[data-part=count]')));
  });

  test('the core without a framework', async () => {
    await open('core.html');
    await (await see(By.css('input'))).sendKeys('centry');
    await wait(async () => (await text('ol mark')) === 'Century');
    expect(await text('main p')).toMatch(/^\d+ plants, 0 guides$/);
    await (await see(By.css('input'))).sendKeys(Key.chord(Key.CONTROL, 'a'), 'lavender');
    await wait(async () => (await text('main p')).endsWith(', 1 guides'));
  });
});

describe('Next.js with the packed package', () => {
  let next: ChildProcess | undefined;
  let base: string;

  beforeAll(async () => {
    const folder = path.join(away, 'next');
    cpSync(path.join(GUIDE, 'next'), folder, { recursive: true });
    mkdirSync(path.join(folder, 'kit'));
    copyFileSync(path.join(away, 'yucca-kit-0.1.0.tgz'), path.join(folder, 'kit/yucca-kit.tgz'));
    await installFromHere({ folder, policy: '' });
    const port = await freePort();
    base = `http://127.0.0.1:${port}`;
    const order = { label: 'Our shop on a server', rights: ['search'], origins: [base] };
    const { secret } = await server.api<{ secret: string }>('POST', '/keys', order);
    const env = { NEXT_PUBLIC_YUCCA_SERVER: server.base, NEXT_PUBLIC_YUCCA_KEY: secret };
    // Its types are checked by the build.
    await runAround('npm', ['run', 'build'], folder, env);
    next = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'start', '-H', '127.0.0.1', '-p', String(port)], { cwd: folder, stdio: 'ignore', env: { PATH: process.env.PATH, ...env } as NodeJS.ProcessEnv }); // prettier-ignore
    await wait(() => fetch(base).then(({ ok }) => ok, () => false)); // prettier-ignore
  });
  afterAll(async () => {
    const ended = new Promise((resolve) => next?.once('exit', resolve));
    if (next?.kill()) await ended;
  });
  const text = async (css: string): Promise<string> => (await see(By.css(css))).getText();
  const total = (): Promise<string> => text('[data-part=count] strong');

  test('first results stand in its HTML; a key and an address that name nothing end in a page', async () => {
    const html = await (await fetch(`${base}/?q=fern&colour=blue`)).text();
    expect(html).toMatch(/<strong[^>]*>10</);
    expect(html).toContain('<mark>fern</mark>');
    expect((await fetch(`${base}/plants/P-001`)).status).toBe(200);
    expect((await fetch(`${base}/plants/${encodeURIComponent("o'none")}`)).status).toBe(404);
  });

  test('whoever changes the address, the results follow: the view, links of the framework, Back', async () => {
    await browser.get(`${base}/`);
    await wait(async () => (await total()) === '120');
    await (await see(By.css('[role=combobox]'))).sendKeys('laven');
    await wait(async () => (await total()) === '20');
    await wait(async () => (await browser.getCurrentUrl()) === `${base}/?q=laven`);
    await click(By.linkText('Ferns'));
    await wait(async () => (await text('article mark')) === 'fern');
    expect(await (await see(By.css('[role=combobox]'))).getAttribute('value')).toBe('fern');
    await click(By.css('article h2 a'));
    await wait(async () => /\/plants\/P-\d+$/.test(await browser.getCurrentUrl()));
    await see(By.css('h1'));
    await browser.navigate().back();
    await wait(async () => (await text('article mark')) === 'fern');
    await browser.navigate().back();
    await wait(async () => (await text('article mark')) === 'laven');
    expect(await browser.getCurrentUrl()).toBe(`${base}/?q=laven`);
    await click(By.linkText('All plants'));
    await wait(async () => (await total()) === '120');
  });
});
