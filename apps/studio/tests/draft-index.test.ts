/** @jest-environment node */
import { House, lines } from './house';

const RECORDS = 25_000;
let house: House;

beforeAll(async () => {
  house = await new House().open();
  await house.yucca.collections.create({ name: 'plants' });
  const rows = Array.from({ length: RECORDS }, (_, i) => ({
    id: `p${i}`,
    name: `plant ${i % 97} of the ${i % 13} garden`,
    // Nearly every one another: such a column is made only when it is asked for.
    code: `code ${i % 24_000} ${'x'.repeat(40)}`,
    maker: `maker ${i % 23_000} ${'y'.repeat(40)}`,
  }));
  await house.yucca.tunings.replaceDraft('plants', { search: [{ field: 'name' }] });
  await house.yucca.tunings.publish('plants', null);
  await house.load('plants', lines(rows), 'application/x-ndjson');
});
afterAll(() => house.leave());

const facet = (field: string) => ({ facets: [{ name: field, field }] });
/** Other words than those of the name, so all of the index is made anew. */
const searched = (field: string) => ({ ...facet(field), search: [{ field: 'name' }, { field }] });
const elapsed = async (run: () => Promise<unknown>): Promise<number> => {
  const start = performance.now();
  await run();
  return performance.now() - start;
};

test('a draft that needs another index is saved at once; live, writes and further saves go on while that is built', async () => {
  const { tunings, records, tasks, search } = house.yucca;
  const began = performance.now();
  const saves = [await elapsed(() => tunings.patchDraft('plants', searched('code')))];
  const indexing = tunings.indexing('plants')!;
  expect(tasks.get(indexing.taskId)).toMatchObject({ kind: 'index', state: 'running', total: RECORDS });
  expect(tunings.get('plants', 'draft')).toMatchObject({ facets: [{ field: 'code' }] });
  await expect(search.search('plants', { version: 'draft' })).rejects.toMatchObject({
    code: 'unavailable',
    members: { progress: expect.any(Number) as number },
  });
  expect((await house.search('plants', 'plant')).total).toBe(RECORDS);
  const put = await elapsed(() => records.put('plants', 'fresh', { name: 'freshly written' }, 'replace'));
  expect((await house.search('plants', 'freshly')).total).toBe(1);
  saves.push(await elapsed(() => tunings.patchDraft('plants', { stopWords: ['the'] })));
  // All of that while it was built.
  expect(tunings.indexing('plants')).toBe(indexing);
  expect(await indexing.ended).toMatchObject({ state: 'done' });
  // On a machine that is busy with other work all of it takes longer, the index too.
  const built = performance.now() - began;
  expect(put).toBeLessThan(Math.max(1_000, built / 4));
  expect(Math.max(...saves)).toBeLessThan(Math.max(200, built / 10));
  const draft = await search.search('plants', { q: 'freshly', version: 'draft', facets: ['*'] });
  expect([draft.total, Object.keys(draft.facets)]).toEqual([1, ['code']]);
  await records.remove('plants', ['fresh']);
});

test('stopped before the index for a draft is there: live answers at once from what it has, the draft follows', async () => {
  const { tunings } = house.yucca;
  await tunings.patchDraft('plants', searched('maker'));
  expect(tunings.indexing('plants')).not.toBeNull();
  await house.reopen();
  const { indexManager, collections } = house.yucca;
  expect(indexManager.readiness(collections.row('plants').id).state).toBe('ready');
  expect((await house.search('plants', 'plant')).total).toBe(RECORDS);
  await house.yucca.tunings.indexing('plants')?.ended;
  const draft = await house.yucca.search.search('plants', { version: 'draft', facets: ['maker'], size: 0 });
  expect([draft.total, Object.keys(draft.facets)]).toEqual([RECORDS, ['maker']]);
});

test('a collection that is deleted while an index is built for its draft leaves nothing behind', async () => {
  const { tunings } = house.yucca;
  await tunings.patchDraft('plants', { ...facet('code'), search: [{ field: 'name' }, { field: 'maker' }] });
  const indexing = tunings.indexing('plants')!;
  house.yucca.removeCollection('plants');
  expect(await indexing.ended).toMatchObject({ state: 'failed' });
  await house.yucca.collections.create({ name: 'plants' });
  expect(house.yucca.tunings.indexing('plants')).toBeNull();
});

test('a facet, a sort or a signal on what stands in a column already needs no new index, after a restart neither', async () => {
  const { tunings, collections } = house.yucca;
  const rows = Array.from({ length: 1_500 }, (_, i) => ({ id: `g${i}`, name: `glove ${i}`, size: `size ${i % 5}`, price: i % 80 })); // prettier-ignore
  await collections.create({ name: 'gloves' });
  await house.load('gloves', lines(rows), 'application/x-ndjson');
  // Guessed facets are taken away, so that nothing was asked of any column.
  await tunings.replaceDraft('gloves', {});
  await tunings.publish('gloves', null);
  await house.load('gloves', lines(rows.map((row) => ({ ...row, name: `mitten ${row.id}` }))), 'application/x-ndjson');
  const changes: Record<string, unknown>[] = [
    facet('size'),
    { sorts: [{ name: 'dear', by: [{ field: 'price', order: 'desc' }] }] },
    { signals: [{ field: 'price', weight: 1 }] },
    { group: { field: 'size', keep: 1 } },
  ];
  for (const change of changes) {
    expect(house.yucca.indexManager.costOf(collections.idOf('gloves'), change)).toMatchObject({ rebuild: false });
    await tunings.patchDraft('gloves', change);
    expect(tunings.indexing('gloves')).toBeNull();
  }
  const ask = () => house.yucca.search.search('gloves', { version: 'draft', sort: 'dear', facets: ['*'] });
  const { total, facets, results } = await ask();
  expect([total, results.map(({ record }) => record.size).sort()]).toEqual([
    5,
    [0, 1, 2, 3, 4].map((n) => `size ${n}`),
  ]);
  expect(facets.size).toMatchObject({ values: [0, 1, 2, 3, 4].map((n) => ({ value: `size ${n}`, count: 300 })) });
  await house.reopen();
  expect(house.yucca.tunings.indexing('gloves')).toBeNull();
  expect((await ask()).facets).toEqual(facets);
  // Numbers as values stand in no column that nobody asked for.
  await house.yucca.tunings.patchDraft('gloves', facet('price'));
  expect(house.yucca.tunings.indexing('gloves')).not.toBeNull();
  await house.yucca.tunings.indexing('gloves')?.ended;
  expect((await ask()).facets.price).toMatchObject({ more: true });
});
