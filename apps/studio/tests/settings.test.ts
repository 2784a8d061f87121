import type { Settings } from '@yucca/contract';
import { House, lines } from './house';

let house: House;
beforeEach(async () => {
  house = await new House().open();
  await house.yucca.collections.create({ name: 'plants', title: 'Plants' });
  await house.load('plants', lines([{ id: 1, name: 'Rose', price: '9,50' }]), 'application/x-ndjson');
});
afterEach(() => house.leave());

const put = (more: Partial<Settings>, publish = false) => {
  const { settings } = house.yucca;
  return settings.put('plants', { ...settings.get('plants'), ...more }, publish, null);
};

test('settings are what is live, and putting them back changes nothing', async () => {
  expect(house.yucca.settings.get('plants')).toMatchObject({ settings: 1, title: 'Plants', key: 'id', fieldRules: [] });
  expect(await put({})).toEqual({ changed: [], liveVersion: 1, draftChanged: false });
});

test('a tuning becomes the draft, and is published when that is asked for', async () => {
  const tuning = { search: [{ field: 'name', weight: 3 }] };
  expect(await put({ tuning })).toEqual({ changed: ['tuning'], liveVersion: 1, draftChanged: true });
  expect(house.yucca.tunings.get('plants', 'live')).not.toMatchObject(tuning);
  expect(await put({ tuning }, true)).toEqual({ changed: ['tuning'], liveVersion: 2, draftChanged: false });
  expect(house.yucca.settings.get('plants').tuning).toMatchObject(tuning);
  // The order of properties says nothing.
  expect(await put({ tuning: { search: [{ weight: 3, field: 'name' }] } }, true)).toMatchObject({ changed: [] });
});

test('title and field rules change at once', async () => {
  const fieldRules: Settings['fieldRules'] = [{ field: 'price', as: 'number' }];
  expect(await put({ title: 'All plants', fieldRules })).toMatchObject({ changed: ['title', 'fieldRules'] });
  expect(house.yucca.collections.get('plants').title).toBe('All plants');
  expect(house.yucca.fieldRules.get('plants')).toEqual(fieldRules);
});

test('settings of a collection with another key, or with a tuning that makes no sense, change nothing at all', async () => {
  const before = house.yucca.settings.get('plants');
  await expect(put({ key: 'sku', title: 'Other' })).rejects.toMatchObject({
    code: 'conflict',
    parts: [{ pointer: '/key', detail: 'must be “id”' }],
  });
  const tuning = { placements: [{ name: 'x', when: { query: 'a', is: 'exact' as const }, lift: ['price <'] }] };
  await expect(put({ tuning, title: 'Other' })).rejects.toMatchObject({ code: 'invalid' });
  expect(house.yucca.settings.get('plants')).toEqual(before);
});
