import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Collection, FieldRules, RecordJson, Task, TuningDocument } from '@yucca/contract';
import { By, Key, until } from 'selenium-webdriver';
import { setTheme, startBrowser, type Browser } from '../src/browser';
import { byText, fileIn, Person, WAIT } from '../src/person';
import { Server } from '../src/server';

let server: Server;
let browser: Browser;
const folder = mkdtempSync(path.join(tmpdir(), 'yucca-files-'));
const { click, see, seeText, press, until: holds, write, drop, violations } = new Person(() => browser);

const plants = (count: number): RecordJson[] =>
  Array.from({ length: count }, (_, i) => ({
    id: `P-${i}`,
    name: `${['Snake plant', 'Dog rose', 'Tree fern'][i % 3]} number ${i}`,
    kind: ['shrub', 'tree', 'fern'][i % 3],
    price: i / 2,
    introduced: i % 50 === 7 ? `c. ${1900 + (i % 90)}` : 1900 + (i % 90),
    checksum: `${i}f3a9c${i}`.padEnd(40, '0a1b'),
  }));

beforeAll(async () => {
  server = await new Server().start();
  browser = await startBrowser();
  await server.api('POST', '/collections', { name: 'plants', title: 'Plants' });
  await server.api('POST', '/collections/plants/records?wait=true', plants(3000));
});
afterAll(async () => {
  await browser?.quit();
  await server.leave();
});

const draft = (): Promise<TuningDocument> => server.api('GET', '/collections/plants/tuning?version=draft');
const live = (): Promise<TuningDocument> => server.api('GET', '/collections/plants/tuning');

describe('Fields', () => {
  test('proposals with reasons, taken on a click; the probe shows the effect; undo; publish', async () => {
    await browser.get(`${server.base}/c/plants/fields?probe=fern`);
    await see(By.css('aside mark'));
    expect(await violations()).toEqual([]);
    const weight = await see(By.css('input[aria-label="Weight of name"]'));
    expect(await weight.getAttribute('value')).toBe('1');
    await press('Take all proposals');
    await seeText('Draft:');
    // A rebuild of more than a second asks first, and that depends on the machine.
    await holds(async () => {
      for (const button of await browser.findElements(byText('button', 'Rebuild now'))) await button.click();
      return (await browser.findElements(byText('*', '◇ draft'))).length > 0;
    });
    await holds(async () => (await draft()).search?.[0] !== undefined);
    expect((await draft()).hide).toEqual(['checksum']);
    expect((await live()).hide).toBeUndefined();
    await write(By.css('input[aria-label="Weight of name"]'), '25');
    await holds(async () => (await draft()).search?.find(({ field }) => field === 'name')?.weight === 25);
    await press('Undo');
    await holds(async () => (await draft()).search?.find(({ field }) => field === 'name')?.weight === 10);
    await browser.navigate().refresh();
    await seeText('Draft:');
    await press('Publish draft');
    await seeText('What changes for visitors');
    expect(await violations()).toEqual([]);
    await browser.findElement(By.css('[role=dialog] button[type=submit]')).click();
    await seeText('live version 3');
    expect((await live()).hide).toEqual(['checksum']);
  });

  test('facets are put into another order with the keyboard', async () => {
    const facets = ['colour', 'family', 'category'].map((field) => ({ name: field, field }));
    await server.api('PUT', '/collections/plants/tuning/draft', { ...(await live()), facets });
    await browser.get(`${server.base}/c/plants/fields`);
    await seeText('Facets on the page');
    const before = (await draft()).facets!.map(({ name }) => name);
    const chip = await see(By.css('ol li button[title^="Drag"]'));
    await chip.sendKeys(Key.SPACE);
    await browser.sleep(150);
    await browser.actions().sendKeys(Key.ARROW_RIGHT).perform();
    await browser.sleep(150);
    await browser.actions().sendKeys(Key.SPACE).perform();
    await holds(async () => (await draft()).facets![0]!.name === before[1]);
    await press('Throw draft away');
    await holds(async () => !(await server.api<Collection>('GET', '/collections/plants')).draftChanged);
  });

  test('a warning is repaired on a click, shown before and after, kept as a rule, and undone', async () => {
    await browser.get(`${server.base}/c/plants/fields?field=introduced`);
    await seeText('60 values in 3,000 records are text');
    await press('Read as a number …');
    await seeText('of 3,000 records would change');
    await seeText('c. 1907');
    expect(await violations()).toEqual([]);
    await press('Read as a number in 60 records');
    await seeText('Done: 60 records changed');
    expect(await server.api<FieldRules>('GET', '/collections/plants/field-rules')).toEqual({
      rules: [{ field: 'introduced', as: 'number' }],
    });
    expect(await server.api('GET', '/collections/plants/records/P-7')).toMatchObject({ record: { introduced: 1907 } });
    await server.api('POST', '/collections/plants/records?wait=true', [{ id: 'later', introduced: '1950*' }]);
    expect(await server.api('GET', '/collections/plants/records/later')).toMatchObject({
      record: { introduced: 1950 },
    });
    await press('Undo');
    await holds(
      async () => (await server.api<FieldRules>('GET', '/collections/plants/field-rules')).rules.length === 0,
    );
    await holds(
      async () =>
        (await server.api<{ record: RecordJson }>('GET', '/collections/plants/records/P-7')).record.introduced ===
        'c. 1907',
    );
    await server.api('DELETE', '/collections/plants/records/later');
  });
});

describe('Records', () => {
  test('a long table shows whichever rows are scrolled to, and narrows by a condition', async () => {
    await browser.get(`${server.base}/c/plants/records`);
    await see(byText('td', 'P-0'));
    // Until it is as long as all of its rows, the table cannot be scrolled to its middle.
    const scroll =
      'const box = document.querySelector("[aria-label=Records]"); box.scrollTop = box.scrollHeight / 2; return box.innerText.includes("P-1500");';
    await browser.wait(() => browser.executeScript<boolean>(scroll), WAIT);
    expect((await browser.findElements(By.css('tbody tr'))).length).toBeLessThan(80);
    await write(By.css('input[placeholder^="Filter"]'), "price < 2 AND kind = 'fern'");
    await seeText('1 of 3,000');
    expect(await browser.getCurrentUrl()).toContain('filter=');
    await write(By.css('input[placeholder^="Filter"]'), 'prce < 2');
    await seeText('did you mean');
    expect(await violations()).toEqual([]);
    await browser.navigate().refresh();
    await seeText('did you mean');
  });

  test('the profile shows every field with a chart and a table behind it', async () => {
    await browser.get(`${server.base}/c/plants/records?view=profile`);
    await see(By.css('figure svg'));
    await seeText('things need a look');
    expect(await violations()).toEqual([]);
    await setTheme(browser, 'dark');
    expect(await violations()).toEqual([]);
    await setTheme(browser, 'light');
  });

  test('a record is changed in the form, copied as new, and a taken key is refused without losing what was typed', async () => {
    await browser.get(`${server.base}/c/plants/records?record=P-3`);
    await write(By.id('record-name'), 'Yellow flag');
    await seeText('What is sent');
    await press('Save record');
    await seeText('searchable already');
    expect(await server.api('GET', '/collections/plants/records/P-3')).toMatchObject({
      record: { name: 'Yellow flag', kind: 'shrub' },
    });
    await press('Copy as new');
    await seeText('New record');
    await write(By.id('record-id'), 'P-4');
    await press('Add record');
    await seeText('already here');
    expect(await (await see(By.id('record-name'))).getAttribute('value')).toBe('Yellow flag');
    await write(By.id('record-id'), 'flag-2');
    await press('Add record');
    await browser.wait(until.urlContains('record=flag-2'), WAIT);
    expect(await server.api('GET', '/collections/plants/records/flag-2')).toMatchObject({
      record: { name: 'Yellow flag' },
    });
    await server.api('DELETE', '/collections/plants/records/flag-2');
  });
});

test('columns of a CSV are proposed as what they are and loaded so', async () => {
  await browser.get(server.base);
  await see(By.css('h1'));
  const rows = Array.from(
    { length: 30 },
    (_, i) => `S-${i},Twine ${i},"${i},50",${i % 2 ? 'yes' : 'no'},red|white,${(i % 28) + 1}.5.2026,M${i % 3}`,
  );
  rows.push('S-x,too,many,cells,in,this,row,here');
  await drop(fileIn(folder, 'sundries.csv', ['sku,name,price,offer,colours,added,maker.id', ...rows].join('\n')));
  await seeText('price as number');
  expect(await (await see(By.css('select[aria-label="Read colours as"]'))).getAttribute('value')).toBe('list');
  expect(await violations()).toEqual([]);
  await click(By.css('select[aria-label="Read offer as"] option[value=""]'));
  await press('Load 30 records');
  await seeText('Download the failed lines');
  const { items } = await server.api<{ items: Task[] }>('GET', '/tasks?collection=sundries');
  const failed = await (
    await server.call('GET', `/tasks/${items.find(({ kind }) => kind === 'load')!.id}/failed`)
  ).text();
  expect(failed).toBe('sku,name,price,offer,colours,added,maker.id\nS-x,too,many,cells,in,this,row,here\n');
  expect(await server.api('GET', '/collections/sundries/records/S-3')).toEqual({
    record: {
      sku: 'S-3',
      name: 'Twine 3',
      price: 3.5,
      offer: 'yes',
      colours: ['red', 'white'],
      added: '2026-05-04',
      maker: { id: 'M0' },
    },
  });
});

test('Keys: a secret is shown once, limits are said, a wrong one is named at its field', async () => {
  await browser.get(`${server.base}/keys`);
  await seeText('carried by the search pages');
  expect(await violations()).toEqual([]);
  await write(By.css('aside input[placeholder="Shop page"]'), 'Till');
  await write(By.xpath('//label[contains(., "Filter")]//input'), 'price <');
  await press('Make key');
  await see(By.css('aside [role=alert]'));
  expect(await (await see(By.css('aside input[placeholder="Shop page"]'))).getAttribute('value')).toBe('Till');
  await write(By.xpath('//label[contains(., "Filter")]//input'), 'price < 5');
  await press('Make key');
  await seeText('It is shown this once');
  const secret = await (await see(By.css('[role=status] code'))).getText();
  const found = await fetch(`${server.base}/api/v1/collections/plants/search?size=0`, {
    headers: { Authorization: `Bearer ${secret}` },
  });
  const condition = encodeURIComponent('price < 5');
  const { total } = await server.json<{ total: number }>(
    'GET',
    `/collections/plants/search?size=0&filter=${condition}`,
  );
  expect(total).toBeGreaterThan(0);
  expect(await found.json()).toMatchObject({ total });
  await browser.navigate().refresh();
  await seeText('where price < 5');
  expect(await browser.getPageSource()).not.toContain(secret);
  await click(By.css('button[aria-label="Delete the key Till"]'));
  await browser.actions().sendKeys('Till', Key.ENTER).perform();
  await holds(async () => (await browser.findElements(byText('th', 'Till'))).length === 0);
});

test('API: every route with an example that can be sent', async () => {
  await browser.get(`${server.base}/api?collection=plants&op=searchByAddress`);
  await seeText("curl 'http");
  expect(await violations()).toEqual([]);
  await press('Send request');
  await seeText('200 in');
  await holds(async () => (await (await see(By.css('pre[aria-label="The answer"]'))).getText()).includes('"total"'));
  await press('Load records');
  await press('fetch');
  await holds(async () =>
    (await (await see(By.css('pre[aria-label="The request as code"]'))).getText()).includes("method: 'POST'"),
  );
  await browser.navigate().back();
  await seeText('everything in the address');
});
