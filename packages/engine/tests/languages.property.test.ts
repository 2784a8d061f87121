/** In every script, engine and reference agree on what is found, in which order, and what is marked. */
import { completeTuning, type RecordJson } from '@yucca/contract';
import fc from 'fast-check';
import { search } from '../src/index.ts';
import { generationOf, runs } from './arbitraries.ts';
import { referenceSearch } from './reference/reference.ts';
import { anyText, anyWord } from './scripts.ts';

const records = fc
  .array(fc.record({ name: anyText, care: anyText, tags: fc.array(anyWord, { maxLength: 2 }) }), {
    minLength: 1,
    maxLength: 8,
  })
  .map((list) => list.map((fields, i): RecordJson => ({ id: `r${i}`, ...fields })));

const asked = fc
  .array(fc.tuple(fc.constantFrom('', '', '', '', '-'), anyWord, fc.boolean()), { minLength: 1, maxLength: 3 })
  .map((list) => list.map(([minus, word, quoted]) => minus + (quoted ? `"${word}"` : word)).join(' '));

const tuningOf = fc
  .record({
    stems: fc.boolean(),
    prefix: fc.constantFrom('last' as const, 'all' as const, 'none' as const),
    require: fc.constantFrom('all' as const, 'any' as const),
    enabled: fc.boolean(),
    exactFields: fc.subarray(['tags']),
    synonyms: fc.subarray([
      { kind: 'same' as const, words: ['植物', '🌱', 'растение'] },
      { kind: 'oneWay' as const, from: ['rose'], to: ['花屋', 'гарна роза'] },
    ]),
  })
  .map(({ stems, prefix, require, enabled, exactFields, synonyms }) =>
    completeTuning({
      search: [
        { field: 'name', weight: 6 },
        { field: 'care', weight: 2 },
        { field: 'tags', weight: 3 },
      ],
      words: { prefix, require },
      typos: { enabled, exactFields },
      stems,
      synonyms,
    }),
  );

test('sets, order and marks', () => {
  fc.assert(
    fc.property(records, tuningOf, asked, fc.constantFrom<number[]>([], [2], [1, 4]), (list, tuning, q, cuts) => {
      const answer = search(generationOf(list, tuning, cuts), tuning, { q, size: 50 });
      const expected = referenceSearch(list, tuning, { q });
      expect(answer.results.map(({ id, marks }) => ({ id, marks }))).toEqual(
        expected.results.map(({ id, marks }) => ({ id, marks })),
      );
      expect(answer.total).toBe(expected.total);
    }),
    runs(200),
  );
});
