import { completeTuning, facetValues, type RecordJson, type SearchRequest } from '@yucca/contract';
import fc from 'fast-check';
import { search, type Generation } from '../src/index.ts';
import { countIn } from '../src/facets/known-counts.ts';
import { DocSet } from '../src/sets/doc-set.ts';
import { Results } from '../src/sets/results.ts';
import { generationOf, runs } from './arbitraries.ts';

const KINDS = ['herb', 'shrub', 'tree', 'herb', 'herb', ''];
const RECORDS: RecordJson[] = Array.from({ length: 400 }, (_, i) => ({
  id: `r${i}`,
  name: `${['rose', 'mint', 'rosemary', 'fern'][i % 4]!} ${i % 9}`,
  kind: KINDS[i % 6]!,
  uses: [['tea', 'salad', 'scent'][i % 3]!, ['tea', 'dye'][i % 2]!],
  place: ['Outdoor > Beds', 'Outdoor > Pots', 'Indoor'][i % 3]!,
  ...(i % 5 === 0 ? {} : { added: `202${i % 4}-0${1 + (i % 9)}-11` }),
  price: (i * 7) % 60,
}));
const TUNING = completeTuning({
  search: [{ field: 'name' }],
  facets: [
    { name: 'kind', field: 'kind' },
    { name: 'uses', field: 'uses', match: 'all' },
    { name: 'place', field: 'place', kind: 'tree' },
    { name: 'added', field: 'added', kind: 'dates', by: 'month' },
    { name: 'price', field: 'price', kind: 'numbers' },
  ],
});

/** The same generation with some documents gone, over the same segments: what is remembered of them is used again. */
function without(generation: Generation, gone: ReadonlySet<number>): Generation {
  let first = 0;
  const segments = generation.segments.map(({ segment, dead }) => {
    const docs = Array.from({ length: segment.docs }, (_, doc) => doc).filter((doc) => gone.has(first + doc));
    first += segment.docs;
    return { segment, dead: dead.with(docs, (bytes) => new ArrayBuffer(bytes)) };
  });
  return { number: generation.number + 1, segments };
}

test('counts that are remembered with a word stay right while records go, choices are made and pages are hidden', () => {
  const generation = generationOf(RECORDS, TUNING, [250]);
  const query = fc.constantFrom('', 'r', 'ro', 'rose', 'rosemary', 'mint 3', 'm', 'rosemery', 'absent');
  const select = fc.constantFrom<NonNullable<SearchRequest['select']>>(
    {},
    {},
    { kind: ['herb'] },
    { uses: ['tea', 'salad'] },
    { place: ['Outdoor'] },
  );
  const gone = fc.uniqueArray(fc.nat({ max: RECORDS.length - 1 }), { maxLength: 200 });
  fc.assert(
    fc.property(query, select, gone, fc.boolean(), (q, choices, lost, hides) => {
      const tuning = hides
        ? {
            ...TUNING,
            placements: completeTuning({
              placements: [{ name: 'hide', when: { is: 'contains', query: '' }, hide: ['r4', 'r8'] }],
            }).placements,
          }
        : TUNING;
      const request = { q, select: choices, facets: ['*'], size: 5 };
      const absent = new Set(lost);
      const left = RECORDS.filter((_, i) => !absent.has(i));
      const fresh = search(generationOf(left, TUNING), tuning, request);
      const again = search(without(generation, absent), tuning, request);
      expect(again.total).toBe(fresh.total);
      expect(again.facets).toEqual(fresh.facets);
      expect(again.results.map(({ id }) => id)).toEqual(fresh.results.map(({ id }) => id));
    }),
    runs(150),
  );
});

test('a list of values that is cut short is the beginning of the whole list', () => {
  const facet = (size: number, order: 'count' | 'value') =>
    completeTuning({ search: [{ field: 'name' }], facets: [{ name: 'name', field: 'name', size, order }] });
  const whole = generationOf(RECORDS, facet(5, 'count'));
  const parted = generationOf(RECORDS, facet(5, 'count'), [100, 330]);
  const query = fc.constantFrom('', 'r', 'rose', 'fern 3', 'absent');
  const size = fc.integer({ min: 1, max: 40 });
  fc.assert(
    fc.property(
      query,
      size,
      fc.constantFrom('count', 'value'),
      fc.constantFrom(whole, parted),
      (q, most, order, on) => {
        const request = { q, facets: ['*'] };
        const all = search(on, facet(1_000, order), request).facets.name!;
        const some = search(on, facet(most, order), request).facets.name!;
        expect(facetValues(some)).toEqual(facetValues(all).slice(0, most));
        expect(some).toMatchObject({ more: facetValues(all).length > most });
      },
    ),
    runs(60),
  );
});

test('documents are listed once for all facets, whether their counts are remembered or not', () => {
  const generation = generationOf(RECORDS, TUNING);
  const listed = jest.spyOn(DocSet.prototype, 'list');
  const lists = (q: string, gone = new Set<number>()): number => {
    listed.mockClear();
    search(without(generation, gone), TUNING, { q, facets: ['*'], size: 0 });
    return listed.mock.calls.length;
  };
  try {
    // What was counted once for a word is remembered, numbers as well.
    expect([lists('rose'), lists('rose')]).toEqual([1, 0]);
    // With a record gone: all that hold the word and the one that is gone, then that one alone.
    expect([lists('mint', new Set([1])), lists('mint', new Set([1]))]).toEqual([2, 1]);
  } finally {
    listed.mockRestore();
  }
});

test('long lists of counts are remembered for sets of more documents, and not for too many of them', () => {
  const DOCS = 40_000;
  const VALUES = 15_000;
  const sets = Array.from({ length: 150 }, (_, n) => {
    const members = Array.from({ length: DOCS }, (_, doc) => doc).filter((doc) => (doc + n) % 2 !== 0);
    return DocSet.of(DOCS, members).keep();
  });
  let counted = 0;
  const column = {};
  const ask = (set: DocSet, within: DocSet): Uint32Array =>
    countIn(new Results(set, within), column, VALUES, (docs) => {
      counted += docs.length;
      const counts = new Uint32Array(VALUES);
      for (const doc of docs) counts[doc % VALUES]!++;
      return counts;
    });
  const first = ask(sets[0]!, sets[0]!);
  expect([counted, first.reduce((sum, count) => sum + count, 0)]).toEqual([20_000, 20_000]);
  expect(ask(sets[0]!, sets[0]!)).toBe(first);
  expect(counted).toBe(20_000);
  // One that lacks a few of them is told by those.
  const fewer = sets[0]!.copy().minus(DocSet.of(DOCS, [1, 3, 15_001]));
  const lacking = ask(fewer, sets[0]!);
  expect(counted).toBe(20_003);
  expect([lacking[1], lacking[3], lacking[5]]).toEqual([first[1]! - 2, first[3]! - 1, first[5]]);
  // So many that the first ones have to go; the one that is asked for again and again stays.
  for (const set of sets.slice(1)) {
    ask(set, set);
    ask(sets[0]!, sets[0]!);
  }
  expect(counted).toBe(20_003 + 149 * 20_000);
  ask(sets[1]!, sets[1]!);
  expect(counted).toBe(20_003 + 150 * 20_000);
  // A set of far fewer documents than there are values is counted each time.
  const small = DocSet.of(
    DOCS,
    Array.from({ length: 3_000 }, (_, doc) => doc),
  ).keep();
  counted = 0;
  ask(small, small);
  ask(small, small);
  expect(counted).toBe(6_000);
});
