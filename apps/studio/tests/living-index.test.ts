import { existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import { House, lines } from './house';

let house: House;
beforeEach(async () => {
  house = await new House().open();
  await house.yucca.collections.create({ name: 'plants' });
});
afterEach(() => house.leave());

const many = (count: number, word: string, from = 0): string =>
  lines(Array.from({ length: count }, (_, i) => ({ id: `r${from + i}`, name: `${word} ${from + i}` })));

const segmentFiles = async (): Promise<string[]> => {
  await house.yucca.indexManager.removed();
  const root = path.join(house.dataDir, 'segments');
  if (!existsSync(root)) return [];
  return readdirSync(root).flatMap((folder) =>
    readdirSync(path.join(root, folder)).map((file) => path.join(root, folder, file)),
  );
};

test('a write can be searched when it is answered: created, changed, deleted', async () => {
  await house.yucca.records.put('plants', 'a', { id: 'a', name: 'white rose' }, 'replace');
  expect(await house.ids('plants', 'rose')).toEqual(['a']);
  await house.yucca.records.put('plants', 'a', { name: 'green fern' }, 'replace');
  expect(await house.ids('plants', 'rose')).toEqual([]);
  expect(await house.ids('plants', 'fern')).toEqual(['a']);
  expect(await house.yucca.records.remove('plants', ['a', 'never'])).toBe(1);
  expect((await house.search('plants', '')).total).toBe(0);
});

test('a record keeps its place when it changes', async () => {
  await house.load('plants', many(3, 'rose'), 'application/x-ndjson');
  await house.yucca.records.put('plants', 'r0', { name: 'rose again' }, 'replace');
  expect((await house.search('plants', '')).results.map(({ id }) => id)).toEqual(['r0', 'r1', 'r2']);
  expect((await house.yucca.records.list('plants', 1, 10)).items.map(({ id }) => id)).toEqual(['r0', 'r1', 'r2']);
});

test('large and small writes, over a restart, answer the same', async () => {
  await house.load('plants', many(2500, 'rose'), 'application/x-ndjson');
  expect(await segmentFiles()).toHaveLength(1);
  await house.yucca.records.put('plants', 'r7', { name: 'fern' }, 'replace');
  await house.yucca.records.remove('plants', ['r8']);
  const ask = async () => [
    (await house.search('plants', 'rose')).total,
    await house.ids('plants', 'fern'),
    (await house.search('plants', '')).total,
  ];
  const before = await ask();
  expect(before).toEqual([2498, ['r7'], 2499]);
  await house.reopen();
  expect(await ask()).toEqual(before);
});

test.each([
  ['missing', (file: string) => rmSync(file)],
  ['cut', (file: string) => writeFileSync(file, readFileSync(file).subarray(0, 5000))],
  [
    'damaged',
    (file: string) => {
      const bytes = readFileSync(file);
      bytes[bytes.length - 300]! ^= 1;
      writeFileSync(file, bytes);
    },
  ],
  ['empty', (file: string) => writeFileSync(file, '')],
])('a %s segment file is noticed and built again from the records', async (_, harm) => {
  await house.load('plants', many(1500, 'rose'), 'application/x-ndjson');
  await house.yucca.close();
  harm((await segmentFiles())[0]!);
  await house.open();
  expect((await house.search('plants', 'rose')).total).toBe(1500);
  await house.reopen();
  expect((await house.search('plants', 'rose')).total).toBe(1500);
  expect(await segmentFiles()).toHaveLength(1);
});

test('many segments are merged in the background and nothing is doubled', async () => {
  for (let i = 0; i < 6; i++) await house.load('plants', many(1100, 'rose', i * 1000), 'application/x-ndjson');
  const deadline = Date.now() + 20_000;
  while ((await segmentFiles()).length > 4 && Date.now() < deadline)
    await new Promise((resolve) => setTimeout(resolve, 50));
  expect((await segmentFiles()).length).toBeLessThanOrEqual(4);
  expect((await house.search('plants', 'rose')).total).toBe(6100);
  await house.reopen();
  expect((await house.search('plants', 'rose')).total).toBe(6100);
});

test('files that belong to no segment are cleared away at the start', async () => {
  await house.load('plants', many(1500, 'rose'), 'application/x-ndjson');
  const stray = path.join(path.dirname((await segmentFiles())[0]!), 'stray.seg.part');
  await house.yucca.close();
  writeFileSync(stray, 'half a segment');
  await house.open();
  expect(await segmentFiles()).toHaveLength(1);
});

test('a deleted collection is gone at once, its name is free, and its records leave the database', async () => {
  await house.load('plants', many(1500, 'rose'), 'application/x-ndjson');
  house.yucca.removeCollection('plants');
  expect(() => house.yucca.collections.get('plants')).toThrow('no collection');
  await house.yucca.collections.create({ name: 'plants' });
  expect((await house.search('plants', '')).total).toBe(0);
  const left = (): number =>
    (house.yucca.db.$client.prepare('select count(*) as n from records').get() as { n: number }).n;
  const deadline = Date.now() + 10_000;
  while (left() > 0 && Date.now() < deadline) await new Promise((resolve) => setTimeout(resolve, 20));
  expect(left()).toBe(0);
});

test('a collection that is deleted while its segments are merged leaves no file behind', async () => {
  for (let i = 0; i < 5; i++) await house.load('plants', many(1100, 'rose', i * 1100), 'application/x-ndjson');
  // The sixth makes a merge begin, which is under way when the collection goes.
  await house.load('plants', many(1100, 'rose', 5 * 1100), 'application/x-ndjson');
  house.yucca.removeCollection('plants');
  await new Promise((resolve) => setTimeout(resolve, 1_500));
  expect(await segmentFiles()).toEqual([]);
});

test('any sequence of writes answers like a plain map of records', async () => {
  const key = fc.constantFrom('a', 'b', 'c', 'd');
  const step = fc.oneof(
    fc.record({ do: fc.constant('put' as const), key, name: fc.constantFrom('rose', 'fern', 'moss') }),
    fc.record({ do: fc.constant('remove' as const), key }),
    fc.record({ do: fc.constant('load' as const), keys: fc.uniqueArray(key), name: fc.constantFrom('rose', 'fern') }),
    fc.record({ do: fc.constant('reopen' as const) }),
  );
  await fc.assert(
    fc.asyncProperty(fc.array(step, { maxLength: 8 }), async (steps) => {
      await house.yucca.records.remove('plants', ['a', 'b', 'c', 'd']);
      const model = new Map<string, string>();
      for (const one of steps) {
        if (one.do === 'put') {
          await house.yucca.records.put('plants', one.key, { name: one.name }, 'replace');
          model.set(one.key, one.name);
        } else if (one.do === 'remove') {
          await house.yucca.records.remove('plants', [one.key]);
          model.delete(one.key);
        } else if (one.do === 'load') {
          await house.load('plants', lines(one.keys.map((id) => ({ id, name: one.name }))), 'application/x-ndjson');
          one.keys.forEach((id) => model.set(id, one.name));
        } else {
          await house.reopen();
        }
        for (const name of ['rose', 'fern', 'moss']) {
          expect(await house.ids('plants', name)).toEqual(
            [...model]
              .filter(([, has]) => has === name)
              .map(([id]) => id)
              .sort(),
          );
        }
      }
    }),
    { numRuns: 12 },
  );
});
