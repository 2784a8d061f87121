import { interfaceChanges, type InterfaceDocument } from '../src/index.ts';

const sentences = (before: Partial<InterfaceDocument>, after: Partial<InterfaceDocument>): string[] =>
  interfaceChanges({ collection: 'plants', ...before }, { collection: 'plants', ...after }).map(
    ({ sentence }) => sentence,
  );

test('what differs between two designs of a page, in sentences', () => {
  expect(sentences({}, {})).toEqual([]);
  expect(sentences({}, { columns: 4 })).toEqual(['Columns: as usual → 4']);
  expect(sentences({ columns: 4 }, {})).toEqual(['Columns: 4 → as usual']);
  expect(sentences({ card: { title: 'name' } }, { card: { title: 'name', number: null } })).toEqual([
    'Result number: as usual → nothing',
  ]);
  expect(sentences({}, { theme: { light: { accent: '#123456' }, corner: 0 } })).toEqual([
    'Theme light accent: as usual → #123456',
    'Theme corner: as usual → 0',
  ]);
});

test('lists say what came, went, changed and moved', () => {
  expect(sentences({}, { facets: ['colour', 'price'] })).toEqual(['Filters: as usual → “colour”, “price”']);
  expect(
    sentences(
      { facets: ['colour', 'price', 'light'] },
      { facets: ['price', { name: 'colour', folded: true }, 'water'] },
    ),
  ).toEqual([
    'Filter added: “water”',
    'Filter removed: “light”',
    'Filter “colour” folded: as usual → yes',
    'Filter: new order, “price”, “colour”, “water”',
  ]);
  const section = { from: 'records' as const, label: 'Plants' };
  expect(sentences({ autocomplete: [section] }, { autocomplete: [{ ...section, size: 9 }] })).toEqual([
    'Section “Plants” size: as usual → 9',
  ]);
  expect(sentences({ autocomplete: [section] }, { autocomplete: [] })).toEqual(['Section removed: “Plants”']);
  // A document that says the same in other words is another document, and nothing is kept back.
  expect(sentences({ facets: ['price'] }, { facets: [{ name: 'price' }] })).toEqual(['Filters: “price” → “price”']);
});
