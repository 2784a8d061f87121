import fc from 'fast-check';
import { addressMap, EMPTY_QUERY, prefixed, type PathFacet } from '../src/index.ts';

const facets = [
  { name: 'category', kind: 'tree' as const },
  { name: 'colour', kind: 'values' as const },
];
const shop: PathFacet = { base: '/shop', facet: 'category', separator: ' > ' };
const map = addressMap(facets, shop);

/** What a browser makes of a written address. */
function visited(address: string): { pathname: string; search: string } {
  const { pathname, search } = new URL(address, 'https://shop.example');
  return { pathname, search };
}

const level = fc.oneof(
  fc.constantFrom(
    'Outdoor',
    'Half-hardy annuals',
    'A ~ b',
    '.',
    '..',
    '...',
    'a/b',
    'a?b#c',
    '%2F',
    'größe',
    '-',
    '~',
    ' ',
  ),
  fc.string({ unit: 'grapheme', minLength: 1 }),
);
const value = fc.array(level, { minLength: 1, maxLength: 4 }).map((levels) => levels.join(' > '));

test('a value in the path is read back the same, whatever it holds', () => {
  fc.assert(
    fc.property(value, fc.boolean(), (category, withColour) => {
      const select = { category: [category], ...(withColour && { colour: ['red'] }) };
      const query = { ...EMPTY_QUERY, q: 'rose', select };
      expect(map.read(visited(map.write(query, { pathname: '/elsewhere' }))).query).toEqual(query);
    }),
    { numRuns: 1000 },
  );
});

test('paths read well, and what does not fit in one goes into the query string', () => {
  const write = (...category: string[]): string =>
    map.write({ ...EMPTY_QUERY, select: { category } }, { pathname: '/' });
  expect(write('Outdoor > Half-hardy annuals')).toBe('/shop/Outdoor/Half~-hardy-annuals');
  expect(write('Indoor', 'Outdoor')).toBe('/shop?category=Indoor,Outdoor');
  expect(write('Outdoor > ')).toBe('/shop?category=Outdoor+%3E+');
  expect(map.write(EMPTY_QUERY, { pathname: '/shop/Indoor' }, ['lens=1'])).toBe('/shop?lens=1');
  expect(map.read({ pathname: '/shop/%E0%A4', search: '?q=a&x=1' })).toEqual({
    query: { ...EMPTY_QUERY, q: 'a' },
    kept: ['x=1'],
  });
  expect(map.read({ pathname: '/shopping/Indoor', search: '' }).query).toEqual(EMPTY_QUERY);
  // The query string wins: it may have been typed.
  expect(map.read({ pathname: '/shop/Indoor', search: '?category=Bulbs' }).query.select).toEqual({
    category: ['Bulbs'],
  });
});

test('without a path all of it stays where the page is', () => {
  expect(addressMap(facets).write({ ...EMPTY_QUERY, q: 'a' }, { pathname: '/s/plants' })).toBe('/s/plants?q=a');
});

test('several searches share an address, each in parameters of its own', () => {
  fc.assert(
    fc.property(fc.string(), fc.string(), value, fc.boolean(), (left, right, category, inPath) => {
      const [a, b] = [prefixed(inPath ? map : addressMap(facets), 'left'), prefixed(addressMap(facets), 'r&=.')];
      const [one, two] = [
        { ...EMPTY_QUERY, q: left, select: { category: [category] } },
        { ...EMPTY_QUERY, q: right, page: 3 },
      ];
      let at = visited('/shop?ref=letter&q=theirs');
      at = visited(a.write(one, at, a.read(at).kept));
      at = visited(b.write(two, at, b.read(at).kept));
      const clean = (text: string): string => text.toWellFormed();
      expect(a.read(at).query).toEqual({ ...one, q: clean(left), select: { category: [clean(category)] } });
      expect(b.read(at).query).toEqual({ ...two, q: clean(right) });
      expect(new URLSearchParams(at.search).get('ref')).toBe('letter');
      expect(new URLSearchParams(at.search).get('q')).toBe('theirs');
      // What one gives up the others keep.
      at = visited(a.write(EMPTY_QUERY, at, a.read(at).kept));
      expect(a.read(at).query).toEqual(EMPTY_QUERY);
      expect(b.read(at).query).toEqual({ ...two, q: clean(right) });
    }),
  );
});
