import { completeTuning, facetValues, type RecordJson, type SearchRequest } from '@yucca/contract';
import fc from 'fast-check';
import { search } from '../src/index.ts';
import { generationOf, runs } from './arbitraries.ts';

/** A number in letters: a word with digits would be cut. */
const letters = (n: number): string => String(n).replace(/\d/g, (digit) => 'abcdefghij'[Number(digit)]!);

/** Thousands of values, half of the records without one: few results hold few of them. */
const RECORDS: RecordJson[] = Array.from({ length: 6_000 }, (_, i) => ({
  id: `r${i}`,
  name: `p${letters(i % 500)} row${letters(i % 7)}`,
  ...(i % 2 === 0 ? { maker: i % 10 === 0 ? '' : `maker ${(i * i) % 2_903}` } : {}),
  tags: Array.from({ length: i % 4 }, (_, n) => `tag ${(i * (n + 3)) % 3_001}`),
}));
const tuningOf = (size: number) =>
  completeTuning({
    search: [{ field: 'name' }],
    typos: { enabled: false },
    stems: false,
    facets: [
      { name: 'maker', field: 'maker', size },
      { name: 'tags', field: 'tags', size, match: 'all' },
    ],
  });

/** What a facet counts, from the records themselves. */
function counted(list: readonly RecordJson[], field: string): { counts: Map<string, number>; missing: number } {
  const counts = new Map<string, number>();
  let missing = 0;
  for (const record of list) {
    const values = new Set([record[field]].flat().filter((value) => value !== undefined && value !== '') as string[]);
    if (values.size === 0) missing++;
    for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  }
  return { counts, missing };
}

test('a few results are counted as all of them are, however many values there are', () => {
  const generations = [[], [4_000], [1_000, 5_500]].map((cuts) => generationOf(RECORDS, tuningOf(10), cuts));
  fc.assert(
    fc.property(
      fc.nat({ max: generations.length - 1 }),
      fc.oneof(
        fc.integer({ min: 0, max: 500 }).map((n) => `p${letters(n)}`),
        fc.constantFrom('', 'rowd', 'pb', 'absent'),
      ),
      fc.constantFrom<NonNullable<SearchRequest['select']>>({}, {}, { maker: ['maker 4'] }, { tags: ['tag 9'] }),
      fc.integer({ min: 1, max: 30 }),
      (which, q, select, size) => {
        const answer = search(generations[which]!, tuningOf(size), { q, select, facets: ['*'], size: 1 });
        const words = q === '' ? [] : [q];
        const matching = RECORDS.filter(({ name }) =>
          words.every((word) => (name as string).split(' ').some((one) => one.startsWith(word))),
        );
        for (const field of ['maker', 'tags']) {
          const others = Object.entries(select).filter(([name]) => name !== field || field === 'tags');
          const left = matching.filter((record) =>
            others.every(([name, values]) =>
              (values as string[]).every((value) => [record[name]].flat().includes(value)),
            ),
          );
          const facet = answer.facets[field]!;
          const { counts, missing } = counted(left, field);
          expect(facet.missing).toBe(missing);
          const listed = facetValues(facet);
          for (const { value, count } of listed) expect(count).toBe(counts.get(value) ?? 0);
          const most = [...counts.values()].sort((a, b) => b - a).slice(0, size);
          const found = listed.map(({ count }) => count).filter((count) => count > 0);
          expect(found.slice(0, size)).toEqual(most);
        }
      },
    ),
    runs(150),
  );
});
