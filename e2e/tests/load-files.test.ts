import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Collection, FieldRule, InspectionAnswer, RecordJson, SearchAnswer } from '@yucca/contract';
import { By } from 'selenium-webdriver';
import { startBrowser, type Browser } from '../src/browser';
import { Person, WAIT } from '../src/person';
import { Server } from '../src/server';

const ROOT = path.join(__dirname, '../..');
const FILES = path.join(ROOT, 'e2e/fixtures/files');

/** What must become of each file of the folder. */
const EXPECTED = JSON.parse(readFileSync(path.join(FILES, 'expected.json'), 'utf8')) as Record<
  string,
  {
    at: string | null;
    key: string;
    records: RecordJson[];
    rules?: FieldRule[];
    /** What is asked for, and the key of the first result; null = nothing. */
    finds?: Record<string, string | null>;
  }
>;

let server: Server;
let browser: Browser;
const { click, see, seeText, press, drop, violations } = new Person(() => browser);

beforeAll(async () => {
  server = await new Server().start();
  browser = await startBrowser();
});
afterAll(async () => {
  await browser?.quit();
  await server.leave();
});

const TYPES: [ending: RegExp, mediaType: string][] = [
  [/sv$/, 'text/csv'],
  [/jsonl$/, 'application/x-ndjson'],
  [/json$/, 'application/json'],
  [/yaml$/, 'application/yaml'],
  [/xml$|rss$/, 'application/xml'],
  [/xlsx$/, 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'],
  [/parquet$/, 'application/vnd.apache.parquet'],
  [/md$/, 'text/markdown'],
  [/zip$/, 'application/zip'],
];
const typeOf = (name: string): string => TYPES.find(([ending]) => ending.test(name))![1];

/** A collection that holds nothing yet and reads values as a file of the folder wants it. */
async function prepare(name: string, key: string, rules: FieldRule[]): Promise<void> {
  await server.api('POST', '/collections', { name, key });
  if (rules.length > 0) await server.api('PUT', `/collections/${name}/field-rules`, { rules });
}

/** What is there slows down what comes: every screen shows all collections. */
const forget = (name: string): Promise<unknown> => server.call('DELETE', `/collections/${name}`);

const stored = async (collection: string): Promise<RecordJson[]> =>
  (await server.json<{ items: RecordJson[] }>('GET', `/collections/${collection}/records?size=200`)).items;

/** Formats whose panel was looked at for whoever cannot see it. */
const checked = new Set<string>();

describe.each(Object.entries(EXPECTED))('%s', (name, { at, key, records, rules = [], finds = {} }) => {
  const collection = name.replace(/\W+/g, '-');

  test('over HTTP, as POST /inspect proposes', async () => {
    const body = readFileSync(path.join(FILES, name));
    const send = (route: string, type: string): Promise<Response> =>
      fetch(`${server.base}/api/v1${route}`, {
        method: 'POST',
        headers: { Authorization: `Bearer ${server.adminKey}`, 'Content-Type': type },
        body,
      });
    const inspected = await send(`/inspect?name=${encodeURIComponent(name)}`, 'application/octet-stream');
    expect(inspected.status).toBe(200);
    const told = (await inspected.json()) as InspectionAnswer;
    expect(told.key).toMatchObject({ field: key, unique: true });
    const taken = told.fields.filter(({ path }) => path !== key).flatMap(({ proposals: [first] }) => (first && !first.doubtful ? [first.rule] : [])); // prettier-ignore
    expect(new Set(taken)).toEqual(new Set(rules));
    await prepare(`${collection}-http`, key, rules);
    const response = await send(`/collections/${collection}-http/records?wait=true&${told.load.query}`, told.load.type);
    expect(response.status).toBe(200);
    expect(await stored(`${collection}-http`)).toEqual(records);
    await forget(`${collection}-http`);
  });

  test('by mouse alone: dropped, and one press', async () => {
    await browser.get(server.base);
    await see(By.css('h1'));
    await drop(path.join(FILES, name));
    const made = (await (await see(By.css('#load-name'))).getAttribute('value'))!;
    if (at !== null)
      expect(await (await see(By.xpath('//label[contains(., "Records at")]//select'))).getAttribute('value')).toBe(at);
    if (!checked.has(typeOf(name))) expect(await violations()).toEqual([]);
    checked.add(typeOf(name));
    await press(`Load ${records.length} record`);
    await seeText(`${records.length} record`);
    await browser.wait(async () => (await browser.getCurrentUrl()).includes(`/c/${made}/records`), WAIT);
    expect((await server.json<Collection>('GET', `/collections/${made}`)).key).toBe(key);
    expect(await stored(made)).toEqual(records);
    for (const [q, first] of Object.entries(finds)) {
      const path = `/collections/${made}/search?q=${encodeURIComponent(q)}`;
      const { results } = await server.json<SearchAnswer>('GET', path);
      expect({ q, first: results[0]?.id ?? null }).toEqual({ q, first });
    }
    await forget(made);
  });

  test('by the command line', async () => {
    await prepare(`${collection}-line`, key, rules);
    const load = ['load', `${collection}-line`, path.join(FILES, name)];
    execFileSync(process.execPath, [path.join(ROOT, 'packages/cli/bin/yucca.mjs'), ...load], {
      stdio: 'ignore',
      env: { ...process.env, YUCCA_URL: server.base, YUCCA_KEY: server.adminKey },
    });
    expect(await stored(`${collection}-line`)).toEqual(records);
    await forget(`${collection}-line`);
  });
});

test('a key that repeats far behind the beginning is found out before the load', async () => {
  const rows = Array.from(
    { length: 24_000 },
    (_, i) => `Q-${i % 20_000},C${i},Plant ${i},${'words of a note '.repeat(3)}`,
  );
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'yucca-')), 'repeating.csv');
  writeFileSync(file, ['sku,code,name,note', ...rows].join('\n'));
  await browser.get(server.base);
  await see(By.css('h1'));
  await drop(file);
  await seeText('“code” is in every one of the 24,000 records and never repeats');
  const key = await see(By.css('#load-key'));
  expect(await key.getAttribute('value')).toBe('code');
  await click(By.css('#load-key option[value="sku"]'));
  await seeText('so 20,000 records would be left');
  await press('Cancel');
});

test('what leaves a doubt is asked about, and what stands above a table is shown', async () => {
  await browser.get(server.base);
  await see(By.css('h1'));
  await drop(path.join(FILES, 'either-way.csv'));
  await seeText('written M/d/yyyy or d/M/yyyy: choose which');
  await click(By.css('select[aria-label="Read opened as"] option[value="date d/M/yyyy"]'));
  await seeText('opened as date (d/M/yyyy)');
  await press('Load 2 records');
  await browser.wait(async () => (await browser.getCurrentUrl()).includes('/c/either-way/records'), WAIT);
  expect((await stored('either-way')).map(({ opened }) => opened)).toEqual(['1998-01-05', '1998-02-08']);
  await browser.get(server.base);
  await see(By.css('h1'));
  await drop(path.join(FILES, 'title-above.csv'));
  await seeText('3 lines above it left out: Stock of the nursery');
  const line = '//label[contains(., "Header in line")]//select';
  await click(By.xpath(`${line}/option[.="1"]`));
  // With a title for a header there is no row; what was shown stays.
  await seeText('nothing below it that could be read');
  await seeText('3 lines above it left out');
  await press('Cancel');
  await drop(path.join(FILES, 'two-columns.csv'));
  await seeText('made of latitude_deg, longitude_deg');
  await press('Cancel');
});
