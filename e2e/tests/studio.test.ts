import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Collection } from '@yucca/contract';
import { By, Key, until } from 'selenium-webdriver';
import { setTheme, startBrowser, type Browser } from '../src/browser';
import { byText, fileIn, Person, WAIT } from '../src/person';
import { loadPlants, Server, somePlants } from '../src/server';

let server: Server;
/** One that nothing was loaded into. */
let empty: Server;
let browser: Browser;
const folder = mkdtempSync(path.join(tmpdir(), 'yucca-files-'));

beforeAll(async () => {
  server = await new Server().start();
  empty = await new Server().start();
  await loadPlants(server, 'spring-plants', somePlants(999));
  browser = await startBrowser();
});
afterAll(async () => {
  await browser?.quit();
  await server.leave();
  await empty.leave();
});

const file = (name: string, content: string | Buffer): string => fileIn(folder, name, content);
const { click, see, seeText, press, write, drop, violations } = new Person(() => browser);

/** Presses the button of the refusal and waits until the panel is gone. */
async function closePanel(): Promise<void> {
  await press('Close');
  await browser.wait(async () => (await browser.findElements(By.css('[role=dialog]'))).length === 0, WAIT);
}

test('an empty Yucca says the next step; a dropped file becomes searchable records without a form', async () => {
  await browser.get(empty.base);
  await seeText('Drop a file here');
  expect(await violations()).toEqual([]);
  const rows = somePlants(1000).map((plant) => JSON.stringify(plant));
  rows[10] = '{"id":"P-011","name":';
  await drop(file('Spring plants.jsonl', rows.join('\n')));
  await seeText('every line is one record');
  await seeText('“id” is in every one of the');
  expect(await (await see(By.css('#load-name'))).getAttribute('value')).toBe('spring-plants');
  expect(await violations()).toEqual([]);
  await press('Load 99');
  await seeText('1 row could not be read');
  await seeText('line 11');
  await press('See the records');
  await see(By.css('#probe'));
  await seeText('999 records');
  await (await see(By.css('#probe'))).sendKeys('lavendr');
  await browser.wait(async () => (await browser.findElements(By.css('aside mark'))).length > 3, WAIT);
  expect(await (await browser.findElement(By.css('aside mark'))).getText()).toBe('lavender');
  expect(await browser.getCurrentUrl()).toContain('probe=lavendr');
  expect(await violations()).toEqual([]);
  await browser.get(`${empty.base}/s/spring-plants?q=rose`);
  await seeText('for “rose”');
});

test('the probe survives a reload, opens with / and its result opens the record', async () => {
  await browser.get(`${server.base}/c/spring-plants/records?probe=mint`);
  await see(By.css('aside ol li mark'));
  await (await browser.findElement(By.css('body'))).sendKeys('/');
  await browser.actions().sendKeys('garden mint number 6 ').perform();
  await browser.wait(async () => (await browser.getCurrentUrl()).includes('garden'), WAIT);
  await browser.wait(
    async () =>
      (await (await see(By.css('aside li button'))).getText()).includes('number 6\n') ||
      (await (await see(By.css('aside li button'))).getText()).includes('number 6'),
    WAIT,
  );
  await (await browser.findElement(By.css('aside li button'))).click();
  await seeText('Copy as new');
  expect(await violations()).toEqual([]);
  await press('JSON');
  const json = By.css('.cm-content');
  expect(await (await see(json)).getText()).toContain('"Garden mint number 6"');
  expect(await violations()).toEqual([]);
  await write(json, '{"id": "P-006", "name": broken');
  await seeText('This is not JSON yet');
  expect(await (await see(byText('button', 'Save record'))).isEnabled()).toBe(false);
  await write(json, '{"id": "P-006", "name": "Corn poppy"}');
  await seeText('What is sent (JSON Merge Patch)');
  await press('Save record');
  await seeText('searchable already');
  await press('Delete record');
  await press('Undo delete');
  await seeText('Back again');
  expect(await server.json('GET', '/collections/spring-plants/records/P-006')).toEqual({
    record: { id: 'P-006', name: 'Corn poppy' },
  });
  await browser.actions().sendKeys(Key.ESCAPE).perform();
  await browser.wait(async () => (await browser.findElements(By.css('[role=dialog]'))).length === 0, WAIT);
});

test('the same file again doubles nothing, and another name can be had on a click', async () => {
  await loadPlants(server, 'herbs', somePlants(999));
  await browser.get(server.base);
  await see(By.css('h2'));
  const again = file(
    'herbs.jsonl',
    somePlants(1000)
      .map((plant) => JSON.stringify(plant))
      .join('\n'),
  );
  await drop(again);
  await seeText('is here already, with 999 records');
  await press('Load 1,000 records');
  await browser.wait(until.urlContains('/c/herbs/records'), WAIT);
  await seeText('1,000 records');
  expect((await server.json<Collection>('GET', '/collections/herbs')).records).toBe(1000);
  await drop(again);
  await press('Make a new one');
  expect(await (await see(By.css('#load-name'))).getAttribute('value')).toBe('herbs-2');
  await press('Cancel');
});

test.each([
  ['empty.json', '', 'The file is empty'],
  ['photo.json', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 13]), 'This is a picture'],
  ['letter.txt', 'Dear gardener, the tulips are out.', 'could not tell'],
  ['headers.csv', 'id,name\n', 'nothing below it'],
  ['numbers.json', '[1,2,3]', 'No record was found'],
])('%s ends in a clear sentence and nothing is made', async (name, content, sentence) => {
  const before = (await server.json<{ total: number }>('GET', '/collections')).total;
  await browser.get(server.base);
  await see(By.css('h1'));
  await drop(file(name, content));
  await seeText(sentence);
  await closePanel();
  expect((await server.json<{ total: number }>('GET', '/collections')).total).toBe(before);
});

test('a CSV without a usable key, and one that repeats keys', async () => {
  await browser.get(server.base);
  await see(By.css('h1'));
  await drop(file('visits.csv', 'id,place\n1,Orme\n1,Vane\n2,Orme\n'));
  await seeText('cannot tell records apart');
  await press('Load 3 records');
  await browser.wait(until.urlContains('/c/visits/records'), WAIT);
  expect(await server.json<Collection>('GET', '/collections/visits')).toMatchObject({ records: 3, key: 'key' });
  await drop(file('repeats.csv', 'sku,place\nA,Orme\nA,Vane\nB,Orme\n'));
  const key = await see(By.css('#load-key'));
  await key.findElement(By.css('option[value=sku]')).click();
  await seeText('of rows with one key the last is kept');
  await press('Load 3 records');
  await seeText('1 row had the key of an earlier row and took its place');
  await seeText('2 records are in “repeats”');
  expect((await server.json<Collection>('GET', '/collections/repeats')).records).toBe(2);
  await press('Load again under another key');
  await (await see(By.css('#load-key'))).findElement(By.css('option[value*=made]')).click();
  await press('Load 3 records');
  await browser.wait(until.urlContains('/c/repeats/records'), WAIT);
  expect(await server.json<Collection>('GET', '/collections/repeats')).toMatchObject({ records: 3, key: 'key' });
});

test('a failed first load leaves no empty collection behind, and nothing typed is lost', async () => {
  await browser.get(server.base);
  await see(By.css('h1'));
  await drop(file('half.json', `[${JSON.stringify({ id: 1, text: 'x'.repeat(300_000) })}]`));
  const name = await see(By.css('#load-name'));
  await name.clear();
  await name.sendKeys('Bad Name');
  await seeText('Small letters, digits and hyphens');
  await name.clear();
  await name.sendKeys('too-big');
  await press('Load 1 record');
  await seeText('more than 256 kB');
  // The panel is as it was filled in, and can be sent again.
  await press('Back');
  expect(await browser.findElement(By.css('#load-name')).getAttribute('value')).toBe('too-big');
  expect(await browser.findElement(By.css('#load-key')).getAttribute('value')).toBe('id');
  expect(await (await see(By.css('[role=dialog]'))).getText()).toContain('half.json');
  await press('Cancel');
  expect((await server.call('GET', '/collections/too-big')).status).toBe(404);
});

test('rows can be pasted; a second tab sees what the first loaded', async () => {
  await loadPlants(server, 'shared', somePlants(1000));
  await browser.get(`${server.base}/c/shared/records`);
  await see(By.css('#probe'));
  const first = await browser.getWindowHandle();
  await browser.switchTo().newWindow('tab');
  await browser.get(`${server.base}/c/shared/records`);
  await seeText('1,000 records');
  await browser.switchTo().window(first);
  await browser.executeScript(`
    const data = new DataTransfer(); data.setData('text/plain', '{"id":"pasted","name":"Pasted orchid"}\\n');
    document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }));`);
  await seeText('What you pasted');
  await write(By.css('#load-name'), 'shared');
  await seeText('“shared” is here already, with 1,000 records');
  await press('Load 1 record');
  await seeText('1,001 records');
  const [, second] = await browser.getAllWindowHandles();
  await browser.switchTo().window(second!);
  await seeText('1,001 records');
  await browser.close();
  await browser.switchTo().window(first);
});

test('deleting a collection asks for its name', async () => {
  await loadPlants(server, 'doomed');
  await browser.get(server.base);
  await click(By.css('button[aria-label="Delete doomed"]'));
  expect(await (await see(byText('button', 'Delete collection'))).isEnabled()).toBe(false);
  expect(await violations()).toEqual([]);
  await browser.actions().sendKeys('doomed', Key.ENTER).perform();
  await browser.wait(
    async () => (await browser.findElements(By.css('button[aria-label="Delete doomed"]'))).length === 0,
    WAIT,
  );
  expect((await server.call('GET', '/collections/doomed')).status).toBe(404);
});

test('the overview probes every collection at once, in both themes without an axe finding', async () => {
  await browser.get(server.base);
  await (await see(By.css('main input'))).sendKeys('lavender');
  await browser.wait(async () => (await browser.findElements(By.css('main li mark'))).length > 2, WAIT);
  for (const theme of ['light', 'dark'] as const) {
    await setTheme(browser, theme);
    expect(await violations()).toEqual([]);
    await browser.get(`${server.base}/c/spring-plants/records?probe=rose`);
    await see(By.css('aside mark'));
    expect(await violations()).toEqual([]);
    await browser.get(`${server.base}/?probe=lavender`);
    await see(By.css('main li mark'));
  }
});
