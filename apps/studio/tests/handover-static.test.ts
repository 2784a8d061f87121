/** A folder without a server holds what visitors may see, and not a word more. */
import { gunzipSync } from 'node:zlib';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { LIMITS, type OfflineManifest } from '@yucca/contract';
import { PartedSegment } from '@yucca/engine';
import { strFromU8 } from 'fflate';
import { unpacked } from './archive';
import { House } from './house';

let house: House;
let scripts: string;
beforeAll(async () => {
  scripts = mkdtempSync(path.join(tmpdir(), 'yucca-scripts-'));
  for (const name of ['yucca-search.js', 'yucca-search-more.js', 'yucca-engine.js']) writeFileSync(path.join(scripts, name), `// ${name}`); // prettier-ignore
  house = await new House({ YUCCA_OFFLINE: scripts }).open();
  await house.yucca.collections.create({ name: 'goods', title: 'Goods' });
  const goods = Array.from({ length: 40 }, (_, i) => ({
    id: `g${i}`,
    name: `Spade ${i}`,
    colour: ['red', 'white'][i % 2],
    tenant: ['ours', 'theirs'][i % 2],
    purchase: `secretprice ${i}`,
    hidden: `whisper ${i}`,
    stock: i,
    picture: i === 0 ? '/files/spade.svg' : `/files/none${i}.svg`,
  }));
  await house.load('goods', JSON.stringify(goods), 'application/json');
  await house.yucca.tunings.patchDraft('goods', {
    search: [{ field: 'name' }, { field: 'hidden' }],
    facets: [{ name: 'colour', field: 'colour' }],
    signals: [{ field: 'stock', shape: 'log', weight: 1 }],
    hide: ['hidden'],
  });
  await house.yucca.tunings.publish('goods', null);
  house.yucca.interfaces.create({
    slug: 'shop',
    title: 'Shop',
    collection: 'goods',
    card: { title: 'name', picture: 'picture', text: null, number: null, detail: null },
    autocomplete: [],
  });
  mkdirSync(path.join(house.dataDir, 'files'), { recursive: true });
  writeFileSync(path.join(house.dataDir, 'files/spade.svg'), '<svg/>');
});
afterAll(async () => {
  await house.leave();
  rmSync(scripts, { recursive: true, force: true });
});

async function taken(key?: string) {
  const order = { target: 'static' as const, ...(key !== undefined && { key }) };
  const made = await house.yucca.handovers.make('shop', order, 'https://search.example');
  const files = await unpacked(made.pieces);
  const at = (name: string): Uint8Array => files[`shop/${name}`]!;
  const manifest = JSON.parse(strFromU8(at('data/manifest.json'))) as OfflineManifest;
  const { index, parts, firstDocs } = manifest.collections.goods!;
  const segment = new PartedSegment(gunzipSync(at(`data/${index}`)), firstDocs);
  parts.forEach((name, i) => segment.takePart(i, gunzipSync(at(`data/${name}`))));
  // All bytes of the folder as one text: what is packed, unpacked.
  const text = Object.entries(files)
    .map(([name, bytes]) => Buffer.from(name.endsWith('.gz') ? gunzipSync(bytes) : bytes).toString('latin1'))
    .join('\n');
  return { made, files, manifest, segment, text };
}

test('fields that are neither shown nor searched leave no word, hidden ones are searched and not shown; no key is made', async () => {
  const keys = house.yucca.keys.list().length;
  const { made, files, segment, text, manifest } = await taken();
  expect(made.madeKey).toBeNull();
  expect(house.yucca.keys.list()).toHaveLength(keys);
  expect(segment.docs).toBe(40);
  expect(segment.record(3)).toEqual({ name: 'Spade 3', picture: '/files/none3.svg' });
  expect(text).not.toContain('secretprice');
  expect(text).not.toContain('theirs');
  // In the dictionary, which holds its letters one by one, and in no record.
  expect(text).not.toContain('whisper 3');
  expect(manifest.first.answer.total).toBe(40);
  expect(Object.keys(manifest.first.answer.facets)).toEqual(['colour']);
  expect(manifest.first.answer.results[0]!.record).not.toHaveProperty('hidden');
  expect(strFromU8(files['shop/files/spade.svg']!)).toBe('<svg/>');
  expect(strFromU8(files['shop/README.md']!)).toContain('39 pictures are not in the folder');
});

test('with a key: only the records that it may see', async () => {
  const { key } = house.yucca.keys.create({ label: 'Ours', rights: ['search'], filter: `tenant = 'ours'` });
  const { segment, manifest, text } = await taken(key.id);
  expect([segment.docs, manifest.first.answer.total, manifest.collections.goods!.records]).toEqual([20, 20, 20]);
  expect(text).toContain('Spade 2"');
  expect(text).not.toContain('Spade 3"');
  const { key: other } = house.yucca.keys.create({ label: 'Other', rights: ['search'], collections: ['others'] });
  await expect(taken(other.id)).rejects.toThrow('may not see “goods”');
});

test('more records than a browser should carry are refused with the number, and a way out', async () => {
  await house.yucca.collections.create({ name: 'many', title: 'Many' });
  const lines = Array.from({ length: LIMITS.offlineRecords + 1 }, (_, i) => `{"id":"${i}"}`).join('\n');
  await house.load('many', lines, 'application/x-ndjson');
  const order = { target: 'static' as const };
  await expect(house.yucca.handovers.make('many', order, 'https://search.example')).rejects.toThrow('50,000 records at most'); // prettier-ignore
});
