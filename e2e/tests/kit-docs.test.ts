/** The pages of the kit's documentation: what each export is for, with an example that runs on the page. */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { By, Key } from 'selenium-webdriver';
import { startBrowser, type Browser } from '../src/browser';
import { Person } from '../src/person';

const ROOT = path.join(__dirname, '../..');
const DOCS = path.join(ROOT, '.cache/kit-docs');

let browser: Browser;
const { click, see, until: wait } = new Person(() => browser);

beforeAll(async () => {
  // Made by the checks that come before these tests.
  if (!existsSync(path.join(DOCS, 'index.html'))) {
    const typedoc = path.join(ROOT, 'node_modules/.bin/typedoc');
    const { status, stderr } = spawnSync(typedoc, ['--options', 'packages/kit/typedoc.json', '--out', DOCS], {
      cwd: ROOT,
    });
    if (status !== 0) throw new Error(String(stderr));
  }
  browser = await startBrowser();
});
afterAll(() => browser?.quit());

const open = (file: string): Promise<void> => browser.get(pathToFileURL(path.join(DOCS, file)).href);
const shown = (): Promise<string> =>
  browser.executeScript(`const place = document.querySelector('[data-example]'); return place ? place.innerHTML : ''`);

/** The exports whose pages have an example that runs. */
const examples = (): string[] =>
  ['functions', 'classes', 'variables'].flatMap((folder) =>
    readdirSync(path.join(DOCS, folder)).flatMap((name) => {
      const [, example] = /data-example="(\w+)"/.exec(readFileSync(path.join(DOCS, folder, name), 'utf8')) ?? [];
      return example ?? [];
    }),
  );

test('every example runs', async () => {
  const names = examples();
  expect(names.length).toBeGreaterThan(90);
  // All on one page: a page each takes a minute and a half.
  const places = names.map((name) => `<div data-example="${name}"></div>`).join('');
  const script = pathToFileURL(path.join(DOCS, 'assets/custom.js')).href;
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'yucca-docs-')), 'all.html');
  writeFileSync(file, `<!doctype html><meta charset="utf-8">${places}<script src="${script}"></script>`);
  await browser.get(pathToFileURL(file).href);
  const empty = (): Promise<string[]> =>
    browser.executeScript(
      `return [...document.querySelectorAll('[data-example]')].filter((one) => one.innerHTML === '').map((one) => one.dataset.example)`,
    );
  await wait(async () => (await empty()).length === 0).catch(async () => expect(await empty()).toEqual([]));
  rmSync(path.dirname(file), { recursive: true });
});

test('what is typed and chosen there is answered, by the engine on the page', async () => {
  await open('functions/_yucca_kit_react.SearchView.html');
  await (await see(By.css('[data-example] [role=combobox]'))).sendKeys('lavendr');
  await wait(async () => (await (await see(By.css('[data-part=count]'))).getText()).startsWith('2 results'));
  expect(await (await see(By.css('[data-example] article mark'))).getText()).toMatch(/lavender/i);
  await (await see(By.css('[data-example] [role=combobox]'))).sendKeys(Key.chord(Key.CONTROL, 'a'), Key.DELETE);
  // The page scrolls there smoothly, and nothing is clicked on its way.
  await wait(async () => {
    await click(By.css('[data-example] input[value=red]'));
    return true;
  });
  await wait(async () => (await (await see(By.css('[data-part=count]'))).getText()).startsWith('2 results'));
  expect(await browser.getCurrentUrl()).not.toContain('?');
});

test('a function shows what comes of it, with what it is imported from', async () => {
  await open('functions/_yucca_kit.withToggled.html');
  await wait(async () => (await shown()) !== '');
  expect(JSON.parse(await (await see(By.css('[data-example]'))).getText())).toMatchObject({
    q: 'rose',
    select: { colour: ['pink', 'white'] },
  });
  expect(await (await see(By.css('[data-example] ~ pre'))).getText()).toContain(
    `import { withToggled } from '@yucca/kit';`,
  );
});
