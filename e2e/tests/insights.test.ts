/** Insights from outside: what visitors do on a page is counted once, and a failure leads to its repair. */
import type { InsightItem, Insights, Page, PastSearch, SearchAnswer, VisitorTrial } from '@yucca/contract';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { By, Key, type WebElement } from 'selenium-webdriver';
import { setTheme, startBrowser, type Browser } from '../src/browser';
import { Person } from '../src/person';
import { loadPlants, Server, somePlants } from '../src/server';

let server: Server;
let browser: Browser;
const { click, see, seeText, press, until, violations } = new Person(() => browser);

beforeAll(async () => {
  server = await new Server().start();
  await loadPlants(server, 'plants', somePlants());
  await loadPlants(server, 'quiet', somePlants(60));
  browser = await startBrowser();
  // This one is driven by a program; it stands for one that is not.
  const { userAgent } = (await browser.sendAndGetDevToolsCommand('Browser.getVersion', {})) as unknown as { userAgent: string }; // prettier-ignore
  await browser.sendDevToolsCommand('Network.setUserAgentOverride', { userAgent: userAgent.replace('Headless', '') });
});
afterAll(async () => {
  await browser?.quit();
  await server.leave();
});

const insights = (query = ''): Promise<Insights> =>
  server.json<Insights>('GET', `/collections/plants/insights${query}`);
const list = (name: string, query = ''): Promise<Page<InsightItem>> =>
  server.json<Page<InsightItem>>('GET', `/collections/plants/insights/${name}${query}`);
const erase = (query: string): Promise<Response> => server.call('DELETE', `/collections/plants/insights?${query}`);
const daysAgo = (days: number, minutes = 0): string =>
  new Date(Date.now() - days * 86_400_000 + minutes * 60_000).toISOString();
const bring = (...searches: PastSearch[]): Promise<Response> =>
  server.call('POST', '/collections/plants/insights/searches', searches.map((one) => JSON.stringify(one)).join('\n'), {
    'Content-Type': 'application/x-ndjson',
  });

/** Three visitors who call a plant by a name that the data does not have, and two of them then by one it has. */
const failures = (): PastSearch[] =>
  ['anna', 'bo', 'chris'].flatMap((session, i): PastSearch[] => [
    { at: daysAgo(2, i), q: 'hound brier', session, total: 0 },
    ...(i < 2 ? [{ at: daysAgo(2, i + 0.5), q: 'rose', session, total: 20 }] : []),
  ]);

test('letters typed on a page, a result opened: one search, one click, of that page and width', async () => {
  const slug = 'plants';
  await browser.get(`${server.base}/s/${slug}`);
  const field = await see(By.css('[role=combobox]'));
  for (const letter of 'frost') await field.sendKeys(letter);
  await until(async () => (await browser.getCurrentUrl()).includes('q=frost'));
  await field.sendKeys(Key.ESCAPE);
  await until(async () => {
    await click(By.css('[data-part=card] h2 a'));
    return true;
  });
  await until(async () => (await browser.getCurrentUrl()).includes('/r/'));
  await until(async () => (await insights()).totals.clicked === 1);
  const { totals, tags } = await insights();
  expect(totals).toMatchObject({ searches: 1, visitors: 1, nothing: 0, clicked: 1, meanPlace: 1 });
  expect(tags).toEqual([`page:${slug}`, 'width:desktop']);
  expect((await insights(`?interface=${slug}`)).totals.searches).toBe(1);
  expect((await insights('?tag=width:phone')).totals.searches).toBe(0);
  expect((await list('asked')).items).toMatchObject([{ query: 'frost', count: 1, clicked: 1 }]);

  // An address that is sent around: the server has asked for its answer, and the page says whose it was.
  await browser.get(`${server.base}/s/${slug}?q=rose`);
  await until(async () => (await insights()).totals.searches === 2);
  await erase('query=frost');
  await erase('query=rose');
  expect((await insights()).totals).toMatchObject({ searches: 0, clicked: 0 });
});

test('who asks not to be followed, a draft, and the studio are not counted', async () => {
  const asked = (more: object, headers: Record<string, string> = {}): Promise<Response> =>
    server.call('POST', '/collections/plants/search', { q: 'rose', session: 'anna', ...more }, headers);
  await asked({}, { DNT: '1' });
  await asked({}, { 'Sec-GPC': '1' });
  await asked({}, { 'User-Agent': 'SomeBot/1.0' });
  await asked({ record: false });
  await asked({ version: 'draft' });
  await asked({ q: 'fern', session: 'bo' });
  await until(async () => (await insights()).totals.searches > 0);
  expect((await list('asked')).items.map(({ query }) => query)).toEqual(['fern']);
  await erase('session=bo');
});

test('bad input ends in a sentence and counts nothing', async () => {
  const wrong = async (query: string, pointer: string): Promise<void> => {
    const answer = await server.call('GET', `/collections/plants/insights${query}`);
    expect({ query, status: answer.status }).toEqual({ query, status: 422 });
    expect(JSON.stringify(await answer.json())).toContain(`"${pointer}"`);
  };
  await wrong('?from=2026-02-30', '/from');
  await wrong('?from=2026-05-02&to=2026-05-01', '/from');
  await wrong('?from=1990-01-01', '/from');
  await wrong('?interval=minute', '/interval');
  await wrong('?tag=a&interface=b', '/tag');
  await wrong('/asked?sort=colour', '/sort');
  await wrong('/proposals?query=', '/query');
  expect((await server.call('GET', '/collections/plants/insights/best')).status).toBe(404);
  expect((await server.call('DELETE', '/collections/plants/insights')).status).toBe(422);
  const lines = [{ at: daysAgo(1), q: 'rose', session: 'a', total: 1 }, { at: 'yesterday', q: 'rose', session: 'a', total: 1 }]; // prettier-ignore
  const refused = await bring(...lines);
  expect(refused.status).toBe(422);
  expect(((await refused.json()) as { detail: string }).detail).toMatch(/^Line 2: /);
  expect((await insights()).totals.searches).toBe(0);
});

test('from the list of failures to a published repair that shows as fixed', async () => {
  expect((await bring(...failures(), { at: daysAgo(1), q: '=cmd|x', session: 'd', total: 0 })).status).toBe(200);
  await browser.get(`${server.base}/c/plants/insights`);
  await seeText('Found nothing');
  await see(By.css('figure svg'));
  expect(await violations()).toEqual([]);
  await setTheme(browser, 'dark');
  expect(await violations()).toEqual([]);
  await setTheme(browser, 'light');
  const row = By.xpath('//tr[.//button[contains(., "hound brier")]]');
  expect((await (await see(row)).getText()).replace(/\s+/g, ' ')).toContain('hound brier then “rose” 3 3 3');
  await click(By.xpath('//button[contains(., "hound brier")]'));
  await seeText('Synonym: “hound brier” finds “rose” too');
  await seeText('2 of 2 visitors who asked for “rose” next found something.');
  expect(await violations()).toEqual([]);
  await press('Take into the draft');
  await seeText('is judged its best answer');
  const { judgements } = await server.json<{ judgements: { query: string }[] }>(
    'GET',
    '/collections/plants/judgements',
  );
  expect(judgements).toMatchObject([{ query: 'hound brier' }]);
  await press('Undo');
  await until(async () => (await server.json<{ judgements: object[] }>('GET', '/collections/plants/judgements')).judgements.length === 0); // prettier-ignore
  await press('Take into the draft');
  await seeText('is judged its best answer');
  await server.api('POST', '/collections/plants/tuning/publish', { note: 'Old names' });
  await browser.navigate().refresh();
  await seeText('✓ fixed since');
  const [fixed] = (await list('nothing')).items.filter(({ query }) => query === 'hound brier');
  expect(fixed!.finds).toBeGreaterThan(0);
  expect((await insights()).published[0]).toMatchObject({ note: 'Old names' });
  // It fails again: it is not fixed any more.
  await bring({ at: new Date().toISOString(), q: 'hound brier', session: 'e', total: 0 });
  expect((await list('nothing')).items.find(({ query }) => query === 'hound brier')!.fixedSince).toBeUndefined();

  const csv = await (await server.call('GET', '/collections/plants/insights/nothing?format=csv')).text();
  expect(csv.split('\r\n')[0]).toMatch(/^query,count,visitors,nothing/);
  expect(csv).toContain("'=cmd|x");
});

test('what visitors open becomes judgements, apart from those by hand', async () => {
  const found = await server.json<{ results: { id: string }[] }>('GET', '/collections/plants/search?q=mint&size=5');
  const shown = found.results.map(({ id }) => id);
  const visits = Array.from({ length: 40 }, (_, i): PastSearch => {
    const clicks = i % 2 === 0 ? [{ recordId: shown[1]!, position: 2 }] : [];
    return { at: daysAgo(3, i), q: 'mint', session: `mint ${i}`, total: shown.length, shown, clicks };
  });
  expect((await bring(...visits)).status).toBe(200);
  await browser.get(`${server.base}/c/plants/judgements?by=visitors`);
  const row = By.xpath('//tr[.//button[normalize-space()="mint"]]');
  await until(async () => /mint 5 0\.\d{3}/.test((await (await see(row)).getText()).replace(/\s+/g, ' ')));
  await seeText('Publishing asks only for what was judged by hand');
  expect(await violations()).toEqual([]);
  const { judgements } = await server.json<{ judgements: { query: string }[] }>(
    'GET',
    '/collections/plants/judgements',
  );
  expect(judgements.map(({ query }) => query)).not.toContain('mint');
});

/** A page of another site with the element on it. */
async function elsewhere(attributes: string): Promise<{ address: string; close: () => void }> {
  const site = createServer((_, response) =>
    response.setHeader('Content-Type', 'text/html').end(
      `<!doctype html><title>Shop</title><script src="${server.base}/yucca-search.js" defer></script>
       <yucca-search server="${server.base}" interface="plants" ${attributes}></yucca-search>`,
    ),
  );
  await new Promise<void>((resolve) => site.listen(0, '127.0.0.1', resolve));
  const { port } = site.address() as AddressInfo;
  return { address: `http://127.0.0.1:${port}/`, close: () => void site.close() };
}

async function inElement(selector: string): Promise<WebElement> {
  let found: WebElement | null = null;
  await until(async () => {
    const script = 'return document.querySelector("yucca-search")?.shadowRoot?.querySelector(arguments[0])';
    found = await browser.executeScript<WebElement | null>(script, selector);
    return found !== null;
  });
  return found!;
}

test('the element on a page of another site tells what visitors do there, unless its page says no', async () => {
  const { secret } = await server.json<{ secret: string }>('POST', '/keys', { label: 'Shop', rights: ['search'] });
  const before = (await insights()).totals;
  for (const [attributes, told] of [
    [`key="${secret}" insights="off"`, 0],
    [`key="${secret}"`, 1],
  ] as const) {
    const site = await elsewhere(attributes);
    try {
      await browser.get(site.address);
      const field = await inElement('[role=combobox]');
      for (const letter of 'lavender') await field.sendKeys(letter);
      await until(async () => (await browser.getCurrentUrl()).includes('q=lavender'));
      // Without offers Escape would empty the field.
      await until(async () => (await field.getAttribute('aria-expanded')) === 'true');
      await browser.actions().sendKeys(Key.ESCAPE).perform();
      await (await inElement('[data-part=card] h2 a')).click();
      await until(async () => (await browser.getCurrentUrl()).includes('/r/'));
      await until(async () => (await insights()).totals.clicked === before.clicked + told);
    } finally {
      site.close();
    }
  }
  const of = (await list('asked')).items.filter(({ query }) => query === 'lavender');
  expect(of).toMatchObject([{ count: 1, clicked: 1 }]);
});

test('a collection nobody has searched says what to do; a range and a list stand in the address', async () => {
  await browser.get(`${server.base}/c/quiet/insights`);
  await seeText('Nobody has searched yet');
  expect(await violations()).toEqual([]);
  await browser.get(`${server.base}/c/plants/insights`);
  await press('7 days');
  await press('Most asked');
  await until(async () => /days=7.*list=asked|list=asked.*days=7/.test(await browser.getCurrentUrl()));
  await browser.navigate().refresh();
  await see(By.css('button[aria-pressed=true]'));
  // The server draws the first list; the address says which one as soon as scripts are there.
  const current = By.css('nav[aria-label=Lists] [aria-current=true]');
  await until(async () => (await (await see(current)).getText()) === 'Most asked');
});

test('live against draft on visitors: begun, watched and ended on the screen', async () => {
  await browser.get(`${server.base}/c/quiet/insights`);
  expect(await browser.findElements(By.css('[aria-label="Trial with visitors"]'))).toEqual([]);
  const live = await server.json<SearchAnswer>('GET', '/collections/quiet/search?q=rose&size=50');
  const last = live.results.at(-1)!.id;
  // Visitors will open what the draft alone puts first.
  await server.api('PATCH', '/collections/quiet/tuning/draft?wait=true', {
    placements: [{ name: 'last-first', when: { query: 'rose', is: 'exact' }, lift: [`id = '${last}'`] }],
  });
  await browser.navigate().refresh();
  await press('Try the draft on visitors');
  await seeText('0 visits opened what one side alone put there.');
  for (let n = 0; n < 12; n++) {
    const asked = { q: 'rose', session: `visit ${n}`, size: 50 };
    const { queryId, results } = await server.json<SearchAnswer>('POST', '/collections/quiet/search', asked);
    expect(new Set(results.map(({ id }) => id)).size).toBe(live.results.length);
    const event = { type: 'click', queryId, recordId: last, position: 1, session: `visit ${n}`, id: `open ${n}` };
    // Told twice, counted once.
    await server.api('POST', '/events', { events: [event, event] });
  }
  await seeText('12 visits opened what one side alone put there.');
  await seeText('The draft is preferred, 99% sure.');
  expect(await violations()).toEqual([]);
  await setTheme(browser, 'dark');
  expect(await violations()).toEqual([]);
  await setTheme(browser, 'light');
  await press('Stop');
  await seeText('Stopped on');
  await seeText('Publish the draft');
  const ended = await server.json<VisitorTrial>('GET', '/collections/quiet/visitor-trial');
  expect(ended).toMatchObject({ state: 'ended', ended: 'stopped', wins: { live: 0, draft: 12 }, preferred: 'draft' });
});
