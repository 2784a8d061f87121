/** Two tunings on the same visitors: pages that fit together, whatever is pinned, grouped, chosen and asked. */
import { completeTuning, type SearchRequest, type Tuning } from '@yucca/contract';
import fc from 'fast-check';
import { interleaved, search, type Generation } from '../src/index.ts';
import { generationOf, queryText, recordList, someSelection, tuningDocument } from './arbitraries.ts';

const cuts = fc.array(fc.integer({ min: 1, max: 13 }), { maxLength: 3 });
const ALL = 200;
/** A placement for every search: it pins, hides and sinks. */
const placed = fc
  .record({
    pin: fc.uniqueArray(fc.record({ id: fc.integer({ min: 0, max: 9 }).map((i) => `r${i}`), at: fc.integer({ min: 1, max: 9 }) }), { selector: ({ id }) => id, maxLength: 3 }),
    hide: fc.subarray(['r1', 'r5']),
  })
  .map((what) => completeTuning({ placements: [{ name: 'always', when: {}, ...what }] }).placements); // prettier-ignore

function pagesOf(generation: Generation, a: Tuning, b: Tuning, request: SearchRequest, seed: string, size: number) {
  const pages = [];
  for (let page = 1; page === 1 || (page - 1) * size < pages[0]!.answer.total; page++)
    pages.push(interleaved(generation, a, b, { ...request, size, page }, seed));
  return pages;
}

test('no record twice, no page empty, pins where they are, each ranking in its order', () => {
  fc.assert(
    fc.property(
      recordList,
      tuningDocument,
      tuningDocument,
      queryText,
      someSelection,
      cuts,
      fc.string({ maxLength: 8 }),
      fc.integer({ min: 1, max: 5 }),
      placed,
      placed,
      fc.constantFrom(null, null, { field: 'colour', keep: 1 }, { field: 'colour', keep: 2 }),
      (records, tuned, other, q, select, at, seed, size, livePlaced, draftPlaced, group) => {
        const first = { ...tuned, group, placements: livePlaced };
        const second = { ...other, facets: first.facets, group, placements: draftPlaced };
        const generation = generationOf(records, first, at);
        const request = { q, select };
        const lists = [first, second].map((tuning) => search(generation, tuning, { ...request, size: ALL }));
        const [live, draft] = lists.map(({ results }) => results.map(({ id }) => id)) as [string[], string[]];
        const pages = pagesOf(generation, first, second, request, seed, size);
        const { total } = pages[0]!.answer;
        expect(total).toBe(Math.max(lists[0]!.total, lists[1]!.total));
        const shown = pages.flatMap(({ answer }) => answer.results);
        const ids = shown.map(({ id }) => id);
        expect(new Set(ids).size).toBe(ids.length);
        expect(ids).toHaveLength(total);
        for (const id of ids) expect([...live, ...draft]).toContain(id);
        lists[0]!.results.forEach(({ id, pinned }, rank) => pinned && expect(ids[rank]).toBe(id));
        const teams = Object.assign({}, ...pages.map((page) => page.teams)) as Record<string, 'a' | 'b'>;
        for (const [team, list] of [['a', live], ['b', draft]] as const) {
          const ranks = ids.filter((id) => teams[id] === team).map((id) => list.indexOf(id));
          expect(ranks).not.toContain(-1);
          expect(ranks).toEqual([...ranks].sort((x, y) => x - y));
        }
        for (const { pinned, id } of lists[0]!.results) if (pinned) expect(teams[id]).toBeUndefined();
        // The same again for the same visitor.
        expect(pagesOf(generation, first, second, request, seed, size)).toEqual(pages);
      },
    ),
    { numRuns: 300 },
  ); // prettier-ignore
});

test('two tunings that rank alike answer as one of them would, and nothing counts', () => {
  fc.assert(
    fc.property(recordList, tuningDocument, queryText, fc.string({ maxLength: 8 }), (records, tuning, q, seed) => {
      const generation = generationOf(records, tuning, []);
      const request = { q, size: 3, page: 2 };
      const { answer, teams } = interleaved(generation, tuning, { ...tuning }, request, seed);
      expect(answer).toEqual(search(generation, tuning, request));
      expect(teams).toEqual({});
    }),
    { numRuns: 200 },
  );
});

test('a pin of a later page does not come before its turn', () => {
  const records = Array.from({ length: 12 }, (_, i) => ({ id: `r${i}`, name: 'fern', size: i }));
  const base = { search: [{ field: 'name' }], sorts: [], facets: [] };
  const live = completeTuning({ ...base, placements: [{ name: 'late', when: {}, pin: [{ id: 'r0', at: 9 }] }] });
  const draft = completeTuning({ ...base, placements: [{ name: 'early', when: {}, pin: [{ id: 'r0', at: 1 }] }] });
  const generation = generationOf(records, live, []);
  const pages = pagesOf(generation, live, draft, { q: 'fern' }, 'seed', 4);
  const ids = pages.flatMap(({ answer }) => answer.results.map(({ id }) => id));
  expect(ids.indexOf('r0')).toBe(8);
  expect([...ids].sort()).toEqual(records.map(({ id }) => id).sort());
});

test('heads as often as tails', () => {
  const records = [{ id: 'a', name: 'fern fern' }, { id: 'b', name: 'fern moss' }].map((one) => ({ ...one, size: one.id === 'a' ? 1 : 2 })); // prettier-ignore
  const tuned = (id: string): Tuning =>
    completeTuning({
      search: [{ field: 'name' }],
      placements: [{ name: 'sink', when: { query: 'fern', is: 'exact' }, sink: [`id = '${id}'`] }],
    });
  const [live, draft] = [tuned('a'), tuned('b')];
  const generation = generationOf(records, live, []);
  let first = 0;
  for (let visitor = 0; visitor < 2_000; visitor++) {
    const { answer, teams } = interleaved(generation, live, draft, { q: 'fern' }, `visitor ${visitor}`);
    expect(Object.keys(teams)).toHaveLength(2);
    if (teams[answer.results[0]!.id] === 'a') first++;
  }
  // Four standard deviations of a fair coin.
  expect(Math.abs(first - 1_000)).toBeLessThan(90);
});
