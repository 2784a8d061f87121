import type { SearchAnswer } from '@yucca/contract';
import { By, Key, type WebElement } from 'selenium-webdriver';
import { hearBeacons, setSize, startBrowser, type Browser } from '../src/browser';
import { Ear } from '../src/ear';
import { Person } from '../src/person';
import { loadPlants, Server, somePlants } from '../src/server';

let server: Server;
let browser: Browser;
const { click, see, until, violations } = new Person(() => browser);

/** Garden n lies n × 10 km north of the town of Penden. */
const gardens = Array.from({ length: 30 }, (_, i) => ({
  id: `C-${i + 1}`,
  name: `Garden ${i + 1}`,
  about: i % 2 ? 'A walled garden by the river.' : 'Two glasshouses at the end of the lane.',
  position: { type: 'Point', coordinates: [-18, 47 + (i + 1) * 0.0899322] },
}));
const guides = Array.from({ length: 100 }, (_, i) => ({
  id: `G-${i + 1}`,
  title: `Roses, part ${i + 1}`,
  sections: [
    {
      heading: 'Before you begin',
      text: 'Find a place in the sun and dig a hole twice as wide as the pot. '.repeat(3),
    },
    { heading: 'Frost', text: 'Cover young plants with fleece when a late frost is forecast, and take it off by day.' },
  ],
}));

beforeAll(async () => {
  server = await new Server().start();
  const plants = somePlants().map((plant, i) => ({ ...plant, pet_safe: i % 3 === 0 }));
  await loadPlants(server, 'plants', plants);
  await loadPlants(server, 'guides', guides);
  await loadPlants(server, 'gardens', gardens);
  const tune = async (name: string, tuning: object): Promise<void> => {
    await server.api('PATCH', `/collections/${name}/tuning/draft`, tuning);
    await server.api('POST', `/collections/${name}/tuning/publish?wait=true`, {});
  };
  await tune('plants', {
    facets: [
      { name: 'colour', field: 'colour' },
      { name: 'price', field: 'price', kind: 'numbers' },
      { name: 'pet_safe', field: 'pet_safe', label: 'Safe for pets' },
    ],
    sorts: [{ name: 'price-low', label: 'Price, low to high', by: [{ field: 'price' }] }],
  });
  await tune('guides', { snippets: [{ field: 'sections.text', words: 12 }], facets: [] });
  await tune('gardens', { geo: 'position', facets: [] });
  const make = (document: object): Promise<unknown> => server.api('POST', '/interfaces', document);
  await make({
    slug: 'nursery',
    title: 'Nursery',
    collection: 'plants',
    thing: 'Product',
    currency: 'GBP',
    autocomplete: [
      { from: 'values', label: 'Go on with', size: 3 },
      { from: 'records', label: 'Plants', size: 3 },
      { from: 'records', label: 'Guides', collection: 'guides', size: 2 },
      { from: 'viewed', label: 'Looked at before' },
    ],
  });
  await make({
    slug: 'reading',
    title: 'Reading',
    collection: 'guides',
    layout: 'rows',
    thing: 'Article',
    paging: 'endless',
    pageSize: 10,
    card: { text: 'sections.text' },
  });
  await make({
    slug: 'collect',
    title: 'Places',
    collection: 'gardens',
    layout: 'places',
    pageSize: 10,
    paging: 'more',
    places: [{ name: 'Penden', lat: 47, lng: -18 }],
  });
  browser = await startBrowser();
});
afterAll(async () => {
  await browser?.quit();
  await server.leave();
});

const open = (path: string): Promise<void> => browser.get(server.base + path);
const text = async (css: string): Promise<string> => (await see(By.css(css))).getText();
const texts = (css: string): Promise<string[]> =>
  browser.executeScript(`return [...document.querySelectorAll(${JSON.stringify(css)})].map((one) => one.innerText)`);
const scrolled = (): Promise<number> => browser.executeScript('return scrollY');
const active = (): Promise<WebElement> => browser.switchTo().activeElement();

test('a page is made of what its interface says, and says so to machines', async () => {
  const html = await (await fetch(`${server.base}/s/nursery?q=rose`)).text();
  expect(html).toContain('£');
  expect(html).toContain('<link rel="canonical"');
  expect(html).toContain('<meta name="robots" content="noindex, follow"/>');
  const [, json] = /<script type="application\/ld\+json">(.*?)<\/script>/.exec(html)!;
  expect(JSON.parse(json!)).toMatchObject({
    '@context': 'https://schema.org',
    mainEntity: {
      '@type': 'ItemList',
      itemListElement: expect.arrayContaining([expect.objectContaining({ position: 1 })]),
    },
  });
});

test('by keyboard alone: offers of two collections, into a record, and back to where one was', async () => {
  await open('/s/nursery');
  const field = await see(By.css('[role=combobox]'));
  await field.sendKeys('rose');
  await until(async () => (await texts('[data-part=heading]')).length === 2);
  expect((await texts('[data-part=heading]')).map((heading) => heading.replace(/ .*/, ''))).toEqual([
    'Plants',
    'Guides',
  ]);
  expect(await violations()).toEqual([]);
  await field.click();
  await until(async () => (await texts('[role=option]')).length === 5);
  // The last of five rows is a guide: it is shown on the page of the guides.
  await field.sendKeys(Key.ARROW_UP, Key.ENTER);
  await until(async () => (await browser.getCurrentUrl()).includes('/s/reading/r/G-'));
  expect(await text('h1')).toMatch(/^Roses, part/);
  expect(await texts('article h2')).toEqual(['Before you begin', 'Frost']);
  expect(await violations()).toEqual([]);
  await browser.navigate().back();
  await until(async () => (await text('#results strong')) === '20');
  // What was looked at is offered before the next first letter.
  await open('/s/nursery');
  await click(By.css('[role=combobox]'));
  await until(async () => (await texts('[data-kind=viewed]')).length === 1);
});

test('where its design says so, a query can be spoken', async () => {
  const spoken = { slug: 'spoken', title: 'Spoken', collection: 'plants', typing: { voice: true } };
  await server.api('POST', '/interfaces', spoken);
  const allowed = (await fetch(`${server.base}/s/spoken`)).headers.get('permissions-policy');
  expect(allowed).toContain('microphone=(self)');
  expect((await fetch(server.base)).headers.get('permissions-policy')).toContain('microphone=()');
  await open('/s/nursery');
  await see(By.css('[data-part=count] strong'));
  expect(await browser.findElements(By.css('[data-part=voice]'))).toEqual([]);
  await open('/s/spoken');
  const ear = new Ear(() => browser);
  await ear.standIn();
  await click(By.css('button[aria-label="Search by voice"]'));
  await ear.hear('lavender');
  await until(async () => (await text('article mark')).toLowerCase() === 'lavender');
  await ear.end();
  await see(By.css('button[aria-label="Search by voice"]'));
  await until(async () => (await browser.getCurrentUrl()).endsWith('?q=lavender'));
  expect(await violations()).toEqual([]);
});

test('filters by keyboard: a switch, and a thumb of a range', async () => {
  await open('/s/nursery');
  await (await see(By.css('[role=switch]'))).sendKeys(Key.SPACE);
  await until(async () => (await text('#results strong')) === '40');
  const thumb = await see(By.css('input[type=range][aria-label="Price, from"]'));
  await thumb.sendKeys(Key.ARROW_RIGHT, Key.ARROW_RIGHT, Key.ARROW_RIGHT);
  await until(async () => (await browser.getCurrentUrl()).includes('price='));
  expect(await violations()).toEqual([]);
});

test('scrolling on brings more, up to a button; Back finds the place again', async () => {
  await open('/s/reading?q=frost');
  await until(async () => (await text('#results strong')) === '100');
  expect(await text('[data-part=card-text]')).toContain('Frost: ');
  expect(await text('[data-part=card-text] mark')).toBe('frost');
  await until(async () => {
    await browser.executeScript('scrollTo(0, document.body.scrollHeight)');
    return (await texts('article')).length === 40;
  });
  // Now it stops by itself, so that the foot of the page can be reached.
  await browser.executeScript('scrollTo(0, document.body.scrollHeight)');
  await browser.sleep(400);
  expect((await texts('article')).length).toBe(40);
  await click(By.css('[data-part=more] a'));
  await until(async () => (await texts('article')).length >= 50);
  expect(await browser.getCurrentUrl()).toMatch(/[?&]page=\d/);
  await browser.executeScript('scrollTo(0, 2400)');
  await until(async () => (await browser.executeScript('return history.state?.yuccaScroll')) === 2400);
  const link = (await browser.findElements(By.css('article h2 a')))[24]!;
  await browser.executeScript('arguments[0].click()', link);
  await until(async () => (await browser.getCurrentUrl()).includes('/r/'));
  await browser.navigate().back();
  await until(async () => (await texts('article')).length >= 50 && Math.abs((await scrolled()) - 2400) < 4);
});

test('places: the nearest first, within a distance, on a map that says no more than the list', async () => {
  await open('/s/collect');
  await until(async () => (await text('#results strong')) === '30');
  await (await see(By.css('select[name=near]'))).sendKeys('Penden');
  await until(async () => (await texts('article h2'))[0] === 'Garden 1');
  expect((await texts('[data-part=card-distance]')).slice(0, 2)).toEqual(['10 km away', '20 km away']);
  const selects = await browser.findElements(By.css('[data-part=near] select'));
  await selects[1]!.sendKeys('25 km');
  await until(async () => (await text('#results strong')) === '2');
  expect(decodeURIComponent(await browser.getCurrentUrl())).toContain('near=47,-18,25km');
  expect(await texts('[data-part=map-mark]')).toHaveLength(2);
  expect(await (await see(By.css('[data-part=map]'))).getAttribute('aria-label')).toContain('Map of the 2 results');
  expect(await violations()).toEqual([]);
  // Shared, the address shows the same in the HTML.
  const html = await (await fetch(await browser.getCurrentUrl())).text();
  expect(html).toContain('<strong>2</strong> results');
  expect(html).toContain('card-distance">10 km');
});

test('on a phone the filters are a sheet: the focus stays inside, Escape gives it back', async () => {
  await setSize(browser, 390, 800);
  await open('/s/nursery');
  const button = await see(By.css('[data-role=open]'));
  await button.sendKeys(Key.ENTER);
  const sheet = await see(By.css('[role=dialog]'));
  expect(await sheet.isDisplayed()).toBe(true);
  expect(await violations()).toEqual([]);
  const inside = (): Promise<boolean> =>
    browser.executeScript("return document.querySelector('#filters').contains(document.activeElement)");
  await browser.actions().keyDown(Key.SHIFT).sendKeys(Key.TAB).keyUp(Key.SHIFT).perform();
  expect(await inside()).toBe(true);
  expect(await (await active()).getText()).toContain('See 120 results');
  await browser.actions().sendKeys(Key.TAB).perform();
  expect(await inside()).toBe(true);
  await click(By.css('#filters input[value=red]'));
  await until(async () => (await text('[data-part=sheet-end]')) === 'See 30 results');
  await browser.actions().sendKeys(Key.ESCAPE).perform();
  await until(async () => (await browser.findElements(By.css('[role=dialog]'))).length === 0);
  expect(await (await active()).getAttribute('data-role')).toBe('open');
  expect(await browser.executeScript('return document.documentElement.scrollWidth <= innerWidth')).toBe(true);
  await setSize(browser, 1280, 800);
});

test('without JavaScript: more results, places, records and the sheet are links and forms', async () => {
  const plain = await startBrowser({ javascript: false });
  try {
    const visitor = new Person(() => plain);
    const texts = async (css: string): Promise<string[]> => {
      const found = await plain.findElements(By.css(css));
      return Promise.all(found.map((one) => one.getText()));
    };
    const shows = (css: string, holds: (texts: string[]) => boolean) =>
      visitor.until(async () => holds(await texts(css)));
    const press = (css: string): Promise<void> => visitor.click(By.css(css));
    await plain.get(`${server.base}/s/reading`);
    await shows('article h2', ({ length }) => length === 10);
    await press('[data-part=more] a');
    await shows('article h2', ({ length }) => length === 20);
    await press('article h2 a');
    await shows('h1', ([title]) => title?.startsWith('Roses') === true);
    await plain.get(`${server.base}/s/collect`);
    await (await visitor.see(By.css('select[name=near]'))).sendKeys('Penden');
    await press('[data-part=submit]');
    await shows('[data-part=card-distance]', ([first]) => first === '10 km away');
    await plain.get(`${server.base}/s/nursery`);
    await press('[role=switch]');
    await press('#filters button[type=submit]');
    await shows('#results strong', ([total]) => total === '40');
  } finally {
    await plain.quit();
  }
});

test('what a visitor sees is told to the server, under the key of the page', async () => {
  const beacons = await hearBeacons(browser);
  await open('/s/nursery?q=rose');
  // The first results are in sight; a second later that is known.
  await until(async () => (await beacons.told()).some(({ body }) => body.includes('"view"')));
  const { body } = (await beacons.told())[0]!;
  const key = /yk_[\w-]+/.exec(await (await fetch(`${server.base}/s/nursery`)).text())![0];
  const answer = await fetch(`${server.base}/api/v1/events?key=${key}`, { method: 'POST', body });
  expect([answer.status, await answer.json()]).toEqual([202, { taken: expect.any(Number) as number }]);
  expect((await fetch(`${server.base}/api/v1/events`, { method: 'POST', body })).status).toBe(401);
  await beacons.stop();
});

test('what two visitors asked for and opened is offered to the next, and asked when chosen', async () => {
  for (const session of ['anna', 'bo']) {
    const { queryId, results } = await server.api<SearchAnswer>('POST', '/collections/plants/search', {
      q: 'tree fern',
    });
    await server.api('POST', '/events', { events: [{ type: 'click', queryId, recordId: results[0]!.id, session }] });
  }
  await open('/s/nursery');
  const input = await see(By.css('[role=combobox]'));
  await input.sendKeys('tr');
  const offer = await see(By.css('[data-kind=query]'));
  expect(await offer.getText()).toBe('tree fern\n20');
  await offer.click();
  await until(async () => (await browser.getCurrentUrl()).endsWith('?q=tree+fern'));
  await until(async () => (await (await see(By.css('#results strong'))).getText()) === '20');
  expect(await input.getAttribute('value')).toBe('tree fern');
});

test('the lens draws every request, and slows the line down', async () => {
  await open('/s/nursery?lens=1');
  const line = await see(By.css('[data-yucca-lens] select'));
  await line.sendKeys('slow');
  const field = await see(By.css('[role=combobox]'));
  for (const letter of 'fern') await field.sendKeys(letter);
  await until(async () =>
    (await texts('[data-yucca-lens] tr[data-outcome=done]')).some((row) => row.startsWith('fern')),
  );
  expect((await texts('[data-yucca-lens] tr[data-outcome=cancelled]')).length).toBeGreaterThan(2);
  expect(await browser.getCurrentUrl()).toContain('lens=1');
  await click(By.xpath('//button[contains(., "Measure first results")]'));
  await until(async () => (await text('[data-yucca-lens] [role=status]')).startsWith('in the HTML'));
  expect(await violations()).toEqual([]);
});

test('answers that come out of order on a slow line are never shown out of order', async () => {
  // Before any script of the page runs: answers are held back, and come in the opposite order once the last is there.
  const { identifier } = (await browser.sendAndGetDevToolsCommand('Page.addScriptToEvaluateOnNewDocument', {
    source: `
      const real = window.fetch, held = [];
      window.answered = 0;
      window.fetch = (address, init) => {
        if (!String(address).includes('/search?')) return real(address, init);
        // Not even cancelled: the answer of an overtaken request arrives all the same.
        return real(address, { ...init, signal: undefined }).then((response) => new Promise((resolve) => {
          held.push(() => { window.answered++; resolve(response); });
          if (/q=lavender&|"q":"lavender"/.test(address + init.body)) while (held.length > 0) held.pop()();
        }));
      };`,
  })) as unknown as { identifier: string };
  await open('/s/nursery');
  await until(async () => (await text('#results strong')) === '120');
  await browser.executeScript(`
    window.shown = [];
    new MutationObserver(() => window.shown.push(document.querySelector('#results [data-part=count]').textContent))
      .observe(document.querySelector('#results'), { subtree: true, childList: true, characterData: true });`);
  const field = await see(By.css('[role=combobox]'));
  for (const letter of 'lavender') await field.sendKeys(letter);
  await until(async () => (await text('#results [data-part=count]')).includes('“lavender”'));
  expect(await browser.executeScript('return window.answered')).toBeGreaterThan(4);
  await browser.sleep(300);
  const shown = await browser.executeScript<string[]>('return window.shown');
  expect(shown.length).toBeGreaterThan(0);
  // What was there at first stays until the newest answer comes; nothing is drawn in between.
  expect(shown.filter((line) => line.includes('“') && !line.includes('“lavender”'))).toEqual([]);
  await browser.sendDevToolsCommand('Page.removeScriptToEvaluateOnNewDocument', { identifier });
});
