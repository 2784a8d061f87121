import { completeTuning, type RecordJson } from '@yucca/contract';
import fc from 'fast-check';
import { firstOf } from '../src/facets/order.ts';
import { search } from '../src/index.ts';
import { circle, nearest } from '../src/geo/circle.ts';
import { buildTree } from '../src/geo/kd-tree.ts';
import { distanceM } from '../src/geo/geo-point.ts';
import { DocSet } from '../src/sets/doc-set.ts';
import { generationOf, runs } from './arbitraries.ts';

const tuning = completeTuning({
  search: [{ field: 'name' }],
  geo: 'at',
  sorts: [
    { name: 'size', label: 'Size', by: [{ field: 'size', order: 'asc' }] },
    {
      name: 'kind',
      label: 'Kind',
      by: [
        { field: 'kind', order: 'desc' },
        { field: 'size', order: 'asc' },
      ],
    },
  ],
});

// Few sizes and kinds: at the end of a page hundreds of records tie.
const records = Array.from({ length: 2_400 }, (_, i): RecordJson => {
  const mixed = Math.imul(i + 1, 2_654_435_761) >>> 0;
  return {
    id: `r${i}`,
    name: mixed % 3 === 0 ? 'red rose' : 'rose',
    ...(mixed % 11 === 0 ? {} : { size: mixed % 5 }),
    ...(mixed % 7 === 0 ? {} : { kind: ['a', 'b', 'c'][mixed % 3] }),
    ...(mixed % 13 === 0 ? {} : { at: { lat: ((mixed % 1_700) - 850) / 10, lng: ((mixed % 3_590) - 1_795) / 10 } }),
  };
});
const inOne = generationOf(records, tuning);
const inTwo = generationOf(records, tuning, [900]);

const sizeOf = ({ size }: RecordJson): number => (size === undefined ? Infinity : Number(size));
/** As a sort puts texts: greater first here, those without any last. */
const kindOf = ({ kind }: RecordJson): number => (kind === undefined ? Infinity : -String(kind).charCodeAt(0));

test.each([
  ['size', [sizeOf]],
  ['kind', [kindOf, sizeOf]],
])('a page sorted by %s is the one that sorting all records gives, however many tie', (sort, keys) => {
  const everything = [...records.keys()].sort((a, b) => {
    for (const key of keys) {
      const [x, y] = [key(records[a]!), key(records[b]!)];
      if (x !== y) return x - y;
    }
    return a - b;
  });
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 12 }), fc.constantFrom(1, 7, 60, 200), (page, size) => {
      for (const generation of [inOne, inTwo]) {
        const { results } = search(generation, tuning, { sort, page, size });
        expect(results.map(({ id }) => id)).toEqual(
          everything.slice((page - 1) * size, page * size).map((i) => `r${i}`),
        );
      }
    }),
    runs(20),
  );
});

test('what ties in a named sort stands by its relevance', () => {
  const { results, total } = search(inOne, tuning, { q: 'red', sort: 'size', size: 200 });
  expect(results.map(({ record }) => sizeOf(record))).toEqual(
    results.map(({ record }) => sizeOf(record)).sort((a, b) => a - b),
  );
  expect(total).toBe(records.filter(({ name }) => name === 'red rose').length);
  const orders = results.filter(({ record }) => sizeOf(record) === 0).map(({ id }) => Number(id.slice(1)));
  expect(orders).toEqual([...orders].sort((a, b) => a - b));
});

test('the nearest are the nearest, among many as among few, and those without a position come last', () => {
  const position = fc.record({ lat: fc.integer({ min: -89, max: 89 }), lng: fc.integer({ min: -179, max: 179 }) });
  fc.assert(
    fc.property(
      position,
      fc.constantFrom('', 'red'),
      fc.constantFrom(3, 50, 200),
      fc.constantFrom(1, 9, 50),
      (near, q, size, page) => {
        fc.pre(page * size <= 10_000);
        const metres = (record: RecordJson): number =>
          record.at === undefined ? Infinity : distanceM(near, record.at as { lat: number; lng: number });
        const expected = [...records.keys()]
          .filter((i) => q === '' || records[i]!.name === 'red rose')
          .sort((a, b) =>
            metres(records[a]!) === metres(records[b]!) ? a - b : metres(records[a]!) - metres(records[b]!),
          );
        const { results } = search(inOne, tuning, { q, near, sort: 'distance', size, page });
        expect(results.map(({ id }) => id)).toEqual(expected.slice((page - 1) * size, page * size).map((i) => `r${i}`));
      },
    ),
    runs(30),
  );
});

test('a circle holds what is within its distance, whole parts of the map and single places, over poles and date line', () => {
  const lats = Float64Array.from({ length: 3_000 }, (_, i) => ((i * 7_919) % 1_801) / 10 - 90);
  const lngs = Float64Array.from({ length: 3_000 }, (_, i) => ((i * 104_729) % 3_601) / 10 - 180);
  const tree = Uint32Array.from(lats.keys());
  buildTree(tree, lngs, lats);
  const position = fc.record({
    lat: fc.double({ min: -90, max: 90, noNaN: true }),
    lng: fc.double({ min: -180, max: 180, noNaN: true }),
  });
  const withinM = fc.oneof(fc.integer({ min: 1, max: 20_100_000 }), fc.constantFrom(1_000_000, 10_000_000, 20_015_000));
  fc.assert(
    fc.property(position, withinM, fc.integer({ min: 1, max: 400 }), (middle, within, count) => {
      const metres = Array.from(lats, (lat, i) => distanceM(middle, { lat, lng: lngs[i]! }));
      expect([...circle({ lats, lngs, tree }, middle, within).list()]).toEqual(
        metres.flatMap((one, doc) => (one <= within ? [doc] : [])),
      );
      const among = DocSet.of(
        3_000,
        Array.from({ length: 1_000 }, (_, i) => 3 * i),
      );
      const found = nearest({ lats, lngs, tree }, middle, among, count)!;
      expect(found.count()).toBeGreaterThanOrEqual(count);
      const furthest = Math.max(...Array.from(found.list(), (doc) => metres[doc]!));
      for (let doc = 0; doc < 3_000; doc += 3) if (metres[doc]! < furthest) expect(found.has(doc)).toBe(true);
    }),
    runs(60),
  );
  expect(nearest({ lats, lngs, tree }, { lat: 0, lng: 0 }, DocSet.of(3_000, [1, 2]), 3)).toBeNull();
});

test('the first of a list are those that stand first when all are put in order', () => {
  const item = fc.record({ rank: fc.nat(6), at: fc.nat() });
  fc.assert(
    fc.property(fc.array(item, { maxLength: 40 }), fc.nat(45), (all, size) => {
      let compared = 0;
      const compare = (a: { rank: number }, b: { rank: number }): number => (compared++, a.rank - b.rank);
      // Of equals those that come first, as a sort that is stable has it.
      expect(firstOf(all, size, compare)).toEqual([...all].sort((a, b) => a.rank - b.rank).slice(0, size));
      const already = [...all].sort((a, b) => a.rank - b.rank);
      compared = 0;
      firstOf(already, 3, compare);
      expect(compared).toBeLessThanOrEqual(all.length + 6);
    }),
    runs(200),
  );
});
