/** Files that are read as a whole, on the server: what comes of good ones, of bad ones, and of traps. */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { zipSync } from 'fflate';
import { House } from './house';

const FILES = path.join(__dirname, '../../../e2e/fixtures/files');
const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
const file = (name: string): Buffer => readFileSync(path.join(FILES, name));

let house: House;
beforeAll(async () => (house = await new House().open()));
afterAll(() => house.leave());

let made = 0;
/** Loads bytes into a new collection; returns its name and the task that ended. */
async function load(bytes: Uint8Array, type: string, more: object = {}) {
  const name = `c${++made}`;
  await house.yucca.collections.create({ name, key: 'sku' });
  const body = (async function* () {
    for (let at = 0; at < bytes.length; at += 1_000) yield new Uint8Array(bytes.subarray(at, at + 1_000));
  })();
  return { name, task: await house.load(name, '', type, { body, assignKeys: true, ...more }) };
}

test('a workbook in pieces, packed or not, and a sheet of several', async () => {
  const { name, task } = await load(file('stock.xlsx'), XLSX);
  expect(task).toMatchObject({ state: 'done', done: 3, failed: 0 });
  expect(await house.yucca.records.get(name, 'Q-2')).toMatchObject({ name: 'Tree fern', price: 24, offer: false });
  expect((await load(gzipSync(file('stock.xlsx')), XLSX, { gzip: true })).task).toMatchObject({ state: 'done', done: 3 }); // prettier-ignore
  expect((await load(file('two-sheets.xlsx'), XLSX, { at: '/Gardens' })).task).toMatchObject({ done: 2 });
});

test('without being asked a document is one record, as it is in JSON', async () => {
  const { task } = await load(Buffer.from('plants: [{id: a}, {id: b}]'), 'application/yaml');
  expect(task.done).toBe(1);
  const asked = await load(Buffer.from('plants: [{id: a}, {id: b}]'), 'application/yaml', { at: 'auto' });
  expect(asked.task.done).toBe(2);
});

test('field rules read what comes out of a file as they read all else', async () => {
  const name = 'ruled';
  await house.yucca.collections.create({ name });
  house.yucca.fieldRules.set(name, [{ field: 'price', as: 'number', unit: '€', decimal: ',' }]);
  await house.load(
    name,
    '<plants><plant id="a"><price>3,50 €</price></plant><plant id="b"/></plants>',
    'application/xml',
    { at: 'auto' },
  );
  expect(await house.yucca.records.get(name, 'a')).toEqual({ id: 'a', price: 3.5 });
});

/** Entities that stand for entities, ten times each: 10^9 of them at the end. */
const laughs = `<?xml version="1.0"?><!DOCTYPE a [<!ENTITY l0 "ha">${Array.from({ length: 9 }, (_, i) => `<!ENTITY l${i + 1} "${`&l${i};`.repeat(10)}">`).join('')}]><a><b>&l9;</b><b>&l9;</b></a>`; // prettier-ignore
const outside = '<?xml version="1.0"?><!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><a><b><n>&x;</n></b><b><n>2</n></b></a>'; // prettier-ignore
const aliases = `a: &a [${'x,'.repeat(50)}]\n${Array.from({ length: 8 }, (_, i) => `${'bcdefghi'[i]}: &${'bcdefghi'[i]} [${`*${'abcdefgh'[i]},`.repeat(50)}]`).join('\n')}\n`; // prettier-ignore
const bomb = zipSync({ 'a.md': new Uint8Array(60 * 1024 * 1024) }, { level: 9 });
/** An archive that says of a file that it is small. */
const liar = (() => {
  const bytes = bomb.slice();
  const view = new DataView(bytes.buffer);
  for (let at = 0; at + 4 < bytes.length; at++) {
    const sign = view.getUint32(at, true);
    if (sign === 0x04034b50) view.setUint32(at + 22, 100, true);
    if (sign === 0x02014b50) view.setUint32(at + 24, 100, true);
  }
  return bytes;
})();

test.each<[string, () => Uint8Array, string]>([
  ['XML that grows', () => Buffer.from(laughs), 'application/xml'],
  ['YAML that grows', () => Buffer.from(aliases), 'application/yaml'],
  ['an archive that lies about its size', () => liar, 'application/zip'],
  ['a workbook that is an archive of something else', () => bomb, XLSX],
  ['a workbook cut off', () => file('stock.xlsx').subarray(0, 700), XLSX],
  ['Parquet that is text', () => Buffer.from('PAR1 and nothing else PAR1'), 'application/vnd.apache.parquet'],
  ['what says it is packed', () => file('stock.xlsx'), 'gzip'],
  ['nothing', () => Buffer.alloc(0), 'application/yaml'],
])('%s ends in a sentence, and the server goes on', async (_, bytes, type) => {
  const { task } = type === 'gzip' ? await load(bytes(), XLSX, { gzip: true }) : await load(bytes(), type);
  expect(task.state === 'failed' || task.done <= 2).toBe(true);
  if (task.state === 'failed') expect(task.errors[0]!.detail).toMatch(/^[A-Z].*[.)]?$/);
  expect(JSON.stringify(task.errors)).not.toMatch(/ at .*\.ts:|undefined|\[object/);
  await house.yucca.records.put((await load(file('stock.xlsx'), XLSX)).name, 'x', { sku: 'x' }, 'replace');
});

test('no entity reaches a file of the machine', async () => {
  const { name } = await load(Buffer.from(outside), 'application/xml');
  const { items } = await house.yucca.records.list(name, 1, 10);
  expect(JSON.stringify(items)).not.toContain('root:');
});

test('more than may be read as a whole is turned away while it comes', async () => {
  let sent = 0;
  await house.yucca.collections.create({ name: 'large' });
  const body = (async function* () {
    for (; sent < 200; sent++) yield new Uint8Array(1024 * 1024);
  })();
  const task = await house.load('large', '', XLSX, { body });
  expect(task).toMatchObject({ state: 'failed', done: 0 });
  expect(task.errors[0]!.detail).toContain('up to 64 MB');
  expect(sent).toBeLessThan(70);
});
