/** A page in several languages: written in the designer, the same where it is hosted, elsewhere, and taken away. */
import { createServer, type Server as HttpServer } from 'node:http';
import type { Interface, InterfacePage } from '@yucca/contract';
import { By } from 'selenium-webdriver';
import { startBrowser, type Browser } from '../src/browser';
import { fileIn, Person } from '../src/person';
import { loadPlants, Server, somePlants } from '../src/server';

let server: Server;
let browser: Browser;
const { click, see, seeText, press, until, violations, write } = new Person(() => browser);

beforeAll(async () => {
  server = await new Server().start();
  await loadPlants(server, 'plants', somePlants());
  await server.api('POST', '/interfaces', { slug: 'shop', collection: 'plants', title: 'Shop' });
  browser = await startBrowser();
});
afterAll(async () => {
  await browser?.quit();
  await server.leave();
});

const inFrame = <T>(script: string): Promise<T> =>
  browser.executeScript(`const page = document.querySelector('iframe').contentWindow.document; ${script}`);
const untilInFrame = (script: string): Promise<unknown> =>
  until(async () => (await inFrame<boolean>(`return Boolean(${script})`)) === true);
const text = async (css: string): Promise<string> => (await see(By.css(css))).getText();
const field = (label: string): By => By.xpath(`//label[normalize-space()="${label}"]/following-sibling::textarea`);

test('German beside English: names, a text of its own with plurals, one that cannot be used, published', async () => {
  await browser.get(`${server.base}/pages/shop?section=texts`);
  await untilInFrame(`page.querySelector('[data-part=card]')`);
  await write(By.css('[aria-label="Add a language"]'), 'no such');
  await press('Add');
  await seeText('“no such” is no language tag');
  await write(By.css('[aria-label="Add a language"]'), 'German');
  await press('Add');
  await seeText('All texts come along in German.');
  await untilInFrame(`page.querySelector('[data-part=submit]').textContent === 'Suchen'`);
  await untilInFrame(`page.querySelector('[data-yucca]').lang === 'de'`);
  await write(By.xpath('//label[span[.="Shop"]]//input'), 'Laden');
  await untilInFrame(`page.querySelector('header a').textContent === 'Laden'`);
  await click(By.xpath('//summary[contains(., "Results")]'));
  // While it is written it is no text yet: the page stays as it was.
  const found = field('Above the results, when nothing was typed.');
  await write(found, '{total, plural, one');
  await seeText('Not used yet');
  await untilInFrame(`/Ergebnisse/.test(page.querySelector('[data-part=count]').textContent)`);
  await write(found, '{total, plural, one {Eine Pflanze} other {# Pflanzen}}');
  await untilInFrame(`/\\d Pflanzen/.test(page.querySelector('[data-part=count]').textContent)`);
  expect(await violations('iframe')).toEqual([]);
  await until(async () => {
    const { document } = await server.json<Interface>('GET', '/interfaces/shop?version=draft');
    return JSON.stringify(document.languages) === JSON.stringify([
      { locale: 'en' },
      { locale: 'de', texts: { found: '{total, plural, one {Eine Pflanze} other {# Pflanzen}}' }, labels: { Shop: 'Laden' } },
    ]);
  }); // prettier-ignore
  await press('Publish draft …');
  await seeText('Languages');
  await press('Publish');
  await until(async () => (await page('de')).locale === 'de');
});

const page = (language: string): Promise<InterfacePage> =>
  server.json('GET', `/interfaces/shop/page?language=${language}`);

test('a file of texts comes in, and what cannot be used of it is told', async () => {
  await browser.get(`${server.base}/pages/shop?section=texts`);
  const file = fileIn(server.dataDir, 'dutch.json', JSON.stringify({ locale: 'nl', texts: { search: 'Zoeken', found: '{', gone: 'x' } })); // prettier-ignore
  await (await see(By.css('[aria-label="A file of texts"]'))).sendKeys(file);
  await seeText('was taken, but for: found');
  await untilInFrame(`page.querySelector('[data-part=submit]').textContent === 'Zoeken'`);
  await seeText('texts are in English until they are written');
  await press('Throw draft away');
});

test('where it is hosted: its own address for each language, kept by links, typing, Back and records', async () => {
  await browser.get(`${server.base}/s/shop`);
  expect(await text('[data-part=submit]')).toBe('Search');
  await click(By.linkText('Deutsch'));
  await until(async () => (await browser.getCurrentUrl()).endsWith('/s/shop?lang=de'));
  expect(await text('[data-part=submit]')).toBe('Suchen');
  expect(await violations()).toEqual([]);
  const html = await (await fetch(`${server.base}/s/shop?lang=de&q=rose`)).text();
  expect(html).toMatch(/Pflanzen|Ergebnisse für „rose“/);
  expect(html).toMatch(/<link rel="alternate" hrefLang="en" href="[^"]+\/s\/shop"\/>/i);
  expect(html).toMatch(/<link rel="alternate" hrefLang="de" href="[^"]+\/s\/shop\?lang=de"\/>/i);
  expect(html).toMatch(/<input type="hidden" name="lang" value="de"\/>/);
  await write(By.css('[role=combobox]'), 'rose');
  await until(async () => /Ergebnisse? für „rose“/.test(await text('[data-part=count]')));
  await until(async () => /[?&]q=rose/.test(await browser.getCurrentUrl()));
  expect(await browser.getCurrentUrl()).toContain('lang=de');
  await browser.navigate().refresh();
  await until(async () => /Ergebnisse? für „rose“/.test(await text('[data-part=count]')));
  await click(By.css('[data-part=card] h2 a'));
  await until(async () => /\/r\/[^/]+\?lang=de$/.test(await browser.getCurrentUrl()));
  expect(await text('header a')).toBe('Laden');
  // A language that it may not be had in is the first one.
  await browser.get(`${server.base}/s/shop?lang=xx`);
  expect(await text('[data-part=submit]')).toBe('Search');
});

test('elsewhere: the element speaks the language of the document around it', async () => {
  const { secret } = await server.api<{ secret: string }>('POST', '/keys', { label: 'shop', rights: ['search'] });
  let language = 'de-AT';
  const site: HttpServer = createServer((request, response) => {
    const isPage = request.url!.split('?')[0] === '/';
    response.writeHead(isPage ? 200 : 404, { 'Content-Type': 'text/html; charset=utf-8' });
    response.end(
      isPage
        ? `<!doctype html><html lang="${language}"><title>Site</title><script src="${server.base}/yucca-search.js"></script>
           <yucca-search interface="shop" key="${secret}"></yucca-search></html>`
        : '',
    );
  });
  await new Promise<void>((resolve) => site.listen(0, '127.0.0.1', resolve));
  const address = `http://127.0.0.1:${(site.address() as { port: number }).port}/`;
  const inside = (css: string): Promise<string> =>
    browser.executeScript(
      `return document.querySelector('yucca-search')?.shadowRoot?.querySelector(arguments[0])?.textContent ?? ''`,
      css,
    );
  try {
    await browser.get(`${address}?q=zzzz`);
    await until(async () => (await inside('[data-part=submit]')) === 'Suchen');
    // What is seldom seen is fetched when it is.
    await until(async () => (await inside('[data-part=nothing]')).includes('Alles ansehen'));
    language = 'en';
    await browser.get(`${address}?q=zzzz`);
    await until(async () => (await inside('[data-part=nothing-title]')) === 'Nothing found for “zzzz”.');
    expect(await inside('[data-part=submit]')).toBe('Search');
  } finally {
    site.closeAllConnections();
    site.close();
  }
});

test('what cannot be used is refused with its place', async () => {
  const answer = await server.call('PUT', '/interfaces/shop/draft', {
    collection: 'plants',
    languages: [{ locale: 'de', texts: { found: '{totl}', gone: 'x' } }, { locale: 'de' }],
  });
  expect(answer.status).toBe(422);
  const { errors } = (await answer.json()) as { errors: { pointer: string }[] };
  expect(errors.map(({ pointer }) => pointer)).toEqual(
    ['/languages/0/texts/found', '/languages/0/texts/gone', '/languages/1/locale'], // prettier-ignore
  );
});
