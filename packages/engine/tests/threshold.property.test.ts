import { completeTuning, LIMITS, type RecordJson, type Tuning } from '@yucca/contract';
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
    maker: `m${Math.floor(next() ** 2 * 4)}`,
    ...(next() < 0.1 ? {} : { model: `${Math.floor(next() * 900)}` }),
  }));
}

const RECORDS = makeRecords(7, 9_000);
const common = fc.constantFrom(...VOCABULARY.slice(0, 3));
const phrase = fc.tuple(common, common).map(([first, second]) => `"${first} ${second}"`);
const word = fc.oneof(fc.constantFrom(...VOCABULARY), fc.constantFrom('b', 'r', 'n', 'ba', 'rx', 'bora', 'tale'));
const query = fc
  .array(fc.oneof({ weight: 9, arbitrary: word }, { weight: 4, arbitrary: phrase }), { minLength: 1, maxLength: 3 })
  .map((words) => words.join(' '));

const base = completeTuning({ search: [{ field: 'name', weight: 4 }, { field: 'care' }] });
const { signals } = completeTuning({ signals: [{ field: 'sales' }] });
const grouped = completeTuning({ group: { field: 'maker' }, facets: [{ name: 'model', field: 'model' }] });
const planned = { ...base, signals, group: grouped.group, facets: grouped.facets };
const inOrder = generationOf(RECORDS, planned, [3_000]);
// As after changes: a changed record stands behind the others, but keeps its place in record order.
const changed = generationOf(RECORDS, planned, [], (versionId) =>
  versionId % 7 === 0 ? versionId / 7 : 20_000 + versionId,
);

const tuned = fc.record({
  signalShare: fc.constantFrom(0, 0.2, 1),
  signals: fc.constantFrom(signals, []),
  require: fc.constantFrom('all' as const, 'any' as const),
});
const tuningOf = ({ require, ...rest }: typeof tuned extends fc.Arbitrary<infer T> ? T : never): Tuning => ({
  ...base,
  ...rest,
  words: { ...base.words, require },
});

/** A page that holds every result: so many are wanted that none is left out early. */
const all = { size: LIMITS.resultWindow };

test('the best results chosen early are the best of all', () => {
  const page = fc.constantFrom(1, 3);
  fc.assert(
    fc.property(query, tuned, page, fc.constantFrom(inOrder, changed), (q, rules, number, generation) => {
      const tuning = tuningOf(rules);
      const quick = search(generation, tuning, { q, size: 20, page: number });
      const whole = search(generation, tuning, { q, ...all });
      expect(quick.total).toBe(whole.results.length);
      const expected = whole.results.slice(20 * (number - 1), 20 * number);
      expect(quick.results.map(({ id }) => id)).toEqual(expected.map(({ id }) => id));
    }),
    runs(60),
  );
});

test('groups found early are those of all results', () => {
  const group = fc.constantFrom({ field: 'maker', keep: 1 }, { field: 'model', keep: 1 }, { field: 'model', keep: 3 });
  fc.assert(
    fc.property(query, tuned, group, fc.constantFrom(inOrder, changed), (q, rules, rule, generation) => {
      const tuning = tuningOf(rules);
      const whole = search(generation, tuning, { q, ...all });
      const counts = new Map<string, number>();
      const familyOf = ({ id, record }: (typeof whole.results)[number]): string => String(record[rule.field] ?? id);
      const expected = whole.results.filter((result) => {
        const count = (counts.get(familyOf(result)) ?? 0) + 1;
        counts.set(familyOf(result), count);
        return count <= rule.keep;
      });
      const found = search(generation, { ...tuning, group: rule }, { q, size: 10 });
      expect(found.results.map(({ id }) => id)).toEqual(expected.slice(0, 10).map(({ id }) => id));
      expect(found.total).toBe(expected.length);
      const told = new Set<string>();
      for (const result of found.results) {
        const family = familyOf(result);
        const more = Math.max(0, counts.get(family)! - rule.keep);
        expect(result.others ?? 0).toBe(told.has(family) ? 0 : more);
        told.add(family);
      }
    }),
    runs(40),
  );
});
