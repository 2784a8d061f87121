import { existsSync, readdirSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import path from 'node:path';
import fc from 'fast-check';
import { House, lines } from './house';

let house: House;
beforeEach(async () => {
  house = await new House().open();
  await house.yucca.collections.create({ name: 'plants' });
});
afterEach(() => house.leave());

const colours = ['red', 'white', 'blue', 'yellow'];
const row = (i: number, word: string) => ({ id: `r${i}`, name: `${word} ${i}`, colour: colours[i % 4], price: i % 90 });
const rows = (from: number, to: number, word = 'rose') =>
  Array.from({ length: to - from }, (_, i) => row(from + i, word));

const segmentFiles = async (): Promise<string[]> => {
  await house.yucca.indexManager.removed();
  const root = path.join(house.dataDir, 'segments');
  if (!existsSync(root)) return [];
  return readdirSync(root).flatMap((folder) => readdirSync(path.join(root, folder)));
};

const builders = () => house.yucca.threads().filter(({ name }) => name.includes('of parts'));
const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Begins a load whose parts come when they are let. */
function begin(parts: readonly object[][]) {
  const doors = parts.map(() => {
    let open = (): void => {};
    return { opened: new Promise<void>((resolve) => (open = resolve)), open: () => open() };
  });
  const body = (async function* () {
    for (const [i, part] of parts.entries()) {
      await doors[i]!.opened;
      yield Buffer.from(lines(part));
    }
  })();
  const order = { mediaType: 'application/x-ndjson', gzip: false, mode: 'replace' as const, assignKeys: false, bytes: null, body }; // prettier-ignore
  const loaded = house.yucca.records.load('plants', order).then(({ searchable }) => searchable);
  return { loaded, let: (part: number) => doors[part]!.open() };
}

const stored = async (count: number): Promise<void> => {
  while (house.yucca.collections.get('plants').records < count) await pause(10);
};

/** Until what is stored is being built, and a moment longer. */
const growing = async (): Promise<void> => {
  for (let tries = 0; tries < 500 && !builders().some(({ busy }) => busy > 0); tries++) await pause(10);
  expect(builders().some(({ busy }) => busy > 0)).toBe(availableParallelism() > 1);
  await pause(150);
};

const facts = async () => {
  const { total, facets } = await house.search('plants', { q: 'rose', facets: ['*'] });
  return { total, all: (await house.search('plants', '')).total, facets };
};

test('a load is indexed while it comes; a whole index is made by two threads; a restart changes nothing', async () => {
  const load = begin([rows(0, 9_000), rows(9_000, 24_000)]);
  load.let(0);
  await stored(9_000);
  await growing();
  load.let(1);
  expect((await load.loaded).state).toBe('done');
  const told = await facts();
  expect([told.total, told.all]).toEqual([24_000, 24_000]);
  expect(told.facets.colour).toMatchObject({ values: [6_000, 6_000, 6_000, 6_000].map((count) => ({ count })) });
  await house.reopen();
  expect(await facts()).toEqual(told);
  // A draft that needs another index has all of it built: a half by each.
  await house.yucca.tunings.patchDraft('plants', {
    search: [{ field: 'name' }],
  });
  await house.yucca.tunings.publish('plants', null);
  expect(await segmentFiles()).toHaveLength(Math.min(2, availableParallelism()));
  expect(await facts()).toEqual(told);
  await house.reopen();
  expect(await facts()).toEqual(told);
});

test('what comes twice in a file stands as it came last, before and after a restart', async () => {
  const load = begin([rows(0, 8_000), rows(4_000, 14_000, 'fern'), rows(0, 100, 'moss')]);
  load.let(0);
  await stored(8_000);
  await growing();
  load.let(1);
  load.let(2);
  expect(await load.loaded).toMatchObject({ done: 18_100, repeated: 4_100 });
  for (let starts = 1; starts <= 2; starts++) {
    expect((await house.search('plants', '')).total).toBe(14_000);
    expect((await house.search('plants', 'rose')).total).toBe(3_900);
    expect((await house.search('plants', 'fern')).total).toBe(10_000);
    expect(await house.ids('plants', 'moss 57')).toEqual(['r57']);
    await house.reopen();
  }
});

test('whatever is done meanwhile, the end is what a plain map of records says', async () => {
  const step = fc.constantFrom('delete', 'put', 'draft', 'lose a builder', 'another load', 'wait');
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 2, maxLength: 5 }), async (steps) => {
      const { collections, records, tunings } = house.yucca;
      house.yucca.removeCollection('plants');
      await collections.create({ name: 'plants' });
      const model = new Map<string, string>();
      const note = (list: { id: string; name: string }[]): void => list.forEach(({ id, name }) => model.set(id, name));
      const parts = [rows(0, 7_000), rows(3_000, 12_000, 'fern')];
      const load = begin(parts);
      load.let(0);
      note(parts[0]!);
      await stored(7_000);
      await growing();
      const waiting: Promise<unknown>[] = [];
      for (const [i, one] of steps.entries()) {
        if (one === 'delete') {
          const keys = Array.from({ length: 30 }, (_, n) => `r${i * 31 + n}`);
          await records.remove('plants', keys);
          keys.forEach((key) => model.delete(key));
          expect(await house.ids('plants', { filter: `id = '${keys[0]!}'` })).toEqual([]);
        } else if (one === 'put') {
          await records.put('plants', `r${i}`, { name: `moss ${i}` }, 'replace');
          model.set(`r${i}`, `moss ${i}`);
          expect(await house.ids('plants', `moss ${i}`)).toContain(`r${i}`);
        } else if (one === 'draft') {
          waiting.push(tunings.patchDraft('plants', i % 2 ? { search: [{ field: 'name' }] } : { facets: [{ name: 'price', field: 'price' }] })); // prettier-ignore
        } else if (one === 'lose a builder') builders()[0]!.replace(new Error('on purpose'));
        else if (one === 'another load') {
          const more = rows(20_000 + i, 20_010 + i, 'lily');
          waiting.push(house.load('plants', lines(more), 'application/x-ndjson'));
          note(more);
        } else await pause(100);
      }
      load.let(1);
      note(parts[1]!);
      expect((await load.loaded).state).toBe('done');
      await Promise.all(waiting);
      const asItShouldBe = async (): Promise<void> => {
        expect((await house.search('plants', '')).total).toBe(model.size);
        for (const word of ['rose', 'fern', 'moss', 'lily'])
          expect((await house.search('plants', word)).total).toBe(
            [...model.values()].filter((name) => name.startsWith(word)).length,
          );
      };
      await asItShouldBe();
      await house.reopen();
      await asItShouldBe();
    }),
    {
      numRuns: 3,
      examples: [
        [['put', 'delete', 'put']],
        [['draft', 'delete', 'lose a builder', 'wait']],
        [['another load', 'delete']],
      ],
    },
  );
});

test('a collection that is deleted while it is loaded leaves no file and no builder at work', async () => {
  const load = begin([rows(0, 9_000), rows(9_000, 20_000)]);
  load.let(0);
  await stored(9_000);
  await growing();
  house.yucca.removeCollection('plants');
  load.let(1);
  await load.loaded.catch(() => {});
  for (let tries = 0; tries < 200 && builders().some(({ busy }) => busy > 0); tries++) await pause(20);
  expect(builders().map(({ busy }) => busy)).toEqual(builders().map(() => 0));
  expect(await segmentFiles()).toEqual([]);
});

test('first records that say otherwise of the fields than all do: what all say counts', async () => {
  const alike = rows(0, 7_000).map((one) => ({ ...one, colour: 'green' }));
  const load = begin([alike, rows(7_000, 40_000)]);
  load.let(0);
  await stored(7_000);
  await growing();
  load.let(1);
  await load.loaded;
  const { facets, total } = await facts();
  expect(total).toBe(40_000);
  const counts = ['blue', 'red', 'white', 'yellow'].map((value) => ({ value, count: 8_250 }));
  expect(facets.colour).toMatchObject({ values: [...counts, { value: 'green', count: 7_000 }] });
});

test('what is deleted while a merge and another index are built at the same time stays deleted', async () => {
  const { records, tunings } = house.yucca;
  // The sixth load makes a merge begin.
  for (let i = 0; i < 6; i++)
    await house.load('plants', lines(rows(i * 2_000, (i + 1) * 2_000)), 'application/x-ndjson');
  let gone = 0;
  const deleteSome = async (): Promise<void> => {
    const keys = Array.from({ length: 20 }, () => `r${gone++ * 7}`);
    expect(await records.remove('plants', keys)).toBe(20);
  };
  await deleteSome();
  const saved = tunings.patchDraft('plants', { search: [{ field: 'name' }] });
  for (let i = 0; i < 25; i++) {
    await deleteSome();
    await pause(40);
    expect((await house.search('plants', '')).total).toBe(12_000 - gone);
  }
  await saved;
  await tunings.publish('plants', null);
  expect((await house.search('plants', '')).total).toBe(12_000 - gone);
  await house.reopen();
  expect((await house.search('plants', '')).total).toBe(12_000 - gone);
});

test('what is deleted while the first index is built, which two build then, stays deleted', async () => {
  const load = begin([rows(0, 30_000)]);
  load.let(0);
  await stored(30_000);
  // Its fields are understood, and an index for them has been begun: the deletion needs another, at once.
  for (let tries = 0; tries < 500 && house.yucca.indexManager.ensure(idOfPlants()) === null; tries++) await pause(5);
  const keys = Array.from({ length: 50 }, (_, i) => `r${i * 601 + 1}`);
  expect(await house.yucca.records.remove('plants', keys)).toBe(
    keys.filter((key) => Number(key.slice(1)) < 30_000).length,
  );
  await load.loaded;
  const left = 30_000 - keys.filter((key) => Number(key.slice(1)) < 30_000).length;
  expect((await house.search('plants', '')).total).toBe(left);
  await house.reopen();
  expect((await house.search('plants', '')).total).toBe(left);
});

const idOfPlants = (): number => house.yucca.collections.idOf('plants');
