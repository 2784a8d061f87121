/** @jest-environment node */
import type { SearchAnswer, TuningDocument } from '@yucca/contract';
import { House, lines } from './house';

const NDJSON = 'application/x-ndjson';
let house: House;
const TUNING: TuningDocument = {
  search: [{ field: 'name' }],
  facets: [{ name: 'shop', field: 'shop' }],
  signals: [{ field: 'sales' }],
  geo: 'at',
};

beforeAll(async () => {
  house = await new House().open();
  await house.yucca.collections.create({ name: 'plants' });
  await house.yucca.tunings.replaceDraft('plants', TUNING);
  await house.yucca.tunings.publish('plants', null);
  const records = Array.from({ length: 60 }, (_, i) => ({
    id: `p${i}`,
    name: i % 2 ? `Rose ${i}` : `Fern ${i}`,
    shop: i % 3 ? 'north' : 'south',
    sales: i,
    at: [i / 10, 50],
  }));
  await house.load('plants', lines(records), NDJSON);
});
afterAll(() => house.leave());

test('the answer as text is the answer, with an id and times of its own', async () => {
  const request = { q: 'rose', facets: ['*'], explain: true, near: { lat: 50, lng: 2 } };
  const { json, timing } = await house.yucca.search.searchJson('plants', request);
  const asText = JSON.parse(json.toString()) as SearchAnswer;
  const asObject = await house.search('plants', request);
  expect({ ...asText, queryId: '', timing: null }).toEqual({ ...asObject, queryId: '', timing: null });
  expect(asText.queryId).not.toBe(asObject.queryId);
  expect(asText.timing).toEqual(timing);
  expect(asText.results[0]!.why!.signals).toBe(100);
});

test('a forced filter holds for searches, values and completions alike', async () => {
  const { search } = house.yucca;
  const forced = { forcedFilter: "shop = 'south'" };
  expect((await search.search('plants', { q: 'fern', size: 0 }, forced)).total).toBe(10);
  expect((await search.search('plants', { filter: "shop = 'north'" }, forced)).total).toBe(0);
  expect((await search.facetValues('plants', {}, 'shop', 'no', 5, forced)).values).toEqual([]);
  const { suggestions } = await search.suggest('plants', 'rose 1', 50, forced);
  expect(suggestions.every(({ id }) => Number(id!.slice(1)) % 3 === 0)).toBe(true);
});

test('completions are of the records that a filter lets through; one that is none is refused with its place', async () => {
  const { search } = house.yucca;
  const { suggestions } = await search.suggest('plants', 'rose 1', 50, {}, "shop = 'south'");
  expect(suggestions.length).toBeGreaterThan(0);
  expect(suggestions.every(({ id }) => Number(id!.slice(1)) % 3 === 0)).toBe(true);
  const both = search.suggest('plants', 'rose 1', 50, { forcedFilter: "shop = 'north'" }, "shop = 'south'");
  expect((await both).suggestions).toEqual([]);
  await expect(search.suggest('plants', 'rose', 5, {}, 'shop = ')).rejects.toMatchObject({
    code: 'invalid',
    parts: [{ pointer: '/filter' }],
  });
});

test('who has gone is not answered: before, while waiting, and in the middle', async () => {
  const { search } = house.yucca;
  const gone = new AbortController();
  gone.abort();
  await expect(search.search('plants', { q: 'rose' }, { signal: gone.signal })).rejects.toThrow('has gone');
  const leaving = new AbortController();
  const many = Array.from({ length: 12 }, () => search.search('plants', { q: 'rose' }, { signal: leaving.signal }));
  leaving.abort();
  const settled = await Promise.allSettled(many);
  expect(settled.some(({ status }) => status === 'rejected')).toBe(true);
  // The threads go on with the next question.
  expect((await search.search('plants', { q: 'rose', size: 0 })).total).toBe(30);
});

test('what is asked for and not there is told with its place', async () => {
  const { search } = house.yucca;
  const refused = (request: object): Promise<unknown> =>
    search.search('plants', request).catch((error: { parts: unknown }) => error.parts);
  expect(await refused({ filter: 'shpo = 1' })).toEqual([
    { pointer: '/filter', detail: 'unknown field "shpo", did you mean "shop"? at 1:1' },
  ]);
  expect(await refused({ sort: 'newest' })).toMatchObject([{ pointer: '/sort' }]);
  await expect(search.keysWhere('plants', 'sales >')).rejects.toThrow('a value is expected');
  expect(await search.keysWhere('plants', 'sales < 3')).toEqual(['p0', 'p1', 'p2']);
});

test('a draft with another language, columns or tags is searched before it is published', async () => {
  await house.yucca.tunings.replaceDraft('plants', {
    ...TUNING,
    language: 'de',
    html: ['name'],
    group: { field: 'shop' },
  });
  await house.yucca.tunings.indexing('plants')?.ended;
  const draft = await house.search('plants', { q: '', version: 'draft' });
  expect(draft.total).toBe(2);
  expect(draft.results.map(({ others }) => others)).toEqual([39, 19]);
  expect((await house.search('plants', { q: '' })).total).toBe(60);
  await house.yucca.tunings.discardDraft('plants');
});

test('what would answer is another thing on another day: a placement may have a date', () => {
  const now = jest.spyOn(Date, 'now').mockReturnValue(Date.parse('2100-05-01T23:59:59Z'));
  try {
    const before = house.yucca.search.state('plants');
    expect(house.yucca.search.state('plants')).toBe(before);
    now.mockReturnValue(Date.parse('2100-05-02T00:00:00Z'));
    expect(house.yucca.search.state('plants')).not.toBe(before);
  } finally {
    now.mockRestore();
  }
});
