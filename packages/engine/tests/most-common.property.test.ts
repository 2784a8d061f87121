import { completeTuning, facetValues, type RecordJson } from '@yucca/contract';
import fc from 'fast-check';
import { search } from '../src/index.ts';
import { generationOf, runs } from './arbitraries.ts';

const value = fc.oneof(
  { weight: 6, arbitrary: fc.integer({ min: 0, max: 60 }).map((n) => `value ${Math.floor(n * n * 0.02)}`) },
  { weight: 1, arbitrary: fc.constantFrom<string | number | boolean>('', 1, '1', true, 'true', 'Value 1') },
);
const records = fc
  .array(fc.oneof(value, fc.array(value, { maxLength: 3 }), fc.constant(undefined)), { minLength: 1, maxLength: 80 })
  .map((list) =>
    list.map((v, i): RecordJson => ({ id: `r${i}`, name: i % 3 ? 'rose' : 'fern', ...(v === undefined ? {} : { v }) })),
  );

const tuningOf = (size: number, order: 'count' | 'value' = 'count') =>
  completeTuning({ search: [{ field: 'name' }], facets: [{ name: 'v', field: 'v', size, order }] });

test('a short list is the beginning of the long one, whatever the segments, with what is chosen', () => {
  fc.assert(
    fc.property(
      records,
      fc.array(fc.integer({ min: 1, max: 70 }), { maxLength: 3 }),
      fc.integer({ min: 1, max: 6 }),
      fc.constantFrom('', 'rose', 'fern'),
      fc.constantFrom<string[]>([], ['value 0'], ['1', 'absent']),
      fc.constantFrom('count' as const, 'value' as const),
      (list, cuts, size, q, chosen, order) => {
        const generation = generationOf(list, tuningOf(size), cuts);
        const facetOf = (most: number) => {
          const select: Record<string, string[]> = chosen.length > 0 ? { v: chosen } : {};
          const facet = search(generation, tuningOf(most, order), { q, select, facets: ['v'] }).facets.v!;
          return { values: facetValues(facet), missing: facet.missing, more: 'more' in facet && facet.more };
        };
        const [short, long] = [facetOf(size), facetOf(1000)];
        const texts = (v: unknown): string[] =>
          [v]
            .flat()
            .filter((one) => one !== undefined && one !== '')
            .map(String);
        const matching = list.filter(({ name }) => q === '' || name === q);
        const counts = new Map<string, number>();
        for (const { v } of matching)
          for (const text of new Set(texts(v))) counts.set(text, (counts.get(text) ?? 0) + 1);
        expect(
          Object.fromEntries(long.values.filter(({ count }) => count > 0).map((one) => [one.value, one.count])),
        ).toEqual(Object.fromEntries(counts));
        expect(long.missing).toBe(matching.filter(({ v }) => texts(v).length === 0).length);
        expect(short.values).toEqual(long.values.filter(({ selected }, rank) => rank < size || selected));
        expect(short.missing).toBe(long.missing);
        expect(short.more).toBe(short.values.length < long.values.length);
      },
    ),
    {
      ...runs(100),
      // What is left out is more, whatever choices are listed that find nothing.
      examples: [
        [
          [
            { id: 'r0', name: 'fern', v: 'value 0' },
            { id: 'r1', name: 'rose', v: 'value 0' },
            { id: 'r2', name: 'rose', v: 'value 1' },
          ],
          [],
          1,
          '',
          ['1', 'absent'],
          'count',
        ],
      ],
    },
  );
});

test('of thousands that tie the first are listed, and it is said that there are more', () => {
  const list = Array.from({ length: 4_000 }, (_, i): RecordJson => ({
    id: `r${i}`,
    name: 'rose',
    v: `v${String(i).padStart(4, '0')}`,
  }));
  list.push({ id: 'twice', name: 'rose', v: 'v3999' });
  const facet = search(generationOf(list, tuningOf(3)), tuningOf(3), { q: 'rose', facets: ['v'] }).facets.v!;
  expect(facetValues(facet).map(({ value: text, count }) => [text, count])).toEqual([
    ['v3999', 2],
    ['v0000', 1],
    ['v0001', 1],
  ]);
  expect('more' in facet && facet.more).toBe(true);
});
