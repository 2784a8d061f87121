import fc from 'fast-check';
import { isRange, parseAddress, printAddress, type AddressFacet, type Query } from '../src/index.ts';

const facetName = fc.oneof(
  fc.constantFrom('colour', 'page', 'q', 'facet.page', 'größe', 'a=b&c'),
  fc.string({ minLength: 1, unit: 'grapheme' }),
); // a facet may be called anything
const value = fc.oneof(
  fc.constantFrom('red', 'red,white', '\\', 'a\\,b\\\\', 'a+b', '100%', 'A > B', ' ', '&', '='),
  fc.string({ minLength: 1, unit: 'grapheme' }),
);

const number = fc.oneof(fc.integer({ min: -1000, max: 1000 }), fc.constantFrom(2.5, -0.25));
const range = fc.oneof(fc.record({ min: number }), fc.record({ max: number }), fc.record({ min: number, max: number }));
const choice = fc.oneof(
  fc.uniqueArray(value, { minLength: 1, maxLength: 4 }).map((list) => [...list].sort()),
  range,
);

const query: fc.Arbitrary<Query> = fc.record({
  q: fc.oneof(
    fc.constantFrom('agave', 'snake plant', '100% wool & silk', '“à la”', '+'),
    fc.string({ unit: 'grapheme' }),
  ),
  select: fc.dictionary(facetName, choice, { maxKeys: 4, noNullPrototype: true }),
  sort: fc.constantFrom(null, 'price-low', 'new'),
  near: fc.option(
    fc
      .tuple(
        fc.integer({ min: -90_000, max: 90_000 }),
        fc.integer({ min: -180_000, max: 180_000 }),
        fc.option(fc.integer({ min: 1, max: 20_000_000 })),
      )
      .map(([lat, lng, withinM]) => ({ lat: lat / 1000, lng: lng / 1000, ...(withinM === null ? {} : { withinM }) })),
  ),
  page: fc.integer({ min: 1, max: 10_000 }),
});

const nameOf = (facet: AddressFacet): string => (typeof facet === 'string' ? facet : facet.name);

test('what is printed is read back the same', () => {
  fc.assert(
    fc.property(query, (asked) => {
      const facets = Object.entries(asked.select).map(([name, chosen]): AddressFacet => {
        return { name, kind: isRange(chosen) ? 'numbers' : 'values' };
      });
      const ends = facets.filter((facet) => Object.hasOwn(asked.select, `${nameOf(facet)}.min`));
      fc.pre(ends.length === 0);
      expect(parseAddress(printAddress(asked), facets)).toEqual({ query: asked, kept: [] });
    }),
    { numRuns: 1000 },
  );
});

test('the order in which choices were made does not show in the address', () => {
  const one = { q: 'a', select: { b: ['2', '1'], a: ['x'] }, sort: null, near: null, page: 1 };
  const other = { q: 'a', select: { a: ['x'], b: ['1', '2'] }, sort: null, near: null, page: 1 };
  expect(printAddress(one)).toBe(printAddress(other));
  expect(printAddress(one)).toBe('q=a&a=x&b=1,2');
});

test('parameters of others are kept as they were', () => {
  const { query: read, kept } = parseAddress('?utm_source=a%20b&q=rose&colour=red&lens', ['colour']);
  expect(read).toEqual({ q: 'rose', select: { colour: ['red'] }, sort: null, near: null, page: 1 });
  expect(printAddress(read, kept)).toBe('q=rose&colour=red&utm_source=a%20b&lens');
});

test('what a form without JavaScript sends is read too', () => {
  expect(parseAddress('?q=rose&colour=red&colour=white&page=', ['colour']).query).toEqual({
    q: 'rose',
    select: { colour: ['red', 'white'] },
    sort: null,
    near: null,
    page: 1,
  });
});

test('nonsense in an address reads as the nearest sense', () => {
  expect(parseAddress('?page=-3&q=%E0%A4%A', []).query).toEqual({
    q: '%E0%A4%A',
    select: {},
    sort: null,
    near: null,
    page: 1,
  });
  expect(parseAddress('?page=banana&&=&colour=,', ['colour']).query).toEqual({
    q: '',
    select: {},
    sort: null,
    near: null,
    page: 1,
  });
});

test('ranges read well, by one parameter or by two as a form sends them', () => {
  const facets: AddressFacet[] = [
    { name: 'height', kind: 'numbers' },
    { name: 'added', kind: 'dates' },
    { name: 'colour', kind: 'values' },
  ];
  const select = (search: string) => parseAddress(search, facets).query.select;
  expect(select('?height=30..120')).toEqual({ height: { min: 30, max: 120 } });
  expect(select('?height=-2.5..&added=2026-05..2026-06-10')).toEqual({
    height: { min: -2.5 },
    added: { min: '2026-05', max: '2026-06-10' },
  });
  expect(select('?height.min=&height.max=40')).toEqual({ height: { max: 40 } });
  expect(select('?height.min=&height.max=&colour.min=3')).toEqual({});
  expect(select('?height=..&colour=1..2')).toEqual({ colour: ['1..2'] });
  expect(printAddress({ q: '', select: { height: { min: 30 } }, sort: 'price-low', near: null, page: 2 })).toBe(
    'height=30..&sort=price-low&page=2',
  );
});
