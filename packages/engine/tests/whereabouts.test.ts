import { completeTuning, type SearchRequest, type TuningDocument, type Whereabouts } from '@yucca/contract';
import fc from 'fast-check';
import { search, typoExamples, whereabouts } from '../src/index.ts';
import { generationOf, queryText, recordList, runs, someSelection, tuningDocument } from './arbitraries.ts';

const records = [
  { id: '1', name: 'Fuchsia magellanica', care: 'Keep moist.', colour: 'red', family: 'a', pos: { lat: 51, lng: 0 } },
  { id: '2', name: 'Fuchsia procumbens', care: 'Creeps.', colour: 'white', family: 'a', pos: { lat: 58, lng: 0 } },
  { id: '3', name: 'Agave americana', care: 'Full sun.', colour: 'blue', family: 'b' },
  { id: '4', name: 'Age of roses', care: 'A book.', colour: 'red', family: 'c' },
];
const document: TuningDocument = {
  search: [{ field: 'name' }, { field: 'care' }],
  facets: [{ name: 'colour', field: 'colour' }],
  geo: 'pos',
};
function find(id: string, request: SearchRequest, more: TuningDocument = {}, forcedFilter?: string): Whereabouts {
  const tuning = completeTuning({ ...document, ...more });
  return whereabouts(generationOf(records, tuning, [2]), tuning, request, id, {
    today: '2026-06-01',
    ...(forcedFilter && { forcedFilter }),
  });
}
const reasons = (...args: Parameters<typeof find>) => find(...args).reasons;

test('a record among the results has a place and its explanation', () => {
  const found = find('2', { q: 'fuchsia' });
  expect(found).toMatchObject({ place: 2, total: 2, reasons: [] });
  expect(found.result!.why!.parts[0]).toMatchObject({ word: 'fuchsia', how: 'exact' });
});

test('a word it does not hold is named, with the one it holds that comes nearest', () => {
  expect(reasons('1', { q: 'fushia moist' }, { typos: { enabled: false } })).toEqual([
    {
      kind: 'word',
      word: 'fushia',
      typosAllowed: 0,
      nearest: { text: 'fuchsia', field: 'name', typos: 2, begins: false },
    },
  ]);
  expect(reasons('3', { q: 'zzzzz' })).toEqual([{ kind: 'word', word: 'zzzzz', typosAllowed: 1, nearest: null }]);
  // With one word enough, a word that is missing keeps nothing out.
  expect(find('1', { q: 'fuchsia zzzzz' }, { words: { require: 'any' } }).place).toBe(1);
});

test('everything else that keeps a record out is named too, all at once', () => {
  expect(reasons('9', { q: 'fuchsia' })).toEqual([{ kind: 'absent' }]);
  expect(reasons('1', { q: 'fuchsia' }, {}, "colour = 'blue'")).toEqual([{ kind: 'absent' }]);
  expect(
    reasons('1', {
      q: 'fuchsia -moist',
      filter: "colour = 'blue'",
      select: { colour: ['white'] },
      near: { lat: 58, lng: 0, withinM: 1000 },
    }),
  ).toEqual([
    { kind: 'filter' },
    { kind: 'near' },
    { kind: 'choice', facet: 'colour' },
    { kind: 'excluded', word: 'moist' },
  ]);
  const placements = [{ name: 'sold-out', when: { query: 'fuchsia' }, hide: ['1'] }];
  expect(reasons('1', { q: 'fuchsia' }, { placements })).toEqual([{ kind: 'hidden', placement: 'sold-out' }]);
  expect(reasons('2', { q: 'fuchsia' }, { group: { field: 'family' } })).toEqual([{ kind: 'group', field: 'family' }]);
});

test('it agrees with the search, whatever is asked', () => {
  fc.assert(
    fc.property(recordList, tuningDocument, queryText, someSelection, (list, tuning, q, select) => {
      const generation = generationOf(list, tuning, [Math.floor(list.length / 2)]);
      const request = { q, select, size: 200 };
      const { results, total } = search(generation, tuning, { ...request, explain: true }, { today: '2026-06-01' });
      const ids = results.map(({ id }) => id);
      for (const id of new Set(list.map((record) => String(record.id)))) {
        const found = whereabouts(generation, tuning, request, id, { today: '2026-06-01' });
        const at = ids.indexOf(id);
        expect([found.place, found.total]).toEqual([at === -1 ? null : at + 1, total]);
        expect(found.result?.why).toEqual(results[at]?.why);
        expect(found.reasons.length > 0).toBe(at === -1);
      }
    }),
    runs(150),
  );
});

test('a word that stands nowhere gets the nearest spelling when nothing is found, further off than typos go', () => {
  const tuning = completeTuning(document);
  const ask = (q: string, context = {}) =>
    search(generationOf(records, tuning), tuning, { q }, context).understood.words;
  expect(ask('fuhcsai')[0]!.as).toEqual([]);
  expect(ask('fuhcsai')[0]!.nearest).toBe('fuchsia');
  expect(ask('fuhcsai', { forcedFilter: "colour = 'blue'" })[0]!.nearest).toBeUndefined();
  expect(ask('qqqqqqqq')[0]!.nearest).toBeUndefined();
});

test('typo rules show what they let in and keep out, on the words of the data', () => {
  const before = completeTuning({ ...document, typos: { enabled: false } });
  const after = completeTuning({ ...document, typos: { oneFrom: 3, twoFrom: 5 } });
  const generation = generationOf(records, before);
  const { gained, lost, gainedCount, lostCount } = typoExamples(generation, before, after);
  expect(gained).toContainEqual({ typed: 'agave', as: 'age', typos: 2, records: 1 });
  expect([lost, lostCount]).toEqual([[], 0]);
  expect(typoExamples(generation, after, before)).toMatchObject({ gained: [], lostCount: gainedCount });
  expect(typoExamples(generation, after, after).tried).toBe(0);
});
