import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { By, Key, until } from 'selenium-webdriver';
import { setSize, setTheme, startBrowser, type Browser } from './browser';

/** One current picture of each main view, taken from a running demo: `npm run demo`, then `npm run screenshots`. */
interface View {
  name: string;
  path: string;
  wait: string;
  theme?: 'dark';
  size?: [number, number];
  /** What is done before the picture is taken. */
  act?: (browser: Browser) => Promise<void>;
}

async function typeLavender(browser: Browser): Promise<void> {
  const field = await browser.findElement(By.css('[role=combobox]'));
  await field.sendKeys('lav');
  await browser.wait(until.elementLocated(By.css('[data-kind=record] mark')), 10_000);
  await browser.sleep(300);
  for (let i = 0; i < 4; i++) await field.sendKeys(Key.ARROW_DOWN);
  await browser.sleep(300);
}

async function typeOnASlowLine(browser: Browser): Promise<void> {
  await browser.findElement(By.css('[data-yucca-lens] select')).sendKeys('slow');
  const field = await browser.findElement(By.css('[role=combobox]'));
  for (const letter of 'rosemary') {
    await field.sendKeys(letter);
    await browser.sleep(140);
  }
  await browser.wait(until.elementLocated(By.css('[data-kind=record] mark')), 10_000);
  await browser.sleep(1500);
  await field.sendKeys(Key.ESCAPE);
}

/** Until the page in the frame shows results. */
async function untilFramed(browser: Browser): Promise<void> {
  await browser.wait(
    () =>
      browser.executeScript(
        `return [...document.querySelectorAll('iframe')].every((one) => one.contentDocument?.querySelector('mark'))`,
      ),
    10_000,
  );
  await browser.sleep(1500);
}

/** Until every judged query has its score. */
async function untilScored(browser: Browser): Promise<void> {
  await browser.wait(async () => (await browser.findElements(By.css('h1 ~ [role=status]'))).length === 0, 20_000);
}

/** Some queries kept. */
async function keepQueries(browser: Browser): Promise<void> {
  const queries = ['blue flower', 'shade fern', 'lavendar', 'herb for tea'];
  await browser.executeScript(
    'localStorage.setItem("yucca:bench:plants:queries", JSON.stringify(arguments[0]))',
    queries,
  );
  await browser.navigate().refresh();
  await browser.wait(until.elementLocated(By.css('ol[aria-label=Draft] li')), 10_000);
  // The judged queries are scored meanwhile; then the first one is asked once more, with the server at rest.
  await browser.sleep(4000);
  for (const key of [Key.ARROW_DOWN, Key.ARROW_UP, Key.ARROW_DOWN, Key.ARROW_UP]) {
    await browser.actions().keyDown(Key.ALT).sendKeys(key).keyUp(Key.ALT).perform();
    await browser.sleep(800);
  }
}

/** Until the way to mend a query is there, and the curve. */
async function untilProposed(browser: Browser): Promise<void> {
  await browser.wait(until.elementLocated(By.css('section[aria-label=Repair] li')), 20_000);
  await browser.sleep(500);
}

/** Some plants are edited in the back office, and one event comes that cannot be applied. */
async function editPlants(browser: Browser): Promise<void> {
  const office = process.env.BACK_OFFICE ?? 'http://127.0.0.1:4391';
  const headers = { 'Content-Type': 'application/x-www-form-urlencoded' };
  for (const [id, name, price] of [['P-0166', 'Chinese peony', 15.5], ['P-0501', 'Golden pothos', 7.25], ['P-0198', 'Wild tulip', 4]] as const) // prettier-ignore
    await fetch(`${office}/plants/${id}`, { method: 'POST', headers, body: new URLSearchParams({ name, price: String(price), stock: '12' }) }); // prettier-ignore
  await browser.executeScript(`
    const { items: [feed] } = await (await fetch('/api/v1/feeds?collection=plants')).json();
    await fetch('/api/v1/feeds/' + feed.id + '/test', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ key: 'P-9001', action: 'upsert', data: { id: 'P-9002', name: 'Dog rose' } }),
    });`);
  await browser.wait(until.elementLocated(By.xpath('//td[contains(., "its event says")]')), 10_000);
  await browser.sleep(2_500);
}

const VIEWS: View[] = [
  { name: 'overview', path: '/?probe=rosemary', wait: 'main li mark' },
  { name: 'records', path: '/c/plants/records?probe=lavendar', wait: 'aside mark' },
  { name: 'fields', path: '/c/plants/fields?probe=lavendar&field=introduced', wait: 'aside mark' },
  { name: 'tuning', path: '/c/plants/tuning?probe=blue+flower', wait: 'ol[aria-label=Draft] li', act: keepQueries },
  { name: 'insights', path: '/c/plants/insights?days=90&probe=chilli', wait: 'figure svg', act: untilProposed },
  {
    name: 'judgements',
    path: '/c/plants/judgements?probe=red+rose',
    wait: 'ol[aria-label="Results to grade"] mark',
    act: untilScored,
  },
  {
    name: 'page-designer',
    path: '/pages/nursery?section=theme&probe=agave&beside=phone',
    wait: 'iframe',
    act: untilFramed,
  },
  {
    name: 'hand-over',
    path: '/pages/nursery?section=hand-over&target=react',
    wait: '.cm-content',
    theme: 'dark',
  },
  { name: 'autocomplete', path: '/s/nursery', wait: '[role=combobox]', act: typeLavender },
  { name: 'profile', path: '/c/plants/records?view=profile&probe=rose', wait: 'figure svg' },
  { name: 'keys', path: '/keys', wait: 'table' },
  { name: 'feeds', path: '/c/plants/feeds', wait: 'h2', act: editPlants },
  { name: 'api', path: '/api?collection=plants&op=search', wait: 'pre' },
  { name: 'search-page', path: '/s/nursery?q=lavendar', wait: 'article mark' },
  { name: 'search-page-guides', path: '/s/growing?q=late+frost', wait: 'article mark', theme: 'dark' },
  { name: 'search-page-places', path: '/s/collect?near=47.3,-18.4,50km', wait: '[data-part=map-mark]' },
  { name: 'network-lens', path: '/s/nursery?lens=1', wait: '[data-yucca-lens]', act: typeOnASlowLine },
  { name: 'search-page-phone', path: '/s/nursery?lang=de&q=tulip', wait: 'article mark', size: [390, 800] },
];

const LOAD_SAMPLE = `
  const colours = ['white', 'red', 'green', 'blue'];
  const rows = Array.from({ length: 240 }, (_, i) => ['S-' + (i + 1), ['Tea towel', 'Watering can', 'Twine', 'Clay pot', 'Hand fork'][i % 5] + ' ' + (i + 1), colours[i % 4], (3 + (i % 17) / 2).toFixed(2), i % 40].join(','));
  const data = new DataTransfer();
  data.items.add(new File([['sku,name,colour,price,stock', ...rows].join('\\n')], 'Garden sundries.csv'));
  for (const type of ['dragenter', 'dragover', 'drop'])
    document.body.dispatchEvent(new DragEvent(type, { dataTransfer: data, bubbles: true, cancelable: true }));`;

async function main(): Promise<void> {
  const base = process.argv[2] ?? 'http://127.0.0.1:4310';
  const folder = path.join(import.meta.dirname, '../../docs/screenshots');
  const browser = await startBrowser();
  const take = async (name: string): Promise<void> => {
    // Pictures and fonts settle after the results are there.
    await browser.wait(
      () =>
        browser.executeScript(
          'return document.fonts.status === "loaded" && [...document.images].every((image) => image.complete || image.getBoundingClientRect().top > innerHeight)',
        ),
      10_000,
    );
    await browser.sleep(300);
    writeFileSync(path.join(folder, `${name}.png`), await browser.takeScreenshot(), 'base64');
  };
  try {
    for (const { name, path: address, wait, theme = 'light', size = [1280, 800], act } of VIEWS) {
      await setSize(browser, ...(size as [number, number]));
      await setTheme(browser, theme);
      await browser.get(base + address);
      await browser.wait(until.elementLocated(By.css(wait)), 10_000);
      await act?.(browser);
      await take(name);
    }
    await setSize(browser, 1280, 800);
    await setTheme(browser, 'light');
    await browser.get(base);
    await browser.wait(until.elementLocated(By.css('main li')), 10_000);
    await browser.executeScript(LOAD_SAMPLE);
    await browser.wait(until.elementLocated(By.css('#load-name')), 10_000);
    await take('load');
  } finally {
    await browser.quit();
  }
}

void main();
