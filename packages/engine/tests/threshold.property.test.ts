import { completeTuning, type RecordJson } from '@yucca/contract';
import fc from 'fast-check';
import { search } from '../src/index.ts';
import { generationOf, runs } from './arbitraries.ts';

/** Words by Zipf's law, so that some stand in most records: then the best are chosen without scoring all. */
const VOCABULARY = Array.from({ length: 300 }, (_, i) => {
  const syllables = ['ba', 'ro', 'ni', 'ta', 'le', 'mu', 'ka'];
  return syllables[i % 7]! + (i < 7 ? '' : syllables[Math.floor(i / 7) % 7]!) + (i < 49 ? '' : syllables[(i * 5) % 7]!);
});

function makeRecords(seed: number, count: number): RecordJson[] {
  let state = seed;
  const next = (): number => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
  const word = (): string => VOCABULARY[Math.floor(VOCABULARY.length ** next()) - 1]!;
  const text = (most: number): string => Array.from({ length: 1 + Math.floor(next() * most) }, word).join(' ');
  return Array.from({ length: count }, (_, i) => ({
    id: `r${i}`,
    name: text(6),
    care: text(12),
    sales: Math.floor(next() ** 3 * 100),
  }));
}

const RECORDS = makeRecords(7, 16_000);
const common = fc.constantFrom(...VOCABULARY.slice(0, 3));
const phrase = fc.tuple(common, common).map(([first, second]) => `"${first} ${second}"`);
const word = fc.oneof(fc.constantFrom(...VOCABULARY), fc.constantFrom('b', 'r', 'n', 'ba', 'rx', 'bora', 'tale'));
const query = fc
  .array(fc.oneof({ weight: 9, arbitrary: word }, { weight: 2, arbitrary: phrase }), { minLength: 1, maxLength: 3 })
  .map((words) => words.join(' '));

test('the best results chosen early are the best of all', () => {
  const base = completeTuning({ search: [{ field: 'name', weight: 4 }, { field: 'care' }] });
  const plan = { ...base, signals: completeTuning({ signals: [{ field: 'sales' }] }).signals };
  const planned = { ...plan, group: { field: 'id', keep: 1 }, facets: [] };
  const inOrder = generationOf(RECORDS, planned, [3_000]);
  // As after changes: a changed record stands behind the others, but keeps its place in record order.
  const changed = generationOf(RECORDS, planned, [3_000], (rid) => (rid % 7 === 0 ? rid / 7 : 20_000 + rid));
  const require = fc.constantFrom('all' as const, 'any' as const);
  fc.assert(
    fc.property(
      query,
      fc.constantFrom(0, 0.2, 1),
      fc.boolean(),
      require,
      fc.constantFrom(1, 3),
      fc.constantFrom(inOrder, changed),
      (q, share, withSignals, rule, page, generation) => {
        const tuning = {
          ...base,
          words: { ...base.words, require: rule },
          signals: withSignals ? plan.signals : [],
          signalShare: share,
        };
        const request = { q, size: 20, page };
        const quick = search(generation, tuning, request);
        // Grouping by the key keeps every record and scores every one.
        const whole = search(generation, { ...tuning, group: { field: 'id', keep: 1 } }, request);
        expect(quick.total).toBe(whole.total);
        expect(quick.results.map(({ id }) => id)).toEqual(whole.results.map(({ id }) => id));
      },
    ),
    runs(60),
  );
});
