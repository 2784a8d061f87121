import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { By, until } from 'selenium-webdriver';
import { setSize, setTheme, startBrowser } from './browser';

/** One current picture of each main view, taken from a running demo: `npm run demo`, then `npm run screenshots`. */
const VIEWS: { name: string; path: string; wait: string; theme?: 'dark'; size?: [number, number] }[] = [
  { name: 'overview', path: '/?probe=rosemary', wait: 'main li mark' },
  { name: 'records', path: '/c/plants/records?probe=lavendar', wait: 'aside mark' },
  { name: 'records-dark', path: '/c/plants/records?probe=snak+plnat', wait: 'aside mark', theme: 'dark' },
  { name: 'fields', path: '/c/plants/fields?probe=lavendar&field=introduced', wait: 'aside mark' },
  { name: 'profile', path: '/c/plants/records?view=profile&probe=rose', wait: 'figure svg' },
  { name: 'keys', path: '/keys', wait: 'table' },
  { name: 'api', path: '/api?collection=plants&op=search', wait: 'pre' },
  { name: 'search-page', path: '/s/plants?q=lavendar', wait: 'article mark' },
  { name: 'search-page-guides', path: '/s/guides?q=pruning+roses', wait: 'article mark', theme: 'dark' },
  { name: 'search-page-phone', path: '/s/plants?q=tulip', wait: 'article mark', size: [390, 800] },
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
          'return document.fonts.status === "loaded" && [...document.images].every((image) => image.complete || image.loading === "lazy")',
        ),
      10_000,
    );
    await browser.sleep(300);
    writeFileSync(path.join(folder, `${name}.png`), await browser.takeScreenshot(), 'base64');
  };
  try {
    for (const { name, path: address, wait, theme = 'light', size = [1280, 800] } of VIEWS) {
      await setSize(browser, ...(size as [number, number]));
      await setTheme(browser, theme);
      await browser.get(base + address);
      await browser.wait(until.elementLocated(By.css(wait)), 10_000);
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
