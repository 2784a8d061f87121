import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Collection, Judgements, TuningDocument } from '@yucca/contract';
import { By, Key } from 'selenium-webdriver';
import { startBrowser, type Browser } from '../src/browser';
import { byText, fileIn, Person } from '../src/person';
import { Server } from '../src/server';

const folder = mkdtempSync(path.join(tmpdir(), 'yucca-hand-'));
let server: Server;
let browser: Browser;
const { click, see, seeText, press, until: holds, write, violations } = new Person(() => browser);

/** A month that is still to come, and in the year that the calendar shows. */
const comesAt = new Date(new Date().getFullYear(), new Date().getMonth() + 3, 1, 12);
const WINTER = { from: dayOf(comesAt, 1), to: dayOf(comesAt, 28) };
function dayOf(month: Date, day: number): string {
  return `${month.toISOString().slice(0, 7)}-${String(day).padStart(2, '0')}`;
}

const START: TuningDocument = {
  search: [{ field: 'name', weight: 10 }, { field: 'care' }],
  signals: [{ field: 'sales' }],
  placements: [{ name: 'winter', when: { query: 'rose', ...WINTER }, notice: 'Bare roots' }],
};

beforeAll(async () => {
  server = await new Server().start();
  browser = await startBrowser();
  await server.api('POST', '/collections', { name: 'plants', title: 'Plants' });
  const records = Array.from({ length: 40 }, (_, i) => ({
    id: `P-${i}`,
    name: i % 2 ? `Fern number ${i}` : `Rose number ${i}`,
    care: i % 2 ? 'Grows under any rows of trees.' : 'Wants sun and water.',
    group: `g${i % 4}`,
    added: `2026-0${1 + (i % 9)}-01`,
    sales: (i * 37) % 40,
  }));
  await server.api('POST', '/collections/plants/records?wait=true', records);
});
afterAll(async () => {
  await browser?.quit();
  await server.leave();
  rmSync(folder, { recursive: true, force: true });
});
// Each begins with the same tuning, live, no judgements, and a browser that keeps no queries.
beforeEach(async () => {
  await server.api('PUT', '/collections/plants/tuning/draft', START);
  await server.api('POST', '/collections/plants/tuning/publish', {});
  await server.api('PUT', '/collections/plants/judgements', { judgements: [] });
  await browser.get(`${server.base}/api/v1/health`);
  await browser.executeScript('localStorage.clear()');
});

const draft = (): Promise<TuningDocument> => server.api('GET', '/collections/plants/tuning?version=draft');
const column = (label: string): Promise<string[]> =>
  browser.executeScript(
    `return [...document.querySelectorAll('ol[aria-label="${label}"] li button')].map((row) => row.querySelector('.font-medium').textContent)`,
  );
const open = async (query: string): Promise<void> => {
  await browser.get(`${server.base}/c/plants/tuning?${query}`);
  await holds(async () => (await column('Draft')).length > 0);
};
const pins = async () => (await draft()).placements?.find(({ when }) => when.from === undefined)?.pin;

test('a result is pinned by dragging it to its place, and undo takes the pin off', async () => {
  await open('probe=rose');
  const before = await column('Draft');
  const handles = await browser.findElements(By.css('ol[aria-label=Draft] [data-part=place]'));
  const drag = browser.actions({ async: true }).move({ origin: handles[5]! }).press();
  await drag.move({ origin: handles[5]!, y: -60, duration: 100 }).move({ origin: handles[1]!, duration: 100 }).release().perform(); // prettier-ignore
  await holds(async () => (await column('Draft'))[1] === before[5]);
  expect((await pins())!.map(({ at }) => at)).toEqual([2]);
  await seeText('placed by for-rose');
  expect((await column('Live'))[1]).toBe(before[1]);
  expect(await violations()).toEqual([]);
  await press('Undo');
  await holds(async () => (await column('Draft'))[1] === before[1]);
  expect(await pins()).toBeUndefined();
});

test('with the keyboard: pin at a place, take it off, hide, judge', async () => {
  await open('probe=rose');
  const before = await column('Draft');
  const row = async (at: number): Promise<void> => {
    const rows = await browser.findElements(By.css('ol[aria-label=Draft] li > button'));
    await rows[at]!.sendKeys(Key.ENTER);
    await see(By.css('[aria-label="Why it is here"]'));
  };
  await row(3);
  await write(By.css('input[aria-label=Rank]'), '1');
  await browser.actions().sendKeys(Key.ENTER).perform();
  await holds(async () => (await column('Draft'))[0] === before[3]);
  await row(0);
  expect(await violations()).toEqual([]);
  await press('Take the pin off');
  await holds(async () => (await column('Draft'))[0] === before[0]);
  await row(0);
  await press('Hide it');
  await holds(async () => !(await column('Draft')).includes(before[0]!));
  await row(0);
  await press('Judge: this first');
  await seeText('Judged: it should come up first.');
  const asked = '/collections/plants/search?q=rose&version=draft';
  const [first] = (await server.json<{ results: { id: string }[] }>('GET', asked)).results;
  const { judgements } = await server.json<Judgements>('GET', '/collections/plants/judgements');
  expect(judgements.find(({ query }) => query === 'rose')?.grades).toEqual({ [first!.id]: 3 });
});

test('one explanation at a time goes from row to row, and leaves whoever goes on elsewhere alone', async () => {
  await open('probe=rose');
  const rows = await browser.findElements(By.css('ol[aria-label=Draft] [data-part=result]'));
  const explained = (): Promise<string[]> =>
    browser.executeScript(
      `return [...document.querySelectorAll('[aria-label="Why it is here"] p.figures:first-child')].map((id) => id.textContent)`,
    );
  const focused = (what: string): Promise<unknown> => browser.executeScript(`return document.activeElement.${what}`);
  const { results } = await server.json<{ results: { id: string }[] }>(
    'GET',
    '/collections/plants/search?q=rose&version=draft',
  );
  await rows[2]!.click();
  await holds(async () => (await explained()).join() === results[2]!.id);
  await rows[1]!.click();
  await holds(async () => (await explained()).join() === results[1]!.id);
  await rows[1]!.click();
  await holds(async () => (await explained()).length === 0);
  await rows[1]!.click();
  await holds(async () => (await explained()).length === 1);
  await browser.actions().sendKeys(Key.ESCAPE).perform();
  await holds(async () => (await explained()).length === 0 && (await focused('dataset.part')) === 'result');
  await rows[1]!.click();
  await holds(async () => (await explained()).length === 1);
  await click(By.id('probe'));
  await holds(async () => (await explained()).length === 0);
  expect(await focused('id')).toBe('probe');
});

test('what keeps a record out is said, and a remedy brings it in', async () => {
  await open('probe=rose');
  await write(By.id('probe'), 'rosse numbre');
  await write(By.css('input[aria-label="Record to look for"]'), 'P-1');
  await browser.actions().sendKeys(Key.ENTER).perform();
  const region = By.css('[aria-label="Where the record is"]');
  await holds(async () => (await (await see(region)).getText()).includes('Not here.'));
  expect(await violations()).toEqual([]);
  await press('“rosse” as a stop word');
  await holds(async () => (await (await see(region)).getText()).includes('◇ draft\nRank'));
  expect(await browser.getCurrentUrl()).toContain('record=');
  await press('Undo');
  await holds(async () => !(await (await see(region)).getText()).includes('◇ draft\nRank'));
});

test('a placement is written in a form that names what it cannot read; the calendar and a day show when it is on', async () => {
  await open('probe=fern');
  await press('New placement for “fern”');
  await see(By.css('[role=dialog] input'));
  await write(By.xpath('//label[contains(., "Lifted")]/following-sibling::textarea'), 'sales >');
  await press('Save placement');
  await seeText('lift 0');
  expect(await violations()).toEqual([]);
  await write(By.xpath('//label[contains(., "Lifted")]/following-sibling::textarea'), "id = 'P-1'");
  await write(By.xpath('//label[contains(., "Notice above")]/following-sibling::input'), 'Ferns travel well');
  await press('Save placement');
  await holds(async () => (await column('Draft'))[0] === 'Fern number 1');
  await seeText('Says: Ferns travel well');
  await press('Calendar');
  await seeText('What is on when');
  expect(await violations()).toEqual([]);
  await click(By.css('[role=dialog] [title*="Press to see it"]'));
  await seeText('Says: Bare roots');
  const { searchParams } = new URL(await browser.getCurrentUrl());
  expect([searchParams.get('probe'), searchParams.get('on')]).toEqual(['rose', WINTER.from]);
});

test('synonyms come in from a file, say what they would change, and are made one where they should be', async () => {
  await server.api('PUT', '/collections/plants/judgements', { judgements: [{ query: 'briar', grades: { 'P-0': 3 } }] });
  await open('probe=rose');
  const field = By.css('input[aria-label="Find or add a synonym"]');
  await write(field, 'briar = rose');
  // The query in the probe counts too.
  await seeText('Changes 1 of 2 judged and kept queries');
  await press('Add');
  await holds(async () => (await draft()).synonyms?.length === 1);
  const file = fileIn(folder, 'words.csv', 'same,rose,dog rose\noneWay,bracken,fern\nalone\n');
  await browser.findElement(By.css('input[aria-label="File of synonyms"]')).sendKeys(file);
  await seeText('2 groups added from words.csv.');
  await seeText('1 entry left out');
  await seeText('“rose” is in 2 groups');
  expect(await violations()).toEqual([]);
  await press('Make them one');
  await holds(async () => (await draft()).synonyms?.length === 2);
  expect((await draft()).synonyms![0]).toEqual({ kind: 'same', words: ['briar', 'rose', 'dog rose'] });
  const bad = fileIn(folder, 'words.ttl', 'this is no turtle');
  await browser.findElement(By.css('input[aria-label="File of synonyms"]')).sendKeys(bad);
  await seeText('words.ttl was not taken.');
  expect((await draft()).synonyms).toHaveLength(2);
  await click(byText('summary', 'Other spellings'));
  await write(By.xpath('//label[contains(., "Others, with commas")]/input'), 'rhoos, gul');
  await press('Let them find “rose”');
  await holds(async () => (await draft()).synonyms?.length === 3);
});

test('typos show what they let in, signals their curve; sorts and groups are levers too', async () => {
  await open('probe=rose');
  await (await see(By.css('input[aria-label="One, from letters"]'))).sendKeys(Key.HOME);
  await (await see(By.css('input[aria-label="Two, from letters"]'))).sendKeys(Key.HOME);
  await seeText('Now also taken for');
  await see(By.css('svg[aria-label^="What values of sales are worth"]'));
  await write(By.css('input[aria-label="sales, as a number"]'), '7.5');
  await holds(async () => (await draft()).signals?.[0]?.weight === 7.5);
  await see(By.css('select[aria-label="Add a signal"]'));
  await browser.executeScript("document.querySelectorAll('details').forEach((one) => (one.open = true))");
  const choose = async (label: string, option: string): Promise<void> =>
    click(By.xpath(`//select[@aria-label="${label}"]/option[.="${option}"]`));
  await choose('Add a signal', 'added');
  await holds(async () => (await draft()).signals?.[1]?.shape === 'recency');
  await choose('Add a sort', 'sales');
  await holds(async () => (await draft()).sorts?.[0]?.name === 'sales');
  await choose('Direction of Sales', 'high to low');
  await holds(async () => (await draft()).sorts?.[0]?.by[0]?.order === 'desc');
  await click(By.xpath('//label[contains(., "Results that share")]//option[.="group"]'));
  // With two typos forgiven everywhere “rows” is taken for “rose”: every record is found, one of each group shown.
  await holds(async () => (await column('Draft')).length === 4);
  expect(await violations()).toEqual([]);
});

test('any two versions stand side by side for any query', async () => {
  const { liveVersion: old } = await server.api<Collection>('GET', '/collections/plants');
  await server.api('PATCH', '/collections/plants/tuning/draft', {
    synonyms: [{ kind: 'same', words: ['briar', 'rose'] }],
  });
  await server.api('POST', '/collections/plants/tuning/publish', { note: 'briar' });
  await open('probe=rose');
  await write(By.id('probe'), 'briar');
  await holds(async () => (await column('Live')).length === 20);
  await click(By.xpath(`//select[@aria-label="Left column"]/option[starts-with(., "○ version ${old}")]`));
  await click(By.xpath('//select[@aria-label="Right column"]/option[.="◆ live"]'));
  await holds(async () => (await column('Live')).length === 20 && (await column(`Version ${old}`)).length === 0);
  expect(await browser.getCurrentUrl()).toContain(`left=${old}`);
  await browser.navigate().refresh();
  await holds(async () => (await column('Live')).length === 20 && (await column(`Version ${old}`)).length === 0);
  expect(await violations()).toEqual([]);
});

test('after fast changes every line ends where its result stands in both columns', async () => {
  await open('probe=number+1');
  const slider = await see(By.css('input[aria-label="Share against words"]'));
  // Faster than answers come: End, Home and steps, one after the other.
  await slider.sendKeys(Key.END, Key.HOME, Key.ARROW_RIGHT, Key.END, Key.ARROW_LEFT, Key.HOME, Key.END);
  await holds(async () => (await draft()).signalShare === 1);
  await seeText('saved, no rebuild needed');
  const drawn = (): Promise<{ lines: string[]; ranks: string[] }> =>
    browser.executeScript(`
      const titles = (label) => [...document.querySelectorAll('ol[aria-label="' + label + '"] li > button')].map((row) => row.querySelector('.font-medium').textContent);
      const [live, draft] = [titles('Live'), titles('Draft')];
      const ranks = draft.flatMap((title, to) => (live.includes(title) ? [live.indexOf(title) + '>' + to] : []));
      const row = (y) => (y - 22) / 44;
      const lines = [...document.querySelectorAll('[data-part=movement] path')].flatMap((path) => {
        const [, from, to] = path.getAttribute('d').match(/^M6 (\\S+) C .* (\\S+)$/).map(Number);
        return row(from) < live.length && row(to) < draft.length && Number.isInteger(row(from)) && Number.isInteger(row(to)) ? [row(from) + '>' + row(to)] : [];
      });
      return { lines: lines.sort(), ranks: ranks.sort() };`);
  await holds(async () => {
    const { lines, ranks } = await drawn();
    return ranks.length > 0 && JSON.stringify(lines) === JSON.stringify(ranks);
  });
  const { ranks } = await drawn();
  expect(ranks.some((one) => one.split('>')[0] !== one.split('>')[1])).toBe(true);
  await press('Undo');
});

test('the facets of both columns say what changes', async () => {
  await server.api('PATCH', '/collections/plants/tuning/draft', {
    facets: [{ name: 'group', field: 'group' }],
    typos: { oneFrom: 1, twoFrom: 1 },
  });
  await open('probe=rose');
  await click(byText('summary', 'Facets of both'));
  await see(By.xpath('//caption[.="Group"]'));
  expect(await violations()).toEqual([]);
});

test('a draft outlives a crash of the server', async () => {
  await open('probe=rose');
  await (await see(By.css('input[aria-label="care"]'))).sendKeys(Key.END);
  await seeText('saved, no rebuild needed');
  const before = await draft();
  expect(before.search![1]!.weight).toBe(20);
  await server.stop('SIGKILL');
  await server.start();
  await browser.get(`${server.base}/c/plants/tuning?probe=rose`);
  await seeText('Draft: 1 change');
  await holds(async () => JSON.stringify(await draft()) === JSON.stringify(before));
});
