/** @jest-environment node */
import { existsSync, readdirSync, readFileSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { SearchRequest } from '@yucca/contract';
import { House, lines } from './house';

const RECORDS = 6_000;
let house: House;

const plant = (i: number, name = `plant ${i % 97}`) => ({
  id: `p${i}`,
  name,
  price: i % 80,
  // Every one another: such a column is made only when it is asked for.
  code: `code ${(i * 7919) % RECORDS}`,
  maker: { id: i % 9, name: `Maker ${i % 9}` },
  at: { lat: 48 + (i % 10), lng: 9 },
});

beforeEach(async () => {
  house = await new House().open();
  await house.yucca.collections.create({ name: 'plants' });
  await house.yucca.tunings.replaceDraft('plants', { search: [{ field: 'name' }] });
  await house.yucca.tunings.publish('plants', null);
  await house.load('plants', lines(Array.from({ length: RECORDS }, (_, i) => plant(i))), 'application/x-ndjson');
});
afterEach(() => house.leave());

const files = async (): Promise<string[]> => {
  await house.yucca.indexManager.removed();
  const root = path.join(house.dataDir, 'segments');
  if (!existsSync(root)) return [];
  return readdirSync(root).flatMap((folder) =>
    readdirSync(path.join(root, folder))
      .map((file) => path.join(root, folder, file))
      .sort((a, b) => statSync(a).size - statSync(b).size),
  );
};
const ask = (request: SearchRequest) => house.yucca.search.search('plants', { version: 'draft', ...request });

/** Saves a draft that needs columns, and waits until it answers. */
async function draft(document: object): Promise<void> {
  await house.yucca.tunings.patchDraft('plants', document);
  const indexing = house.yucca.tunings.indexing('plants');
  expect(indexing).not.toBeNull();
  expect(await indexing!.ended).toMatchObject({ state: 'done' });
}

const NUMBERS = { facets: [{ name: 'price', field: 'price', size: 3 }] };
const NAMED = { facets: [{ name: 'maker', field: 'maker.id', labelField: 'maker.name', size: 3 }] };
const SORTED = { sorts: [{ name: 'code', by: [{ field: 'code', order: 'desc' }] }] };
const PLACED = { geo: 'at' };

test('columns that a draft asks for come into files of their own; the segment stays the file it is', async () => {
  const [segment] = await files();
  const { ino, mtimeMs, size } = statSync(segment!);
  await draft(NUMBERS);
  expect((await ask({ facets: ['*'] })).facets.price).toMatchObject({ values: [{ value: '0', count: 75 }, {}, {}] });
  await draft(NAMED);
  expect((await ask({ facets: ['*'] })).facets.maker).toMatchObject({
    values: [{ value: '0', label: 'Maker 0', count: 667 }, {}, {}],
  });
  await draft(SORTED);
  expect((await ask({ sort: 'code', size: 2 })).results.map(({ record }) => record.code)).toEqual([
    'code 999',
    'code 998',
  ]);
  await draft(PLACED);
  expect((await ask({ near: { lat: 51, lng: 9, withinM: 1_000 } })).total).toBe(RECORDS / 10);
  expect(await files()).toHaveLength(5);
  expect(statSync((await files()).at(-1)!)).toMatchObject({ ino, mtimeMs, size });
  // Live knows nothing of it before the draft is published, which takes no index either.
  await house.yucca.tunings.publish('plants', null);
  expect(house.yucca.tunings.indexing('plants')).toBeNull();
  expect((await house.search('plants', { sort: 'code', size: 1 })).results[0]!.record.code).toBe('code 999');

  const all = await ask({ sort: 'code', facets: ['*'], near: { lat: 51, lng: 9, withinM: 1_000 } });
  const { bytes } = house.yucca.indexManager.facts(house.yucca.collections.idOf('plants'));
  await house.reopen();
  expect(house.yucca.tunings.indexing('plants')).toBeNull();
  expect((await ask({ sort: 'code', facets: ['*'], near: { lat: 51, lng: 9, withinM: 1_000 } })).facets).toEqual(
    all.facets,
  );
  expect(await files()).toHaveLength(5);
  expect(house.yucca.indexManager.facts(house.yucca.collections.idOf('plants')).bytes).toBe(bytes);
});

test('what is written, changed and deleted later stands in the same order and the same facets', async () => {
  await draft({ ...NUMBERS, ...SORTED });
  const { records } = house.yucca;
  await records.put('plants', 'new', { name: 'new', code: 'zz', price: 1_000 }, 'replace');
  await records.put('plants', 'p1', { name: 'changed', code: 'zy', price: 1_000 }, 'replace');
  await records.remove('plants', ['p2']);
  const answer = await ask({ sort: 'code', size: 3, facets: ['*'] });
  expect(answer.total).toBe(RECORDS);
  expect(answer.results.map(({ record }) => record.code)).toEqual(['zz', 'zy', 'code 999']);
  expect((await ask({ select: { price: ['1000'] } })).total).toBe(2);
  await house.reopen();
  expect((await ask({ sort: 'code', size: 3, facets: ['*'] })).facets).toEqual(answer.facets);
});

test.each([
  ['missing', (file: string) => rmSync(file)],
  ['cut', (file: string) => truncateSync(file, 200)],
  [
    'damaged',
    (file: string) =>
      writeFileSync(
        file,
        readFileSync(file).map((byte, i) => (i === 3_000 ? byte ^ 1 : byte)),
      ),
  ],
])('added columns whose file is %s are made again from the records', async (_, harm) => {
  await draft({ ...NUMBERS, ...SORTED });
  const before = await ask({ sort: 'code', facets: ['*'] });
  await house.yucca.close();
  expect(await files()).toHaveLength(2);
  harm((await files())[0]!);
  await house.open();
  await house.yucca.tunings.indexing('plants')?.ended;
  const { total, facets, results } = await ask({ sort: 'code', facets: ['*'] });
  expect({ total, facets, results }).toEqual({ total: before.total, facets: before.facets, results: before.results });
});

test('a file that no row speaks of, as after a kill between the two, goes; the draft gets its columns then', async () => {
  await draft(NUMBERS);
  await house.yucca.close();
  const [columns] = await files();
  const stray = path.join(path.dirname(columns!), '0f0e0d0c-0b0a-4900-8807-060504030201.seg');
  writeFileSync(stray, readFileSync(columns!));
  await house.open();
  expect(await files()).toHaveLength(2);
  expect(await files()).not.toContain(stray);

  // Stopped while they are made: live answers at once, the draft follows.
  await house.yucca.tunings.patchDraft('plants', SORTED);
  await house.reopen();
  expect((await house.search('plants', '')).total).toBe(RECORDS);
  await house.yucca.tunings.indexing('plants')?.ended;
  expect((await ask({ sort: 'code', size: 1 })).results[0]!.record.code).toBe('code 999');
});

test('a deleted collection leaves no columns behind, whether they are there or being made', async () => {
  await draft(NUMBERS);
  await house.yucca.tunings.patchDraft('plants', SORTED);
  const indexing = house.yucca.tunings.indexing('plants')!;
  house.yucca.removeCollection('plants');
  expect(await indexing.ended).toMatchObject({ state: 'failed' });
  expect(await files()).toEqual([]);
});

test('what is loaded while columns are made, several segments of it, gets them too; a merge takes them in', async () => {
  const load = (from: number) =>
    house.load(
      'plants',
      lines(Array.from({ length: 1_100 }, (_, i) => plant(from + i, 'late'))),
      'application/x-ndjson',
    );
  await house.yucca.tunings.patchDraft('plants', { ...NUMBERS, ...SORTED });
  const { ended } = house.yucca.tunings.indexing('plants')!;
  await load(RECORDS);
  expect(await ended).toMatchObject({ state: 'done' });
  const isRight = async (more: number): Promise<void> => {
    const { total, facets } = await ask({ sort: 'code', facets: ['*'] });
    expect(total).toBe(RECORDS + more);
    const prices = facets.price as { values: { count: number }[] };
    expect(prices.values.reduce((sum, { count }) => sum + count, 0)).toBeGreaterThan(200);
    expect((await ask({ q: 'late', select: { price: ['0'] } })).total).toBe(
      Array.from({ length: more }, (_, i) => (RECORDS + i) % 80).filter((price) => price === 0).length,
    );
  };
  await isRight(1_100);
  for (let n = 1; n < 6; n++) await load(RECORDS + n * 1_100);
  await isRight(6_600);
  // More than four segments are merged, and their columns with them.
  const added = (): string[] => house.yucca.db.$client.prepare('select added from segments').pluck().all() as string[];
  expect(added()).not.toHaveLength(0);
  const deadline = Date.now() + 60_000;
  while (added().some((one) => one !== '[]') && Date.now() < deadline)
    await new Promise((resolve) => setTimeout(resolve, 50));
  expect(added()).toEqual(added().map(() => '[]'));
  expect(await files()).toHaveLength(added().length);
  await isRight(6_600);
});
