/**
 * A file is dropped, and a page of one's own stands on the web, without reading anything: its colours, a filter, its
 * card, two of its texts, German beside English, published and restored. Then the same design on a foreign site, as an
 * element and in React.
 */
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer, type Server as HttpServer } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Interface } from '@yucca/contract';
import { build } from 'esbuild';
import { By, Key, type WebElement } from 'selenium-webdriver';
import { startBrowser, type Browser } from '../src/browser';
import { byText, fileIn, Person } from '../src/person';
import { Server } from '../src/server';

const ROOT = path.join(__dirname, '../..');
let server: Server;
let browser: Browser;
let folder: string;
let site: HttpServer;
let siteBase: string;
/** Files of the foreign site, by their paths. */
const files = new Map<string, [type: string, content: string]>();
const person = new Person(() => browser);
const { see, seeText, until, violations, drop } = person;

const GLAZES = ['ash', 'celadon', 'tenmoku', 'cobalt'];
const MAKERS = ['Orme', 'Vell', 'Hask'];
const pot = (n: number): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 80 60"><rect width="80" height="60" fill="#ece7da"/><path d="M24 14h32l-6 34H30z" fill="hsl(${(n * 37) % 360} 40% 45%)"/></svg>`;

beforeAll(async () => {
  server = await new Server().start();
  folder = mkdtempSync(path.join(tmpdir(), 'first-page-'));
  site = createServer((request, response) => {
    const { pathname } = new URL(request.url!, 'http://site');
    const picture = /^\/pots\/(\d+)\.svg$/.exec(pathname);
    const [type, content] = picture ? ['image/svg+xml', pot(Number(picture[1]))] : (files.get(pathname) ?? ['', '']);
    response.writeHead(type === '' ? 404 : 200, { 'Content-Type': type }).end(content);
  }).listen(0, '127.0.0.1');
  await new Promise((resolve) => site.once('listening', resolve));
  siteBase = `http://127.0.0.1:${(site.address() as { port: number }).port}`;
  browser = await startBrowser();
});
afterAll(async () => {
  await browser?.quit();
  site?.close();
  await server.leave();
  rmSync(folder, { recursive: true, force: true });
});

/** What the walk took: each press, choice and text is one step of a person. */
let steps = 0;
const step = async <T>(doing: Promise<T>): Promise<T> => {
  steps++;
  return doing;
};
const press = (text: string): Promise<void> => step(person.press(text));
const write = (field: By, text: string): Promise<void> => step(person.write(field, text));
const click = (locator: By): Promise<void> => step(person.click(locator));
const choose = async (list: By, words: string): Promise<void> => {
  const option = await (await see(list)).findElement(By.xpath(`./option[contains(normalize-space(), "${words}")]`));
  await step(option.click());
};
const section = (name: string): Promise<void> =>
  click(By.xpath(`//nav[@aria-label="Sections of the page"]//button[.="${name}"]`));
const listOf = (label: string): By => By.xpath(`//label[contains(normalize-space(text()), "${label}")]//select`);
const fieldOf = (label: string): By => By.css(`[aria-label="${label}"]`);
const untilInFrame = (script: string): Promise<unknown> =>
  until(() =>
    browser.executeScript(
      `const document = window.document.querySelector('iframe')?.contentDocument; return document?.querySelector('[data-yucca]') ? Boolean(${script}) : false`,
    ),
  );

/** Three of five minutes: a step takes a person who looks for it about four seconds. */
const MOST_STEPS = 45;

test('from a dropped file to a page of one’s own in two languages, published and restored', async () => {
  const rows = Array.from({ length: 60 }, (_, i) =>
    [
      ...[
        `POT-${i + 1}`,
        `Pot ${i + 1}`,
        `Pot ${i + 1} of the ${GLAZES[i % 4]} kiln.`,
        `${siteBase}/pots/${i + 1}.svg`,
      ],
      ...[GLAZES[i % 4], MAKERS[i % 3], (8 + (i % 20)).toFixed(2), 10 + (i % 15)],
    ].join(','),
  );
  const csv = ['id,name,about,picture,glaze,maker,price,height_cm', ...rows].join('\n');
  await browser.get(server.base);
  await step(drop(fileIn(folder, 'pots.csv', csv)));
  await press('Load 60 records');
  await seeText('60 record');
  await click(By.linkText('Page'));
  await untilInFrame(`document.querySelector('[data-part=card] img')?.naturalWidth > 0`);
  // A filter of a field that nobody has made one of.
  await section('Filters');
  await choose(listOf('A field as a filter'), 'height_cm');
  await seeText('10 to 24');
  await press('Take it into the tuning’s draft');
  await press('Publish the tuning');
  await untilInFrame(`document.querySelector('[data-facet=height_cm]')`);
  // A card of its own.
  await section('Results');
  await choose(listOf('Detail'), 'maker');
  await choose(listOf('Second line'), 'glaze');
  await choose(listOf('Number'), 'height_cm');
  await choose(fieldOf('Add a number format'), 'height_cm');
  await write(fieldOf('Unit of height_cm'), `cm${Key.ENTER}`);
  await choose(listOf('Shape of pictures'), '1:1');
  await write(fieldOf('Word of a badge'), 'Under 12');
  await write(fieldOf('Condition of a badge'), `price < 12${Key.ENTER}`);
  await untilInFrame(`document.querySelector('[data-part=badge]')?.textContent === 'Under 12'`);
  await untilInFrame(`/1\\d\\u00a0cm/.test(document.querySelector('[data-part=card-number]').textContent)`);
  await untilInFrame(`document.querySelector('[data-part=card-detail][data-line="2"]').textContent === 'ash'`);
  // Its own colours.
  await section('Theme');
  await click(By.css('button[aria-label^=Terracotta]'));
  await untilInFrame(
    `getComputedStyle(document.querySelector('[data-part=submit]')).backgroundColor === 'rgb(168, 56, 15)'`,
  );
  // Two texts, and German beside English.
  await section('Texts');
  const textOf = (moment: string): By => By.xpath(`//label[contains(., "${moment}")]/following-sibling::textarea`);
  await click(byText('summary', 'Search field'));
  await write(textOf('On the button beside the field.'), 'Find it');
  await click(byText('summary', 'Results'));
  await write(textOf('Above the results, when nothing was typed.'), '{total} pots on the shelf');
  await untilInFrame(`document.querySelector('[data-part=submit]').textContent === 'Find it'`);
  await write(fieldOf('Add a language'), 'German');
  await press('Add');
  await write(By.xpath('//label[span[.="Pots"]]//input'), 'Töpfe');
  await untilInFrame(`document.querySelector('[data-part=submit]').textContent === 'Suchen'`);
  expect(await violations('iframe')).toEqual([]);
  await press('Publish draft …');
  await press('Publish');
  await until(async () => (await server.json<Interface>('GET', '/interfaces/pots')).liveVersion === 2);
  expect(steps).toBeLessThanOrEqual(MOST_STEPS);

  // As visitors see it, in both languages.
  await browser.get(`${server.base}/s/pots`);
  await seeText('60 pots on the shelf');
  await see(byText('li', 'Under 12'));
  expect(await violations()).toEqual([]);
  await (await see(By.linkText('Deutsch'))).click();
  await seeText('60 Ergebnisse');
  await see(byText('a', 'Töpfe'));

  // And back to how it was.
  await browser.get(`${server.base}/pages/pots`);
  // Before the page is pointed at, nobody hears a press.
  await untilInFrame(`document.documentElement.style.cursor === 'crosshair'`);
  await press('History');
  await press('What differs');
  await press('Restore as draft');
  await press('Publish draft …');
  await press('Publish');
  await until(async () => (await server.json<Interface>('GET', '/interfaces/pots')).liveVersion === 3);
  await browser.get(`${server.base}/s/pots`);
  await seeText('60 results');
  expect(await browser.findElements(By.linkText('Deutsch'))).toHaveLength(0);
});

/** What stands on a page, part by part with what it says, and how some of it looks. */
const SIGNATURE = `
  const root = arguments[0].shadowRoot ?? arguments[0];
  const page = root.querySelector('[data-yucca]') ?? root;
  // What is there without scripts alone is text to who has them.
  const copy = page.cloneNode(true);
  for (const unseen of copy.querySelectorAll('noscript')) unseen.remove();
  const parts = [...copy.querySelectorAll('[data-part]')].map((part) => part.dataset.part + ': ' + part.textContent.replace(/\\s+/g, ' ').trim());
  const looks = ['submit', 'card', 'badge', 'shelf-title'].map((name) => {
    const { color, backgroundColor, borderRadius, fontFamily } = getComputedStyle(page.querySelector('[data-part=' + name + ']'));
    return [name, color, backgroundColor, borderRadius, fontFamily].join(' ');
  });
  const { aspectRatio } = getComputedStyle(page.querySelector('[data-part=found] img'));
  return { parts, looks, aspectRatio, lang: page.lang };`;

test('what is designed stands elsewhere: the same parts, texts and theme on the page, in the element and in React', async () => {
  const design = {
    ...(await server.json<Interface>('GET', '/interfaces/pots?version=2')).document,
    start: { text: 'Thrown by hand.' },
    shelves: [{ from: 'chosen', label: 'Our choice', ids: ['POT-7', 'POT-3'] }],
    pageSize: 12,
  };
  await server.api('PUT', '/interfaces/pots', design);
  const { secret } = await server.api<{ secret: string }>('POST', '/keys', { label: 'Site', rights: ['search'] });
  const html = (head: string, body: string): [string, string] => [
    'text/html; charset=utf-8',
    `<!doctype html><html lang="en"><head><meta name="viewport" content="width=device-width" /><title>Site</title>${head}</head><body style="margin:0">${body}</body></html>`,
  ];
  files.set(
    '/element.html',
    html(
      `<script src="${server.base}/yucca-search.js" defer></script>`,
      `<yucca-search interface="pots" key="${secret}" insights="off"></yucca-search>`,
    ),
  );
  const source = `
    import { createRoot } from 'react-dom/client';
    import { createClient } from '@yucca/kit';
    import { SearchView } from '@yucca/kit/react';
    const client = createClient({ base: '${server.base}', key: '${secret}' });
    const page = await client.page('pots');
    createRoot(document.getElementById('root')).render(<SearchView page={page} client={client} here="/" />);`;
  const { outputFiles } = await build({
    stdin: { contents: source, resolveDir: path.join(ROOT, 'apps/studio'), loader: 'tsx' },
    bundle: true,
    write: false,
    format: 'esm',
    jsx: 'automatic',
    define: { 'process.env.NODE_ENV': '"production"' },
  });
  files.set('/react.js', ['text/javascript', outputFiles[0]!.text]);
  files.set('/styles.css', ['text/css', readFileSync(path.join(ROOT, 'packages/kit/dist/styles.css'), 'utf8')]);
  files.set(
    '/react.html',
    html(
      '<link rel="stylesheet" href="styles.css" /><script type="module" src="react.js"></script>',
      '<div id="root"></div>',
    ),
  );
  const signatureAt = async (address: string, css: string): Promise<unknown> => {
    await browser.get(address);
    const holder = await see(By.css(css));
    await until(() =>
      browser.executeScript(
        `const root = arguments[0].shadowRoot ?? arguments[0];
        return root.querySelectorAll('[data-part=list] [data-part=card], [data-part=found] [data-part=card]').length >= 12 && root.querySelector('[data-part=shelf]') !== null && root.querySelector('[data-part=filters]') !== null;`,
        holder,
      ),
    );
    return browser.executeScript(SIGNATURE, holder as WebElement);
  };
  const hosted = await signatureAt(`${server.base}/s/pots`, 'main');
  expect(JSON.stringify(hosted)).toContain('Thrown by hand.');
  expect(await signatureAt(`${siteBase}/element.html`, 'yucca-search')).toEqual(hosted);
  expect(await signatureAt(`${siteBase}/react.html`, '#root')).toEqual(hosted);
});
