import { House, lines } from './house';

let house: House;
beforeAll(async () => {
  house = await new House().open();
  const { collections, tunings } = house.yucca;
  await collections.create({ name: 'plants', title: 'Plants' });
  await collections.create({ name: 'guides', title: 'Guides' });
  await tunings.replaceDraft('plants', {
    facets: [
      { name: 'colour', field: 'colour' },
      { name: 'price', field: 'price', kind: 'numbers' },
    ],
    sorts: [{ name: 'cheap', label: 'Cheapest', by: [{ field: 'price' }] }],
    geo: 'position',
    hide: ['secret'],
  });
  await tunings.publish('plants', null);
  const plants = [
    {
      id: 'P-1',
      name: 'Dog rose',
      text: 'A rose for hedges and for birds in winter.',
      colour: 'pink',
      price: 9,
      secret: 'x',
    },
  ];
  await house.load('plants', lines(plants), 'application/x-ndjson');
});
afterAll(() => house.leave());

test('a collection has a page before anybody has made one', () => {
  const page = house.yucca.interfaces.page('plants');
  expect(page).toMatchObject({
    slug: 'plants',
    title: 'Plants',
    collection: 'plants',
    all: 1,
    layout: 'cards',
    paging: 'pages',
    at: '/s/plants',
    geo: 'position',
  });
  expect(page.card.title).toBe('name');
  expect(page.facets.map(({ name }) => name)).toEqual(['colour', 'price']);
  expect(page.sorts).toEqual([{ name: 'cheap', label: 'Cheapest' }]);
  expect(page.autocomplete.map(({ from }) => from)).toEqual(['past', 'viewed', 'values', 'records', 'popular']);
  expect(() => house.yucca.interfaces.page('nowhere')).toThrow('nowhere');
});

test('an interface says what its page is made of; what it leaves out follows from the collection', () => {
  const { interfaces } = house.yucca;
  interfaces.create({ slug: 'reading', collection: 'guides', title: 'Reading' });
  interfaces.create({
    slug: 'nursery',
    title: 'Nursery',
    collection: 'plants',
    facets: ['price', 'colour'],
    card: { text: null },
    paging: 'more',
    autocomplete: [
      { from: 'past', label: 'Before' },
      { from: 'records', label: 'Guides', collection: 'guides', size: 2 },
    ],
  });
  const page = interfaces.page('nursery');
  expect(page).toMatchObject({ title: 'Nursery', paging: 'more', pageSize: 24, at: '/s/nursery' });
  expect(page.facets.map(({ name }) => name)).toEqual(['price', 'colour']);
  expect([page.card.title, page.card.text]).toEqual(['name', null]);
  // Records of another collection are shown on that collection's own page.
  expect(page.autocomplete).toEqual([
    { from: 'past', label: 'Before', size: 4 },
    expect.objectContaining({ collection: 'guides', size: 2, at: '/s/reading' }),
  ]);
});

test('what a page could not be made of is refused with the place', () => {
  const { interfaces } = house.yucca;
  expect(() => interfaces.create({ slug: 'nursery', collection: 'plants' })).toThrow('already');
  expect(() => interfaces.create({ slug: 'guides', collection: 'plants' })).toThrow('is a collection');
  expect(() => interfaces.create({ slug: 'x', collection: 'nothing' })).toThrow('/collection');
  const problem = {
    collection: 'plants',
    facets: ['colour', 'size'],
    autocomplete: [{ from: 'records' as const, label: 'A', collection: 'b' }],
  };
  expect(() => interfaces.put('nursery', problem)).toThrow(/\/facets\/1.*size.*\/autocomplete\/0\/collection/);
  expect(() => interfaces.put('nowhere', { collection: 'plants' })).toThrow('nowhere');
});

test('a facet or a collection that goes away is left out of the page, and comes back with it', async () => {
  const { collections, interfaces, tunings } = house.yucca;
  await tunings.replaceDraft('plants', { facets: [{ name: 'colour', field: 'colour' }] });
  await tunings.publish('plants', null);
  expect(interfaces.page('nursery').facets.map(({ name }) => name)).toEqual(['colour']);
  collections.remove('guides');
  expect(interfaces.page('nursery').autocomplete.map(({ from }) => from)).toEqual(['past']);
  expect(() => interfaces.page('reading')).toThrow('guides');
});

test('an interface is there after a restart, until it is taken away', async () => {
  await house.reopen();
  const { interfaces } = house.yucca;
  expect(interfaces.list().map(({ slug }) => slug)).toEqual(['nursery', 'reading']);
  interfaces.remove('nursery');
  expect(() => interfaces.page('nursery')).toThrow('nursery');
  expect(() => interfaces.remove('nursery')).toThrow('nursery');
});

test('a record is shown with the fields that visitors may see', async () => {
  const { records, tunings } = house.yucca;
  await tunings.replaceDraft('plants', { hide: ['secret'] });
  await tunings.publish('plants', null);
  expect(await records.shown('plants', 'P-1')).not.toHaveProperty('secret');
  await expect(records.shown('plants', 'P-9')).rejects.toThrow('P-9');
});
