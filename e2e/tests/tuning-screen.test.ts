import type { TuningDocument } from '@yucca/contract';
import { By, Key } from 'selenium-webdriver';
import { setTheme, startBrowser, type Browser } from '../src/browser';
import { byText, Person } from '../src/person';
import { Server } from '../src/server';

let server: Server;
let browser: Browser;
const { click, see, seeText, press, until: holds, write, violations } = new Person(() => browser);

const TUNING = {
  search: [
    { field: 'name', weight: 10 },
    { field: 'care', weight: 1 },
  ],
  signals: [{ field: 'sales' }],
};
const WITH_SYNONYM = { ...TUNING, synonyms: [{ kind: 'same', words: ['briar', 'rose'] }] };
const save = (tuning: object): Promise<unknown> => server.api('PUT', '/collections/plants/tuning/draft', tuning);
const publish = (): Promise<{ version: number }> => server.api('POST', '/collections/plants/tuning/publish', {});

beforeAll(async () => {
  server = await new Server().start();
  browser = await startBrowser();
  await server.api('POST', '/collections', { name: 'plants', title: 'Plants' });
  const records = Array.from({ length: 40 }, (_, i) => ({
    id: `P-${i}`,
    name: i % 2 ? `Fern number ${i}` : `Rose number ${i}`,
    care: i % 2 ? 'Grows under any rose.' : 'Wants sun and water.',
    sales: (i * 37) % 40,
  }));
  await server.api('POST', '/collections/plants/records?wait=true', records);
});
// Each begins with the same tuning, live, and no draft.
beforeEach(async () => {
  await save(TUNING);
  await publish();
});
afterAll(async () => {
  await browser?.quit();
  await server.leave();
});

const draft = (): Promise<TuningDocument> => server.api('GET', '/collections/plants/tuning?version=draft');
const column = (label: string): Promise<string[]> =>
  browser.executeScript(
    `return [...document.querySelectorAll('ol[aria-label=${label}] li')].map((row) => row.querySelector('.font-medium').textContent)`,
  );
const lines = (kind: string): Promise<number> =>
  browser.executeScript(`return document.querySelectorAll('[data-part=movement] [data-kind=${kind}]').length`);

test('a lever moves the draft at once; lines join what moved; undo brings it back', async () => {
  await browser.get(`${server.base}/c/plants/tuning?probe=rose`);
  await holds(async () => (await column('Draft')).length === 20 && (await lines('same')) === 20);
  expect(await violations()).toEqual([]);
  // The window itself never scrolls: only the lists in it do.
  expect(await browser.executeScript('return document.documentElement.scrollHeight <= window.innerHeight')).toBe(true);
  const live = await column('Live');
  expect(live[0]).toContain('Rose');
  const weight = await see(By.css('input[aria-label="care"]'));
  await weight.sendKeys(Key.END);
  await holds(async () => (await draft()).search!.find(({ field }) => field === 'care')!.weight === 20);
  await holds(async () => (await column('Draft'))[0]!.includes('Fern'));
  expect(await column('Live')).toEqual(live);
  await holds(async () => (await lines('rises')) > 0 && (await lines('falls')) > 0);
  await seeText('% alike');
  await seeText('saved, no rebuild needed');
  for (const theme of ['dark', 'light'] as const) {
    await setTheme(browser, theme);
    expect(await violations()).toEqual([]);
  }
  await press('Undo');
  await holds(async () => (await column('Draft'))[0] === live[0]);
  await browser.navigate().refresh();
  await holds(async () => (await column('Draft')).length === 20);
});

test('g and a letter go to a stage, ? lists the keys', async () => {
  await browser.get(`${server.base}/c/plants/tuning`);
  await see(By.id('probe'));
  await browser.actions().sendKeys('?').perform();
  await seeText('Keys of the keyboard');
  expect(await violations()).toEqual([]);
  await browser.actions().sendKeys(Key.ESCAPE).perform();
  await holds(async () => (await browser.findElements(By.css('[role=dialog]'))).length === 0);
  await browser.actions().sendKeys('gf').perform();
  await holds(async () => (await browser.getCurrentUrl()).endsWith('/c/plants/fields'));
});

test('a result explains itself', async () => {
  await browser.get(`${server.base}/c/plants/tuning?probe=rose`);
  await holds(async () => (await column('Live')).length === 20);
  await browser.findElement(By.css('ol[aria-label=Live] li button')).click();
  await seeText('as written');
  expect(await violations()).toEqual([]);
  await browser.actions().sendKeys(Key.ESCAPE).perform();
});

test('synonyms are written as they are read, wrong ones are named, and they find at once', async () => {
  await browser.get(`${server.base}/c/plants/tuning?probe=briar`);
  await seeText('Neither finds anything');
  const field = By.css('input[aria-label="Find or add a synonym"]');
  await write(field, 'briar');
  await press('Add');
  await seeText('Two or more');
  await write(field, 'briar = rose');
  await press('Add');
  await holds(async () => (await column('Draft')).length === 20 && (await column('Live')).length === 0);
  await see(byText('li', 'briar = rose'));
});

test('kept queries show how much the draft changes each, and two keys go through them; publishing makes both alike', async () => {
  await save(WITH_SYNONYM);
  await browser.get(`${server.base}/c/plants/tuning?probe=briar`);
  await press('Keep this query');
  await write(By.id('probe'), 'water');
  await press('Keep this query');
  await holds(
    async () =>
      (await browser.findElements(By.xpath('//button[@aria-pressed and contains(., "briar") and contains(., "0%")]')))
        .length === 1,
  );
  await browser.actions().keyDown(Key.ALT).sendKeys(Key.ARROW_DOWN).keyUp(Key.ALT).perform();
  await holds(async () => (await browser.getCurrentUrl()).includes('probe=briar'));
  await press('Publish draft');
  await seeText('Synonyms added: “briar = rose”');
  await browser.findElement(By.css('[role=dialog] button[type=submit]')).click();
  await holds(async () => (await column('Live')).length === 20);
  await seeText('the same');
});

test('an old version says what differs from live and comes back as a draft that can be undone', async () => {
  await save(WITH_SYNONYM);
  const { version } = await publish();
  await browser.get(`${server.base}/c/plants/tuning?probe=briar`);
  await press('History');
  await seeText(`Version ${version}`);
  await press('What differs');
  await seeText('Synonyms removed: “briar = rose”');
  expect(await violations()).toEqual([]);
  await press('Restore as draft');
  await holds(async () => (await draft()).synonyms === undefined);
  await holds(async () => (await column('Draft')).length === 0);
  await press('Undo');
  await holds(async () => (await column('Draft')).length === 20);
});

test('two windows on one draft: what each changed is put together, what both changed is asked about', async () => {
  const first = await browser.getWindowHandle();
  const care = By.css('input[aria-label="care"]');
  const stems = byText('label', 'Stemming: find other forms of a word');
  await browser.get(`${server.base}/c/plants/tuning?probe=rose`);
  await see(care);
  await browser.switchTo().newWindow('window');
  await browser.get(`${server.base}/c/plants/tuning?probe=rose`);
  await click(stems);
  await holds(async () => (await draft()).stems === false);
  const second = await browser.getWindowHandle();

  // The first window has not heard of it, and changes something else.
  await browser.switchTo().window(first);
  await (await see(care)).sendKeys(Key.END);
  const weight = async () => (await draft()).search!.find(({ field }) => field === 'care')!.weight;
  await holds(async () => (await weight()) === 20);
  expect((await draft()).stems).toBe(false);

  // Now both change the same lever before either hears of the other: the second one's change waits for a word.
  await browser.switchTo().window(second);
  // A window without a screen gets no focus by itself.
  await browser.executeScript("window.dispatchEvent(new Event('focus'))");
  await holds(async () => (await (await see(care)).getAttribute('value')) === '20');
  await server.api('PATCH', '/collections/plants/tuning/draft', { search: [{ field: 'care', weight: 7 }] });
  await (await see(care)).sendKeys(Key.HOME);
  await seeText('Another window has changed');
  expect(await weight()).toBe(7);
  expect(await violations()).toEqual([]);
  await press('Take theirs');
  await holds(async () => (await (await see(care)).getAttribute('value')) === '7');
  await press('Undo');
  await holds(async () => (await weight()) !== 7);
  await browser.close();
  await browser.switchTo().window(first);
});
