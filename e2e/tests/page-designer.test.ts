import { createServer } from 'node:http';
import type { Interface, InterfacePage } from '@yucca/contract';
import { strFromU8, unzipSync } from 'fflate';
import { By, Key, type WebElement } from 'selenium-webdriver';
import { setSize, setTheme, startBrowser, type Browser } from '../src/browser';
import { byText, Person } from '../src/person';
import { loadPlants, Server, somePlants } from '../src/server';

let server: Server;
let browser: Browser;
const { click, see, seeText, press, until, violations, write } = new Person(() => browser);

beforeAll(async () => {
  server = await new Server().start();
  const plants = somePlants().map((plant, i) => ({ ...plant, pet_safe: i % 3 === 0, rating: 1 + (i % 5) }));
  await loadPlants(server, 'plants', plants);
  await server.api('PATCH', '/collections/plants/tuning/draft', {
    facets: [
      { name: 'colour', field: 'colour' },
      { name: 'pet_safe', field: 'pet_safe', label: 'Safe for pets' },
      { name: 'rating', field: 'rating', kind: 'numbers' },
    ],
    sorts: [{ name: 'best', label: 'Best rated', by: [{ field: 'rating', order: 'desc' }] }],
  });
  await server.api('POST', '/collections/plants/tuning/publish?wait=true', {});
  browser = await startBrowser();
});
afterAll(async () => {
  await browser?.quit();
  await server.leave();
});

const page = (slug: string, query = ''): Promise<InterfacePage> =>
  server.json('GET', `/interfaces/${slug}/page${query}`);
const section = async (name: string): Promise<void> =>
  click(By.xpath(`//nav[@aria-label="Sections of the page"]//button[.="${name}"]`));
/** Something about the first frame, from inside of it. */
const inFrame = <T>(script: string): Promise<T> =>
  browser.executeScript(`const frame = document.querySelector('iframe').contentWindow; ${script}`);
const untilInFrame = (script: string): Promise<unknown> =>
  until(async () => (await inFrame<boolean>(`return Boolean(${script})`)) === true);
const choose = async (control: By, words: string): Promise<void> =>
  (await (await see(control)).findElement(By.xpath(`./option[normalize-space()="${words}"]`))).click();
/** The list beside a label. */
const listOf = (label: string): By => By.xpath(`//label[contains(normalize-space(text()), "${label}")]//select`);

test('from a collection to a page of its own: seen at once, published, and back', async () => {
  await browser.get(`${server.base}/c/plants/records`);
  await click(By.linkText('Page'));
  await until(async () => (await browser.getCurrentUrl()) === `${server.base}/pages/plants`);
  await untilInFrame(`frame.document.querySelector('[data-part=card]')`);
  expect(await violations('iframe')).toEqual([]);
  // The frame stays the same one through all that follows, with what was typed in it.
  await inFrame(`frame.stays = true`);
  await write(By.id('probe'), 'rose');
  await untilInFrame(`frame.document.querySelector('[role=combobox]').value === 'rose'`);
  await untilInFrame(`frame.document.querySelector('mark')`);
  await choose(listOf('Filters'), 'right of the results');
  await untilInFrame(`frame.document.querySelector('[data-filters-at=right]')`);
  await section('Theme');
  await click(By.css('button[aria-label^=Terracotta]'));
  await untilInFrame(
    `getComputedStyle(frame.document.querySelector('[data-part=submit]')).backgroundColor === 'rgb(168, 56, 15)'`,
  );
  expect(await violations('iframe')).toEqual([]);
  expect(await inFrame(`return [frame.stays, frame.document.querySelector('[role=combobox]').value]`)).toEqual([
    true,
    'rose',
  ]);
  // Visitors see nothing of it yet.
  await until(async () => (await server.json<Interface>('GET', '/interfaces/plants')).draftChanged);
  expect((await page('plants')).filters).toBe('left');
  await press('Publish draft …');
  await seeText('Place of the filters: as usual → right');
  await write(By.xpath('//label[contains(., "A note")]//input'), 'Clay for spring');
  await browser.actions().sendKeys(Key.ENTER).perform();
  await until(async () => (await page('plants')).filters === 'right');
  expect((await page('plants')).theme!['--yucca-corner']).toBe('16px');
  // The version before comes back as a draft.
  await press('History');
  await seeText('Clay for spring');
  await press('What differs');
  await press('Restore as draft');
  await untilInFrame(`frame.document.querySelector('[data-filters-at=left]')`);
  expect(await inFrame(`return frame.stays`)).toBe(true);
  await press('Throw draft away');
  await untilInFrame(`frame.document.querySelector('[data-filters-at=right]')`);
});

test('a part that is pointed at opens its control, and a control outlines its part', async () => {
  await browser.get(`${server.base}/pages/plants`);
  // From then on the page is pointed at.
  await untilInFrame(`frame.document.documentElement.style.cursor === 'crosshair'`);
  const pointAt = async (css: string): Promise<void> => {
    await inFrame(`
      const element = frame.document.querySelector(${JSON.stringify(css)});
      for (const type of ['pointermove', 'mousedown', 'click'])
        element.dispatchEvent(new frame.MouseEvent(type, { bubbles: true, cancelable: true }));`);
  };
  await pointAt('[data-part=card] h2 a');
  // It led to no record, but to the control of the title.
  await until(async () => (await browser.getCurrentUrl()).includes('section=results'));
  const focused = (): Promise<string> =>
    browser.executeScript(`return document.activeElement.closest('[data-for]')?.dataset.for ?? ''`);
  await until(async () => (await focused()) === 'card-title');
  expect(await inFrame(`return frame.location.pathname`)).toBe('/s/plants');
  await pointAt('[data-facet=colour]');
  await until(async () => (await focused()) === 'facet:colour');
  await choose(By.css('[data-for="facet:colour"] select'), 'colour swatches');
  await untilInFrame(`frame.document.querySelectorAll('[data-part=swatch]').length > 1`);
  const outline = `[...frame.document.body.children].find((box) => box.style.position === 'fixed')`;
  await untilInFrame(`${outline}.textContent === 'Filter: Colour'`);
  expect(await violations('iframe')).toEqual([]);
  // With the other way of clicking, the page is used.
  await press('uses the page');
  await untilInFrame(`frame.document.documentElement.style.cursor === ''`);
  await pointAt('[data-facet=colour] input');
  await untilInFrame(`frame.location.search.includes('colour=')`);
});

test('a frame that is ready before the designer hears it is asked once more', async () => {
  // Nothing a frame says by itself is heard; only what it says after it was asked.
  const source = `
    if (window === top) window.addEventListener('message', (event) => {
      if (event.data?.yucca === 'ready' && !window.wasAsked) event.stopImmediatePropagation();
    });
    else window.addEventListener('message', (event) => {
      if (event.data?.yucca === 'hello') top.wasAsked = true;
    });`;
  const { identifier } = (await browser.sendAndGetDevToolsCommand('Page.addScriptToEvaluateOnNewDocument', {
    source,
  })) as unknown as { identifier: string };
  try {
    await browser.get(`${server.base}/pages/plants`);
    await untilInFrame(`frame.document.documentElement.style.cursor === 'crosshair'`);
  } finally {
    await browser.sendDevToolsCommand('Page.removeScriptToEvaluateOnNewDocument', { identifier });
  }
});

test('what is typed in the frame and in the probe is one text, and no letter of it is lost', async () => {
  await browser.get(`${server.base}/pages/plants?use=page&probe=rose`);
  const typed = (): Promise<string> => inFrame(`return frame.document.querySelector('[role=combobox]').value`);
  const asked = async (): Promise<string> => (await (await see(By.id('probe'))).getAttribute('value')) ?? '';
  await untilInFrame(`frame.document.querySelector('mark')`);
  await until(async () => (await typed()) === 'rose');
  await browser.switchTo().frame(0);
  await (await see(By.css('[role=combobox]'))).sendKeys(Key.chord(Key.CONTROL, 'a'), 'frosty fern in the shade');
  await browser.switchTo().defaultContent();
  await until(async () => (await asked()) === 'frosty fern in the shade');
  expect(await typed()).toBe('frosty fern in the shade');
  await write(By.id('probe'), 'rose');
  await until(async () => (await typed()) === 'rose');
});

test('filters: order, controls, another label; what is undone is undone in the frame', async () => {
  await server.api('DELETE', '/interfaces/plants/draft');
  await browser.get(`${server.base}/pages/plants?section=filters`);
  await untilInFrame(`frame.document.querySelector('[data-facet=rating]')`);
  // Before that, nobody hears a click.
  await untilInFrame(`frame.document.documentElement.style.cursor === 'crosshair'`);
  await click(By.css('[aria-label="Move Rating up"], [aria-label="Move rating up"]'));
  const order = (): Promise<string[]> =>
    inFrame(`return [...frame.document.querySelectorAll('[data-facet]')].map((one) => one.dataset.facet)`);
  await until(async () => (await order()).join() === 'colour,rating,pet_safe');
  await click(By.css('[data-for="facet:rating"] button[aria-expanded]'));
  await choose(By.css('[data-for="facet:rating"] select'), 'steps (“4 and more”)');
  await untilInFrame(`frame.document.querySelector('[data-facet=rating] [role=radiogroup]')`);
  await write(By.css('[data-for="facet:rating"] input'), 'Stars');
  await untilInFrame(`frame.document.querySelector('[data-facet=rating] legend').textContent === 'Stars'`);
  await (await see(By.css('h1'))).getText();
  await press('Undo');
  await untilInFrame(`frame.document.querySelector('[data-facet=rating] legend').textContent === 'Rating'`);
});

test('the control that was used stays in sight when the bar of the draft comes up', async () => {
  await server.api('DELETE', '/interfaces/plants/draft');
  await setSize(browser, 1280, 520);
  await browser.get(`${server.base}/pages/plants?section=autocomplete`);
  const voice = await see(By.xpath('//label[contains(., "Voice input")]//input'));
  await browser.executeScript('arguments[0].scrollIntoView({ block: "end" })', voice);
  const below = (): Promise<number> =>
    browser.executeScript(
      `const bottom = (element) => element.getBoundingClientRect().bottom;
       return bottom(arguments[0]) - bottom(arguments[0].closest('[role=region]'));`,
      voice,
    );
  const height = (await (await see(By.css('[aria-label=Controls]'))).getRect()).height;
  await voice.click();
  await until(async () => (await (await see(By.css('[aria-label=Controls]'))).getRect()).height < height - 20);
  await until(async () => (await below()) <= 0);
  await setSize(browser, 1280, 800);
  await server.api('DELETE', '/interfaces/plants/draft');
});

test('own CSS: in the frame while it is written, refused where it would leave the page, there without a script', async () => {
  await server.api('DELETE', '/interfaces/plants/draft');
  await browser.get(`${server.base}/pages/plants?section=css`);
  await untilInFrame(`frame.document.querySelector('[data-part=card] h2')`);
  await click(By.css('.cm-content'));
  await browser.actions().sendKeys('h2 { color: rgb(1, 2, 3) }').perform();
  const colour = `getComputedStyle(frame.document.querySelector('[data-part=card] h2')).color`;
  await untilInFrame(`${colour} === 'rgb(1, 2, 3)'`);
  expect(await violations('iframe')).toEqual([]);
  await browser.actions().sendKeys(Key.ENTER, 'h3 { position: fixed }').perform();
  await seeText('outside of the page');
  await seeText('Not saved');
  for (let i = 0; i < '\nh3 { position: fixed }'.length; i++)
    await browser.actions().sendKeys(Key.BACK_SPACE).perform();
  await until(async () => (await browser.findElements(byText('*', 'Not saved'))).length === 0);
  await server.api('PUT', '/interfaces/plants', { collection: 'plants', css: 'h2 { color: rgb(1, 2, 3) }' });
  const html = await (await fetch(`${server.base}/s/plants`)).text();
  expect(html).toMatch(
    /<style nonce="[^"]+">\[data-yucca\]\[data-yucca\]\[data-yucca\] h2\{color:rgb\(1,2,3\)\}<\/style>/,
  );
  await server.api('PUT', '/interfaces/plants', { collection: 'plants' });
});

test('a page that is taken away runs on another origin, under the strictest policy, with its own key', async () => {
  await server.api('PUT', '/interfaces/plants', {
    collection: 'plants',
    title: 'Plants & "more"',
    paging: 'more',
    theme: { light: { accent: '#7a1f94' } },
  });
  const site = createServer((request, response) => {
    const isPage = request.url!.split('?')[0] === '/';
    response.writeHead(isPage ? 200 : 404, { 'Content-Type': 'text/html', 'Content-Security-Policy': policy });
    response.end(isPage ? page : '');
  });
  await new Promise<void>((resolve) => site.listen(0, '127.0.0.1', resolve));
  const origin = `http://127.0.0.1:${(site.address() as { port: number }).port}`;
  const order = { target: 'html', origins: [origin] };
  const answer = await server.call('POST', '/interfaces/plants/handover', order);
  const files = unzipSync(new Uint8Array(await answer.arrayBuffer()));
  const page = strFromU8(files['plants/index.html']!);
  const policy = /^Content-Security-Policy: (.+)$/m.exec(strFromU8(files['plants/README.md']!))![1]!;
  await browser.get(`${origin}/?q=rose`);
  const inside = (css: string): Promise<string> =>
    browser.executeScript(
      `return document.querySelector('yucca-search').shadowRoot?.querySelector(arguments[0])?.textContent ?? ''`,
      css,
    );
  await until(async () => (await inside('mark')).toLowerCase() === 'rose');
  expect(await browser.getTitle()).toBe('Plants & "more"');
  const colour = await browser.executeScript<string>(
    `return getComputedStyle(document.querySelector('yucca-search').shadowRoot.querySelector('[data-part=submit]')).backgroundColor`,
  );
  expect(colour).toBe('rgb(122, 31, 148)');
  expect(await violations()).toEqual([]);
  const said = (await browser.manage().logs().get('browser')).map(({ message }) => message);
  expect(said.filter((message) => /Content Security Policy|Content-Security-Policy/.test(message))).toEqual([]);
  // The key is for this site and these collections alone.
  const key = /key="(yk_[^"]+)"/.exec(page)![1]!;
  const ask = async (from: string, path: string): Promise<number> =>
    (await fetch(`${server.base}/api/v1${path}?key=${key}`, { headers: { Origin: from } })).status;
  expect(await ask(origin, '/collections/plants/search')).toBe(200);
  expect(await ask('https://elsewhere.example', '/collections/plants/search')).toBe(403);
  expect(await ask(origin, '/collections/plants/records')).toBe(403);
  site.close();
  await server.api('PUT', '/interfaces/plants', { collection: 'plants' });
});

test('hand over: files are read before they are taken, and what is new since then is shown', async () => {
  await server.api('POST', '/interfaces/plants/handover', { target: 'react' });
  await server.api('PUT', '/interfaces/plants', { collection: 'plants', currency: 'EUR', pageSize: 12 });
  await browser.get(`${server.base}/pages/plants?section=hand-over&target=react`);
  await see(byText('h2', 'src/search-page.tsx'));
  await see(byText('div', 'export function SearchPage'));
  const list = await see(By.css('nav[aria-label="Files: React project"]'));
  await until(async () => (await list.getText()).includes('package.json'));
  await press('src/yucca.ts');
  await click(By.css('input[type=checkbox]:not([disabled])'));
  const difference = await (await see(By.css('pre[aria-label="What is new"]'))).getText();
  expect(difference).toMatch(/\+ .*size: 12/);
  expect(difference).toMatch(/− .*size: 24/);
  expect(await violations()).toEqual([]);
  await click(By.css('input[value=static]'));
  await seeText('needs no key');
  expect(await violations()).toEqual([]);
  await server.api('PUT', '/interfaces/plants', { collection: 'plants' });
});

test('every control is found by its words', async () => {
  await browser.get(`${server.base}/pages/plants`);
  const options: string[] = await browser.executeScript(
    `return [...document.querySelectorAll('datalist option')].map((option) => option.value)`,
  );
  expect(options.length).toBeGreaterThan(20);
  for (const option of options) {
    const field = await see(By.css('[aria-label="Find a control"]'));
    await browser.executeScript(
      `const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
       set.call(arguments[0], arguments[1]);
       arguments[0].dispatchEvent(new Event('input', { bubbles: true }));`,
      field,
      option,
    );
    const label = option.slice(0, option.lastIndexOf(' ('));
    const found = until(
      async () =>
        await browser.executeScript<boolean>(
          `const found = document.activeElement;
           if (found.getAttribute('aria-label') === 'Find a control') return false;
           for (let around = found; around && around.getAttribute('aria-label') !== 'Controls'; around = around.parentElement)
             if (around.textContent.trim().startsWith(arguments[0]) || around.getAttribute('aria-label') === arguments[0])
               return true;
           return false;`,
          label,
        ),
    );
    // Which one it was.
    await found.catch((error: Error) => Promise.reject(new Error(`${option}: ${error.message}`)));
  }
});

test('a preview is for whoever has its address, and for a time', async () => {
  await server.api('PUT', '/interfaces/plants/draft', { collection: 'plants', title: 'Only a draft' });
  const { address } = await server.json<{ address: string }>('POST', '/interfaces/plants/preview', { expiresInS: 2 });
  const look = async (path: string): Promise<string> => (await fetch(server.base + path)).text();
  expect(await look(address)).toContain('Only a draft');
  expect(await look('/s/plants')).not.toContain('Only a draft');
  expect(await look('/s/plants?preview=nonsense')).toContain('This preview is over');
  // Beside the draft the same address shows what is live.
  expect(await look(`${address}&version=live`)).not.toContain('Only a draft');
  await until(async () => (await look(address)).includes('This preview is over'));
  const query = address.slice(address.indexOf('?'));
  expect((await server.call('GET', `/interfaces/plants/page${query}`)).status).toBe(403);
});

test.each(['Herbarium', 'Frost', 'Night garden', 'Seed packet'])('%s: nothing to find for a checker', async (name) => {
  await server.api('DELETE', '/interfaces/plants/draft');
  await browser.get(`${server.base}/pages/plants?section=theme`);
  await click(By.css(`button[aria-label^="${name}"]`));
  await seeText('Draft: ');
  await until(async () => (await browser.findElements(byText('*', 'saving …'))).length === 0);
  const { address } = await server.json<{ address: string }>('POST', '/interfaces/plants/preview', {});
  for (const theme of ['light', 'dark'] as const) {
    await setTheme(browser, theme);
    await browser.get(`${server.base}${address}&q=rose`);
    await see(By.css('mark'));
    expect(await violations()).toEqual([]);
  }
  await setTheme(browser, 'light');
});

test('a page of a collection that is gone says so', async () => {
  await browser.get(`${server.base}/pages/nowhere`);
  const heading: WebElement = await see(By.css('h1, h2'));
  expect(await heading.getText()).not.toBe('');
  expect((await fetch(`${server.base}/pages/nowhere`)).status).toBe(404);
});
