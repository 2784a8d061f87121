import { execFile } from 'node:child_process';
import { existsSync, cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { createServer, type Server as HttpServer } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import { gzipSync } from 'node:zlib';
import { buildSync } from 'esbuild';
import { By, Key, until } from 'selenium-webdriver';
import { hearBeacons, startBrowser, type Browser } from '../src/browser';
import { Person, WAIT } from '../src/person';
import { loadPlants, Server, somePlants } from '../src/server';

// Making the package, types and all, takes most of it.
jest.setTimeout(400_000);
const ROOT = path.join(__dirname, '../..');
const GUIDE = path.join(ROOT, 'docs/guide');
const DIST = path.join(ROOT, 'packages/kit/dist');
const away = mkdtempSync(path.join(tmpdir(), 'yucca-elsewhere-'));
const app = path.join(away, 'app');
let server: Server;
let site: HttpServer;
let siteBase: string;
let browser: Browser;
let key: string;
const { see, until: wait, violations } = new Person(() => browser);

const run = (command: string, args: string[], cwd: string, env: Record<string, string> = {}) =>
  promisify(execFile)(command, args, { cwd, env: { ...process.env, ...env } });

const TYPES: Record<string, string> = { '.html': 'text/html', '.js': 'text/javascript', '.css': 'text/css' };

/** A site of somebody else: files of a folder, from an origin of its own. */
async function serve(folder: string): Promise<HttpServer> {
  const made = createServer((request, response) => {
    const file = path.join(folder, new URL(request.url!, 'http://site').pathname);
    if (!existsSync(file)) return void response.writeHead(404).end();
    response.setHeader('Content-Type', TYPES[path.extname(file)] ?? 'application/octet-stream').end(readFileSync(file));
  });
  await new Promise<void>((resolve) => made.listen(0, '127.0.0.1', resolve));
  return made;
}

beforeAll(async () => {
  server = await new Server().start();
  const plants = somePlants().map((plant, i) => ({ ...plant, category: i % 2 ? 'Outdoor > Shrubs' : 'Indoor' }));
  await loadPlants(server, 'plants', plants);
  await server.call('POST', '/collections', { name: 'guides' });
  await server.call('POST', '/collections/guides/records?wait=true', [{ id: 'G-1', title: 'Lavender in pots' }]);
  await server.api('PATCH', '/collections/plants/tuning/draft', {
    search: [{ field: 'name', weight: 10 }],
    facets: [
      { name: 'category', field: 'category', kind: 'tree', separator: ' > ' },
      { name: 'colour', field: 'colour' },
      { name: 'price', field: 'price', kind: 'numbers' },
    ],
  });
  await server.api('POST', '/collections/plants/tuning/publish?wait=true', {});
  await server.api('POST', '/interfaces', { slug: 'nursery', title: 'Nursery', collection: 'plants' });

  // The package as it is handed over, unpacked where nothing of this repository is around it.
  await run(process.execPath, ['build.mjs'], path.join(ROOT, 'packages/kit'));
  await run('npm', ['pack', DIST, '--pack-destination', away, '--silent'], away);
  cpSync(path.join(GUIDE, 'app'), app, { recursive: true });
  const unpacked = path.join(app, 'node_modules/@yucca/kit');
  mkdirSync(unpacked, { recursive: true });
  await run('tar', ['-xzf', path.join(away, 'yucca-kit-0.1.0.tgz'), '-C', unpacked, '--strip-components=1'], away);
  // What npm would fetch is taken from here.
  for (const name of ['react', 'react-dom', 'vite', '@vitejs', 'json-schema-to-ts', '@types'])
    symlinkSync(path.join(ROOT, 'node_modules', name), path.join(app, 'node_modules', name));

  site = await serve(away);
  const { port } = site.address() as { port: number };
  siteBase = `http://127.0.0.1:${port}`;
  const made = await server.api<{ secret: string }>('POST', '/keys', {
    label: 'Our shop',
    rights: ['search'],
    origins: [siteBase],
  });
  key = made.secret;
  const plain = readFileSync(path.join(GUIDE, 'plain/index.html'), 'utf8')
    .replace('https://search.example', server.base)
    .replace('YOUR-SEARCH-KEY', key);
  writeFileSync(path.join(away, 'plain.html'), plain);
  browser = await startBrowser();
});
afterAll(async () => {
  await browser?.quit();
  site?.close();
  await server.leave();
  rmSync(away, { recursive: true, force: true });
});

test('every snippet of the guide stands in a file that is built and run here', () => {
  const guide = readFileSync(path.join(ROOT, 'docs/guide.md'), 'utf8');
  const snippets = [...guide.matchAll(/<!-- (\S+) -->\s*```\w+\n([\s\S]*?)\n```/g)];
  expect(snippets.length).toBeGreaterThan(5);
  for (const [, file, text] of snippets) expect(readFileSync(path.join(GUIDE, file!), 'utf8')).toContain(text);
  // And there is no other.
  expect(guide.match(/```\w+\n/g)).toHaveLength(snippets.length);
});

test('what a visitor has to load stays small', () => {
  const weigh = (contents: string): number => {
    const { outputFiles } = buildSync({
      stdin: { contents, resolveDir: app },
      bundle: true,
      minify: true,
      write: false,
      format: 'esm',
      external: ['react', 'react-dom', 'react/jsx-runtime'],
    });
    return gzipSync(outputFiles[0]!.contents, { level: 9 }).length;
  };
  expect(gzipSync(readFileSync(path.join(DIST, 'yucca-search.js')), { level: 9 }).length).toBeLessThanOrEqual(30_000);
  expect(weigh(`export * from '@yucca/kit'`)).toBeLessThan(9_500);
  expect(weigh(`export * from '@yucca/kit'; export * from '@yucca/kit/react'`)).toBeLessThan(21_000);
  expect(weigh(`export { createClient, SearchState } from '@yucca/kit'`)).toBeLessThan(4_000);
  expect(gzipSync(readFileSync(path.join(DIST, 'styles.css'))).length).toBeLessThan(4_500);
});

/** Everything inside the element's shadow tree, as text. */
const inside = (css: string): Promise<string> =>
  browser.executeScript(
    `const found = document.querySelector('yucca-search')?.shadowRoot?.querySelector(${JSON.stringify(css)}); return found ? found.textContent : ''`,
  );

test('a plain HTML file of another site: one script, one element', async () => {
  await browser.get(`${siteBase}/plain.html?ref=newsletter`);
  await wait(async () => (await inside('[data-part=count] strong')) === '120 results');
  const shadow = await (await see(By.css('yucca-search'))).getShadowRoot();
  const field = await shadow.findElement(By.css('[role=combobox]'));
  await field.sendKeys('lavendar');
  await wait(async () => (await inside('[data-part=count] strong')) === '20 results');
  expect(await inside('article mark')).toBe('lavender');
  await wait(async () => (await browser.getCurrentUrl()) === `${siteBase}/plain.html?q=lavendar&ref=newsletter`);
  // A click inside the list of offers is no click beside it.
  await wait(async () => (await inside('[role=option]')) !== '');
  expect(await inside('[data-part=popup]:not([hidden])')).not.toBe('');
  // Not by way of the element: the driver would take the focus away and give it back first.
  await browser.actions().sendKeys(Key.ESCAPE).perform();
  await (await shadow.findElement(By.css('input[value=white]'))).click();
  await wait(async () => (await inside('[data-part=count] strong')) === '10 results');
  await browser.navigate().back();
  await wait(async () => (await inside('[data-part=count] strong')) === '20 results');
  expect(await violations()).toEqual([]);
});

test('its key serves this site and no other', async () => {
  const other = await fetch(`${server.base}/api/v1/interfaces/nursery/page?key=${key}`, {
    headers: { Origin: 'https://elsewhere.example' },
  });
  expect(other.status).toBe(403);
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
  const open = (page: string): Promise<void> => browser.get(`${siteBase}/app/dist/${page}`);
  const text = async (css: string): Promise<string> => (await see(By.css(css))).getText();

  test('the whole page in one component', async () => {
    await open('index.html?q=fern&colour=blue');
    await wait(async () => (await text('[data-part=count] strong')) === '10 results');
    expect(await (await see(By.css('article h2 a'))).getAttribute('href')).toMatch(/\/plants\/P-\d+$/);
    await (await see(By.css('[data-part=choice]'))).click();
    await wait(async () => (await text('[data-part=count] strong')) === '20 results');
  });

  test('what visitors do there is told to the server, with the key of the page', async () => {
    const beacons = await hearBeacons(browser);
    await open('index.html?q=fern');
    await wait(async () => (await beacons.told()).some(({ body }) => body.includes('"view"')));
    const { address, body, sent } = (await beacons.told())[0]!;
    expect([address, sent]).toEqual([`${server.base}/api/v1/events?key=${key}`, true]);
    const answer = await fetch(address, { method: 'POST', body, headers: { Origin: siteBase } });
    expect(answer.status).toBe(202);
    await beacons.stop();
  });

  test('parts in an own order', async () => {
    await open('parts.html');
    await wait(async () => (await text('[data-part=count] strong')) === '120 results');
    await (await see(By.css('[role=combobox]'))).sendKeys('laven');
    await browser.wait(until.elementLocated(By.xpath('//*[@role="group"][contains(., "Guides")]')), WAIT);
    expect(await text('main ol mark')).toBe('laven');
    await browser.actions().sendKeys(Key.ESCAPE).perform();
    await (await see(By.css('input[name="category"]'))).click();
    await wait(async () => (await browser.getCurrentUrl()).includes('category='));
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
