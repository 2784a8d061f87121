import type { RecordJson } from '@yucca/contract';
import { ProblemError } from '@yucca/kit';
import { createTestClient } from '../src/testing.ts';

const records: RecordJson[] = Array.from({ length: 30 }, (_, i) => ({
  id: `p${i}`,
  name: `${['Fern', 'Lavender', 'Rose'][i % 3]} number ${i}`,
  colour: ['red', 'white'][i % 2]!,
}));
const client = createTestClient(
  {
    plants: {
      records,
      tuning: { search: [{ field: 'name' }], facets: [{ name: 'colour', field: 'colour' }] },
    },
    notes: { records: [{ text: 'No key here' }] },
  },
  { today: '2026-05-01' },
);

test('searches as a server does: typos, marks, facets, pages; the same each time but for the id', async () => {
  const request = { q: 'lavendar', facets: ['*'], size: 2, page: 2, select: { colour: ['white'] } };
  const answer = await client.search('plants', request);
  expect(answer).toMatchObject({ total: 5, page: 2, timing: { engineMs: 0, totalMs: 0 } });
  expect(answer.results.map(({ id }) => id)).toEqual(['p13', 'p19']);
  expect(answer.results[0]!.marks).toEqual({ '/name': [[0, 8]] });
  expect(answer.facets.colour).toMatchObject({ kind: 'values', values: [{ value: 'red', count: 5 }, { value: 'white', count: 5, selected: true }] }); // prettier-ignore
  const again = await client.search('plants', request);
  expect(again).toEqual({ ...answer, queryId: again.queryId });
  expect(again.queryId).not.toBe(answer.queryId);
});

test('completions, values of a facet, several searches at once, a collection without a tuning or a key', async () => {
  expect((await client.suggest('plants', 'lav', 3)).suggestions.length).toBeGreaterThan(0);
  expect((await client.facetValues('plants', 'colour', 'wh', {})).values).toMatchObject([{ value: 'white', count: 15 }]); // prettier-ignore
  const [found, missing] = await client.multiSearch([
    { collection: 'notes', q: 'key' },
    { collection: 'nothing', q: 'key' },
  ]);
  expect(found).toMatchObject({ total: 1, results: [{ id: '1' }] });
  expect(missing).toMatchObject({ status: 404, detail: 'The test has no collection “nothing”; it has plants, notes.' });
});

test('refuses what a server refuses, with a problem', async () => {
  await expect(client.search('nothing', {})).rejects.toThrow(ProblemError);
  await expect(client.search('constructor', {})).rejects.toMatchObject({ problem: { status: 404 } });
  await expect(client.page('shop')).rejects.toMatchObject({ problem: { status: 404 } });
  await expect(client.search('plants', { filter: 'colour = ' })).rejects.toMatchObject({ problem: { status: 422 } });
  const gone = new AbortController();
  gone.abort();
  await expect(client.search('plants', {}, gone.signal)).rejects.toMatchObject({ name: 'AbortError' });
});
