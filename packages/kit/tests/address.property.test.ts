import fc from 'fast-check';
import { parseAddress, printAddress, type Query } from '../src/index.ts';

const facetName = fc.oneof(
  fc.constantFrom('colour', 'page', 'q', 'facet.page', 'größe', 'a=b&c'),
  fc.string({ minLength: 1, unit: 'grapheme' }),
); // a facet may be called anything
const value = fc.oneof(
  fc.constantFrom('red', 'red,white', '\\', 'a\\,b\\\\', 'a+b', '100%', 'A > B', ' ', '&', '='),
  fc.string({ minLength: 1, unit: 'grapheme' }),
);

const query: fc.Arbitrary<Query> = fc.record({
  q: fc.oneof(
    fc.constantFrom('agave', 'snake plant', '100% wool & silk', '“à la”', '+'),
    fc.string({ unit: 'grapheme' }),
  ),
  select: fc.dictionary(
    facetName,
    fc.uniqueArray(value, { minLength: 1, maxLength: 4 }).map((list) => [...list].sort()),
    { maxKeys: 4, noNullPrototype: true },
  ),
  page: fc.integer({ min: 1, max: 10_000 }),
});

test('what is printed is read back the same', () => {
  fc.assert(
    fc.property(query, (asked) => {
      const names = Object.keys(asked.select);
      expect(parseAddress(printAddress(asked), names)).toEqual({ query: asked, kept: [] });
    }),
    { numRuns: 1000 },
  );
});

test('the order in which choices were made does not show in the address', () => {
  const one = { q: 'a', select: { b: ['2', '1'], a: ['x'] }, page: 1 };
  const other = { q: 'a', select: { a: ['x'], b: ['1', '2'] }, page: 1 };
  expect(printAddress(one)).toBe(printAddress(other));
  expect(printAddress(one)).toBe('q=a&a=x&b=1,2');
});

test('parameters of others are kept as they were', () => {
  const { query: read, kept } = parseAddress('?utm_source=a%20b&q=rose&colour=red&lens', ['colour']);
  expect(read).toEqual({ q: 'rose', select: { colour: ['red'] }, page: 1 });
  expect(printAddress(read, kept)).toBe('q=rose&colour=red&utm_source=a%20b&lens');
});

test('what a form without JavaScript sends is read too', () => {
  expect(parseAddress('?q=rose&colour=red&colour=white&page=', ['colour']).query).toEqual({
    q: 'rose',
    select: { colour: ['red', 'white'] },
    page: 1,
  });
});

test('nonsense in an address reads as the nearest sense', () => {
  expect(parseAddress('?page=-3&q=%E0%A4%A', []).query).toEqual({ q: '%E0%A4%A', select: {}, page: 1 });
  expect(parseAddress('?page=banana&&=&colour=,', ['colour']).query).toEqual({ q: '', select: {}, page: 1 });
});
