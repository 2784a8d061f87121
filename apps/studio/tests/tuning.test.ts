import { facetValues } from '@yucca/contract';
import { House, lines } from './house';

let house: House;
beforeAll(async () => {
  house = await new House().open();
  await house.yucca.collections.create({ name: 'plants' });
  await house.load(
    'plants',
    lines([
      { id: 1, name: 'red rose', care: 'plant beside a fern', light: 'sun' },
      { id: 2, name: 'tall fern', care: 'shade', light: 'shade' },
      { id: 3, name: 'moss', light: 'shade', tags: ['soft', 'green'] },
    ]),
    'application/x-ndjson',
  );
});
afterAll(() => house.leave());

test('a draft changes nothing for visitors until it is published, in one step', async () => {
  const live = house.yucca.tunings.get('plants', 'live');
  await house.yucca.tunings.replaceDraft('plants', { ...live, search: [{ field: 'name' }] });
  await house.yucca.tunings.indexing('plants')?.ended;
  expect(await house.ids('plants', 'fern')).toEqual(['1', '2']);
  expect(await house.ids('plants', { q: 'fern', version: 'draft' })).toEqual(['2']);
  expect(house.yucca.collections.get('plants').draftChanged).toBe(true);
  const version = await house.yucca.tunings.publish('plants', 'names only');
  expect(await house.ids('plants', 'fern')).toEqual(['2']);
  expect(house.yucca.collections.get('plants')).toMatchObject({ draftChanged: false, liveVersion: version });
  expect(house.yucca.tunings.versions('plants')[0]).toMatchObject({ version, note: 'names only', live: true });
  expect(await house.yucca.tunings.publish('plants', null)).toBe(version);
});

test('a facet and a field that were not indexed are built before they are seen', async () => {
  await house.yucca.tunings.replaceDraft('plants', {
    search: [{ field: 'tags' }],
    facets: [{ name: 'tag', field: 'tags' }],
  });
  await house.yucca.tunings.indexing('plants')?.ended;
  expect(await house.ids('plants', { q: 'soft', version: 'draft' })).toEqual(['3']);
  await house.yucca.tunings.publish('plants', null);
  const answer = await house.search('plants', { q: 'soft', facets: ['tag'] });
  expect(facetValues(answer.facets.tag).map(({ value }) => value)).toEqual(['green', 'soft']);
});

test('typos can be switched off, kept out of a field, and show limits what is returned', async () => {
  await house.yucca.tunings.replaceDraft('plants', { search: [{ field: 'name' }], show: ['name'] });
  await house.yucca.tunings.publish('plants', null);
  expect(await house.ids('plants', 'mosss')).toEqual(['3']);
  expect((await house.search('plants', 'moss')).results[0]!.record).toEqual({ name: 'moss' });
  await house.yucca.tunings.patchDraft('plants', { typos: { exactFields: ['name'] } });
  await house.yucca.tunings.publish('plants', null);
  expect(await house.ids('plants', 'mosss')).toEqual([]);
});

test.each([
  [{ serach: [] }, '/serach'],
  [{ search: [{ field: 'a' }, { field: 'a' }] }, '/search/1/field'],
  [{ search: [{ weight: 2 }] }, '/search/0/field'],
  [{ search: [{ field: 'a', weight: -1 }] }, '/search/0/weight'],
  [{ typos: { oneFrom: 6, twoFrom: 3 } }, '/typos/twoFrom'],
  [{ facets: [{ name: 'x', field: 'y', kind: 'pie' }] }, '/facets/0/kind'],
  [[], ''],
  [null, ''],
])('a tuning document that does not fit is refused with a pointer: %j', async (document, pointer) => {
  const before = house.yucca.tunings.get('plants', 'draft');
  await expect(house.yucca.tunings.replaceDraft('plants', document)).rejects.toMatchObject({
    code: 'invalid',
    parts: expect.arrayContaining([expect.objectContaining({ pointer })]) as unknown,
  });
  expect(house.yucca.tunings.get('plants', 'draft')).toEqual(before);
});

test('a search that asks for what is not there is refused with a pointer', async () => {
  await expect(house.search('plants', { facets: ['colr'] })).rejects.toMatchObject({
    code: 'invalid',
    parts: [{ pointer: '/facets/0' }],
  });
  await expect(house.search('plants', { page: 600, size: 100 })).rejects.toMatchObject({
    code: 'invalid',
    parts: [{ pointer: '/page' }],
  });
  await expect(house.search('nowhere', '')).rejects.toMatchObject({ code: 'not-found' });
});

test('a draft that somebody else has changed meanwhile is not written over', async () => {
  const { collections, tunings } = house.yucca;
  await collections.create({ name: 'shared' });
  const first = tunings.tagOf(tunings.get('shared', 'draft'));
  await tunings.replaceDraft('shared', { signalShare: 0.3 }, first);
  await expect(tunings.replaceDraft('shared', { signalShare: 0.9 }, first)).rejects.toThrow('changed elsewhere');
  await expect(tunings.patchDraft('shared', { stems: false }, first)).rejects.toThrow('changed elsewhere');
  expect(tunings.get('shared', 'draft')).toEqual({ signalShare: 0.3 });
  await tunings.patchDraft('shared', { stems: false }, tunings.tagOf({ signalShare: 0.3 }));
  // Two at the same moment from the same draft: one of them is told.
  const tag = tunings.tagOf(tunings.get('shared', 'draft'));
  const both = await Promise.allSettled(
    [0.4, 0.5].map((signalShare) => tunings.replaceDraft('shared', { signalShare }, tag)),
  );
  expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
});
