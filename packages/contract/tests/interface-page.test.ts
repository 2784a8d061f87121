import { interfacePage, type InterfaceDocument, type PageParts } from '../src/index.ts';

const card = { title: 'name', picture: null, text: 'care', number: 'price', detail: null };
const parts: PageParts = {
  ...{ slug: 'shop', title: 'Plants', records: 7, key: 'id', geo: null, card },
  facets: [
    { name: 'pet_safe', kind: 'values', label: 'Safe for pets', field: 'pet_safe' },
    { name: 'price', kind: 'numbers', label: 'Price', field: 'price' },
  ],
  sorts: [
    { name: 'cheap', label: 'Cheapest' },
    { name: 'new', label: 'Newest' },
  ],
  others: { guides: { card: { ...card, title: 'heading' }, slug: 'reading', key: 'id' } },
};
const page = (document: Partial<InterfaceDocument> = {}) => interfacePage({ collection: 'plants', ...document }, parts);

test('a design that says nothing is the page of its collection', () => {
  expect(page()).toEqual({
    ...{ slug: 'shop', title: 'Plants', collection: 'plants', all: 7, layout: 'cards', card, geo: null, at: '/s/shop' },
    ...{
      facets: parts.facets.map(({ name, kind, label }) => ({ name, kind, label })),
      sorts: parts.sorts,
      pageSize: 24,
      paging: 'pages',
      currency: null,
      thing: 'Thing',
    },
    ...{ places: [], columns: 3, filters: 'left', density: 'roomy', header: { name: 'Plants', links: [] }, theme: {} },
    ...{ locale: 'en', languages: ['en'], dir: 'ltr', texts: {} },
    autocomplete: [
      { from: 'past', label: 'Asked before', size: 4 },
      { from: 'viewed', label: 'Looked at before', size: 4 },
      { from: 'values', label: 'Go on with', size: 4, collection: 'plants', card, at: '/s/shop' },
      { from: 'records', label: 'Plants', size: 5, collection: 'plants', card, at: '/s/shop' },
      { from: 'popular', label: 'Popular now', size: 5, collection: 'plants', card, at: '/s/shop' },
    ],
  });
});

test('in another language, its own names are called what they are called there', () => {
  const german = { ...{ locale: 'de', languages: ['en', 'de'], dir: 'ltr' as const }, texts: { search: 'Suchen' } };
  const names: Record<string, string> = { Plants: 'Pflanzen', 'Asked before': 'Schon gesucht', Home: 'Start' };
  const design = { collection: 'plants', header: { links: [{ label: 'Home', href: '/' }] } };
  const made = interfacePage(design, parts, { ...german, label: (name) => names[name] ?? name });
  expect(made).toMatchObject({
    ...german,
    title: 'Pflanzen',
    header: { name: 'Pflanzen', links: [{ label: 'Start' }] },
  });
  expect(made.autocomplete.map(({ label }) => label)).toEqual(
    ['Schon gesucht', 'Looked at before', 'Go on with', 'Pflanzen', 'Popular now'], // prettier-ignore
  );
});

test('what it names and is not there is left out, in whatever order the rest is', () => {
  const made = page({
    facets: ['price', 'gone', { name: 'pet_safe', control: 'steps', label: 'Pets' }, 'toString'],
    sorts: ['new', 'gone'],
    autocomplete: [
      { from: 'records', label: 'Guides', collection: 'guides' },
      { from: 'records', label: 'Gone', collection: 'gone' },
      { from: 'records', label: 'Odd', collection: 'toString' },
    ],
    card: { number: null },
  });
  // Steps are for numbers: values are shown as usual.
  expect(made.facets).toEqual([
    { name: 'price', kind: 'numbers', label: 'Price' },
    { name: 'pet_safe', kind: 'values', label: 'Pets' },
  ]);
  expect(made.sorts.map(({ name }) => name)).toEqual(['new']);
  expect(made.autocomplete).toEqual([
    {
      from: 'records',
      label: 'Guides',
      size: 4,
      collection: 'guides',
      card: parts.others.guides!.card,
      at: '/s/reading',
    },
  ]);
  expect(made.card).toEqual({ ...card, number: null });
});
