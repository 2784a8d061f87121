/** What holds for every page that can be designed, whatever its theme, width, language and texts. */
import { STARTING_THEMES, type InterfaceDocument } from '@yucca/contract';
import { By } from 'selenium-webdriver';
import { setSize, setTheme, startBrowser, type Browser } from '../src/browser';
import { Person } from '../src/person';
import { loadPlants, Server, somePlants } from '../src/server';

let server: Server;
let browser: Browser;
const { see, until, violations } = new Person(() => browser);

const picture = `data:image/svg+xml,${encodeURIComponent('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4 3"><rect width="4" height="3" fill="#9c6"/></svg>')}`;

/** A page with every part there is on it. */
const DESIGN: InterfaceDocument = {
  collection: 'plants',
  card: { picture: 'picture', second: 'colour', number: 'rating' },
  facets: ['colour', 'pet_safe', { name: 'rating', control: 'steps' }],
  badges: [
    { label: 'Safe for pets', where: 'pet_safe = TRUE' },
    { label: 'Best', where: 'rating > 4', colour: '#ffd166' },
  ],
  formats: { rating: { unit: 'stars', decimals: 1 } },
  header: { links: [{ label: 'Home', href: '/' }] },
  start: { text: 'All we grow.' },
  shelves: [
    { from: 'chosen', label: 'Our choice', ids: ['P-001', 'P-002', 'P-003'] },
    { from: 'found', label: 'Guides', collection: 'guides' },
  ],
  languages: [{ locale: 'en' }, { locale: 'ar' }],
  pageSize: 12,
};

beforeAll(async () => {
  server = await new Server().start();
  const plants = somePlants().map((plant, i) => ({ ...plant, picture, pet_safe: i % 3 === 0, rating: 1 + (i % 5) }));
  await loadPlants(server, 'plants', plants);
  await loadPlants(server, 'guides', [{ id: 'G-1', name: 'A rose for every wall' }]);
  await server.api('PATCH', '/collections/plants/tuning/draft', {
    facets: [
      { name: 'colour', field: 'colour' },
      { name: 'pet_safe', field: 'pet_safe', label: 'Safe for pets' },
      { name: 'rating', field: 'rating', kind: 'numbers' },
    ],
  });
  await server.api('POST', '/collections/plants/tuning/publish?wait=true', {});
  await server.api('POST', '/interfaces', { slug: 'shop', ...DESIGN });
  browser = await startBrowser();
});
afterAll(async () => {
  await browser?.quit();
  await server.leave();
});

const put = (design: Partial<InterfaceDocument>): Promise<unknown> =>
  server.api('PUT', '/interfaces/shop', { ...DESIGN, ...design });
const WIDTHS = [390, 820, 1280];
const sideways = (): Promise<boolean> =>
  browser.executeScript('return document.documentElement.scrollWidth > innerWidth');
/** Opens the page, and waits until all of it is there. */
async function open(query: string, whole = '[data-part=card]'): Promise<void> {
  await browser.get(`${server.base}/s/shop${query}`);
  await see(By.css(whole));
}

test.each(STARTING_THEMES.map(({ name, theme }, at) => ({ name, theme, at })))(
  'in the theme $name, light and dark, at three widths: no finding, nothing sideways',
  async ({ theme, at }) => {
    await put({ theme });
    for (const [i, mode] of (['light', 'dark'] as const).entries()) {
      await setTheme(browser, mode);
      for (const [j, width] of WIDTHS.entries()) {
        // Colours depend on theme and mode, what stands where on the width: the first theme is checked in every pair of
        // these, another in each mode at one width, and in light for what goes sideways.
        const isChecked = at === 0 || j === (at + i) % WIDTHS.length;
        if (!isChecked && mode === 'dark') continue;
        await setSize(browser, width, 900);
        await open(j === 1 ? '?q=rose' : '', '[data-part=shelf]');
        const found = isChecked ? await violations() : [];
        expect([mode, width, found, await sideways()]).toEqual([mode, width, [], false]);
      }
    }
  },
);

test.each(['cards', 'rows', 'table'] as const)('from right to left as %s, at three widths', async (layout) => {
  await put({ layout, theme: STARTING_THEMES[0]!.theme });
  await setTheme(browser, 'light');
  for (const width of WIDTHS) {
    await setSize(browser, width, 900);
    await open('?lang=ar&q=rose', layout === 'table' ? '[data-part=table] td' : '[data-part=card]');
    expect(await browser.executeScript(`return document.querySelector('[data-yucca]').dir`)).toBe('rtl');
    expect([width, await violations(), await sideways()]).toEqual([width, [], false]);
  }
});

test('hostile texts: what cannot be is refused with a sentence, and whatever can leaves a page that works', async () => {
  const markup = `</script><img src=x onerror="window.struck=1"><b>`;
  const bidi = '\u202e\u2066evil\u0000';
  const long = 'W'.repeat(10_000);
  for (const design of [{ title: long }, { start: { text: long } }, { badges: [{ label: long, where: 'rating > 1' }] }])
    await expect(put(design)).rejects.toThrow(/422.*(title|text|label)/);
  await put({
    title: `Shop ${markup}`,
    header: { name: bidi + markup, links: [{ label: markup.slice(0, 80), href: '/x?<script>' }] },
    start: { text: `${markup}\n${bidi}\n${'W'.repeat(1500)}` },
    shelves: [{ from: 'chosen', label: markup, ids: ['P-001', `'; DROP TABLE`, '</script>'] }],
    badges: [{ label: bidi + markup.slice(0, 20), where: `name <> '</script>'` }],
    facets: [{ name: 'colour', label: 'W'.repeat(80) }],
    formats: { rating: { unit: '<b>\u202e' } },
    autocomplete: [{ from: 'list', label: markup, rows: [{ text: markup, href: '/<script>' }] }],
    link: '/p/{name}?<script>',
    languages: [{ locale: 'en', texts: { search: '<i>Find', found: `{total} ${markup.slice(0, 60)}` } }],
  });
  await setSize(browser, 390, 900);
  await open('', '[data-part=shelf]');
  await (await see(By.css('[role=combobox]'))).sendKeys('rose');
  await until(async () => (await browser.findElements(By.css('[data-part=found] mark'))).length > 0);
  expect(await browser.executeScript('return window.struck ?? null')).toBeNull();
  expect(await sideways()).toBe(false);
  await setSize(browser, 1280, 900);
});

test('while a control is dragged nothing on the page jumps', async () => {
  await put({ theme: STARTING_THEMES[0]!.theme });
  await browser.get(`${server.base}/pages/shop?section=theme`);
  await until(() =>
    browser.executeScript(
      `return Boolean(document.querySelector('iframe')?.contentDocument?.querySelector('[data-part=card] img'))`,
    ),
  );
  await until(() =>
    browser.executeScript(
      `return document.querySelector('iframe').contentDocument.documentElement.style.cursor === 'crosshair'`,
    ),
  );
  await browser.executeScript(`
    const frame = document.querySelector('iframe').contentWindow;
    frame.jumped = 0;
    new frame.PerformanceObserver((list) => { for (const entry of list.getEntries()) frame.jumped += entry.value; })
      .observe({ type: 'layout-shift' });`);
  const corners = await see(By.xpath('//*[@role="slider"][contains(@aria-label, "Corners")] | //label[contains(., "Corners")]//input[@type="range"] | //input[@type="range"][contains(@aria-label, "Corners")]')); // prettier-ignore
  await browser
    .actions()
    .move({ origin: corners })
    .press()
    .move({ origin: corners, x: 30, duration: 600 })
    .release()
    .perform();
  await browser.sleep(500);
  const jumped = await browser.executeScript<number>(`return document.querySelector('iframe').contentWindow.jumped`);
  expect(jumped).toBeLessThanOrEqual(0.02);
});
