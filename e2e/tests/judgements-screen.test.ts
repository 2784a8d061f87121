import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By, Key } from 'selenium-webdriver';
import { startBrowser, type Browser } from '../src/browser';
import { byText, fileIn, Person } from '../src/person';
import { loadPlants, Server, somePlants } from '../src/server';

const folder = mkdtempSync(path.join(tmpdir(), 'yucca-judge-'));
let server: Server;
let browser: Browser;
const { click, see, seeText, press, until, violations, write } = new Person(() => browser);

beforeAll(async () => {
  server = await new Server().start();
  await loadPlants(server, 'plants', somePlants());
  browser = await startBrowser();
});
// Each begins with no judgements and no draft.
beforeEach(async () => {
  await judge([]);
  await server.api('DELETE', '/collections/plants/tuning/draft');
});
afterAll(async () => {
  await browser?.quit();
  await server.leave();
  rmSync(folder, { recursive: true, force: true });
});

const TWO = [
  { query: 'frost', grades: { 'P-001': 3, 'P-002': 3, 'P-003': 3 } },
  { query: 'rose', grades: { 'P-004': 3, 'P-010': 3 } },
];
const judge = (judgements: object[]): Promise<unknown> =>
  server.api('PUT', '/collections/plants/judgements', { judgements });
const open = (probe = ''): Promise<void> =>
  browser.get(`${server.base}/c/plants/judgements${probe && `?probe=${encodeURIComponent(probe)}`}`);
const rowOf = (query: string): By => By.xpath(`//tr[.//button[normalize-space()="${query}"]]`);
const cells = async (query: string): Promise<string> => (await see(rowOf(query))).getText();
interface Stored {
  judgements: { query: string; grades: Record<string, number> }[];
}
const stored = (): Promise<Stored> => server.json<Stored>('GET', '/collections/plants/judgements');

test('a query is judged by grading what comes up, and scored at once', async () => {
  await open();
  await seeText('Nothing is judged yet.');
  expect(await violations()).toEqual([]);
  await write(By.id('probe'), 'dog rose');
  await browser.actions().sendKeys(Key.ENTER).perform();
  const best = By.css('ol[aria-label="Results to grade"] li:nth-child(2) button[aria-label=best]');
  await until(async () => {
    await click(best);
    return true;
  });
  await until(async () => /1 0\.6\d\d/.test((await cells('dog rose')).replace(/\s+/g, ' ')));
  await click(By.css('ol[aria-label="Results to grade"] li:nth-child(1) button[aria-label=best]'));
  await until(async () => (await cells('dog rose')).replace(/\s+/g, ' ').includes('2 1.000'));
  expect(Object.values((await stored()).judgements[0]!.grades)).toEqual([3, 3]);
  // Pressed again it is taken back.
  await click(By.css('ol[aria-label="Results to grade"] li:nth-child(2) button[aria-label=best]'));
  await until(async () => Object.keys((await stored()).judgements[0]!.grades).length === 1);
  expect(await violations()).toEqual([]);
});

test('a draft is scored beside live, and publishing one that makes something worse asks for a word', async () => {
  await judge(TWO);
  await server.api('PATCH', '/collections/plants/tuning/draft', { search: [{ field: 'name', weight: 1 }] });
  await open('frost');
  await until(async () => (await cells('frost')).includes('↓ 0.000'));
  expect(await cells('rose')).toMatch(/same|↑|↓/);
  await press('◇ draft');
  await seeText('Nothing comes up, so there is nothing to grade here.');
  expect(await violations()).toEqual([]);

  await browser.get(`${server.base}/c/plants/tuning`);
  await press('Publish draft');
  await seeText('1 worse');
  const note = await see(By.css('[aria-label=Publish] input'));
  expect(await note.getAttribute('required')).not.toBeNull();
  const submit = async () => click(By.xpath('//form[.//h2]//button[@type="submit"]'));
  await submit();
  // The browser itself holds a form back whose word is missing.
  expect(await server.json('GET', '/collections/plants')).toMatchObject({ draftChanged: true });
  await note.sendKeys('Care texts will be written anew.');
  await submit();
  await until(async () => !(await server.json<{ draftChanged: boolean }>('GET', '/collections/plants')).draftChanged);
});

test('a query that is removed comes back with its grades', async () => {
  await judge(TWO);
  await open();
  await click(By.css('button[aria-label="Remove “rose”"]'));
  await seeText('“rose” is judged no more.');
  await until(async () => (await stored()).judgements.length === 1);
  await press('Undo');
  await until(async () =>
    (await stored()).judgements.some(({ query, grades }) => query === 'rose' && grades['P-010'] === 3),
  );
});

test('qrels go out and come in; a file that cannot be read changes nothing', async () => {
  await judge(TWO);
  const text = await (
    await server.call('GET', '/collections/plants/judgements', undefined, { Accept: 'text/plain' })
  ).text();
  expect(text).toContain('frost 0 P-001 3\n');
  await open();
  const file = await see(By.css('input[type=file][aria-label="File of judgements"]'));
  await file.sendKeys(fileIn(folder, 'bad.qrels', 'tulip 0 P-001\n'));
  await seeText('bad.qrels was not taken, and nothing has changed.');
  expect((await stored()).judgements).toHaveLength(2);
  await (
    await see(By.css('input[type=file][aria-label="File of judgements"]'))
  ).sendKeys(fileIn(folder, 'good.qrels', 'snake%20plant 0 P-001 3\nsnake%20plant 0 P-007 2\n'));
  await see(byText('button', 'snake plant'));
  await until(async () => (await stored()).judgements[0]!.query === 'snake plant');
  expect(readFileSync(path.join(folder, 'good.qrels'), 'utf8')).toBe(
    await (await server.call('GET', '/collections/plants/judgements', undefined, { Accept: 'text/plain' })).text(),
  );
});
