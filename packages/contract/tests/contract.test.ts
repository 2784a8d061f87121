import { completeTuning, isName, readableName } from '../src/index.ts';

test('names', () => {
  expect(['plants', 'a', 'a-1'].every(isName)).toBe(true);
  expect(['', '1a', '-a', 'Plants', 'a_b', 'ä', `a${'b'.repeat(63)}`].some(isName)).toBe(false);
});

test('an empty document means every default', () => {
  expect(completeTuning({})).toMatchObject({
    search: [],
    typos: {
      enabled: true,
      oneFrom: 4,
      twoFrom: 8,
      firstLetter: true,
      numbers: false,
      exactFields: [],
      exactWords: [],
    },
    facets: [],
    show: ['*'],
  });
});

test('a facet is called by its name until it has a label', () => {
  const { facets } = completeTuning({
    facets: [
      { name: 'pet_safe', field: 'pet_safe' },
      { name: 'c', field: 'colour', label: 'Colour', match: 'all' },
    ],
  });
  expect(facets.map(({ label, match, size }) => [label, match, size])).toEqual([
    ['Pet safe', 'any', 20],
    ['Colour', 'all', 20],
  ]);
});

test.each([
  ['height_cm', 'Height cm'],
  ['flowerMonths', 'Flower months'],
  ['supplier.name', 'Supplier name'],
  ['id', 'Id'],
  ['MPAA Rating', 'MPAA Rating'],
  ['US_Gross', 'US Gross'],
  ['IMDBRating', 'IMDB rating'],
  ['größeInCm', 'Größe in cm'],
  ['__', '__'],
  ['maxURL', 'Max URL'],
  ['vitaminC', 'Vitamin C'],
])('%s reads as %s', (field, expected) => {
  expect(readableName(field)).toBe(expected);
});
