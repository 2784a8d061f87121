import { completeTuning, LIMITS, type RecordJson } from '@yucca/contract';
import fc from 'fast-check';
import { FilterError, search, SearchRequestError } from '../src/index.ts';
import { generationOf, runs } from './arbitraries.ts';

const nasty = fc.oneof(
  fc.constantFrom(
    '__proto__',
    'constructor',
    'toString',
    '',
    '"',
    '""""""',
    '-',
    '--',
    '-"',
    '\ud800',
    '\u202erose',
    'a'.repeat(500),
    '%',
    "'",
  ),
  fc.string({ unit: 'binary', maxLength: 30 }),
  fc.string({ unit: 'grapheme', maxLength: 30 }),
);

const tuning = completeTuning({
  search: [{ field: 'name' }, { field: '__proto__' }],
  words: { prefix: 'all', require: 'most' },
  facets: [
    { name: '__proto__', field: '__proto__' },
    { name: 'name', field: 'name', kind: 'tree' },
  ],
  snippets: [{ field: 'name' }],
});

test('any query over any texts is answered, or refused with a pointer', () => {
  const record = fc
    .tuple(nasty, nasty)
    .map(
      ([name, odd]): RecordJson =>
        JSON.parse(`{"name":${JSON.stringify(name)},"__proto__":${JSON.stringify(odd)}}`) as RecordJson,
    );
  fc.assert(
    fc.property(
      fc.array(record, { maxLength: 6 }),
      fc.array(nasty, { maxLength: 40 }),
      nasty,
      nasty,
      (records, words, filter, facet) => {
        const generation = generationOf(
          records.map((fields, i) => ({ ...fields, id: `r${i}` })),
          tuning,
          [3],
        );
        const q = words.join(' ').slice(0, LIMITS.queryLength);
        const answer = search(generation, tuning, { q, facets: ['*'], explain: true });
        expect(answer.total).toBeLessThanOrEqual(records.length);
        for (const { record: shown, marks } of answer.results) {
          for (const [pointer, ranges] of Object.entries(marks)) {
            const source = String(new Map(Object.entries(shown)).get(pointer.slice(1)));
            for (const [start, end] of ranges) expect(end > start && end <= source.length).toBe(true);
          }
        }
        for (const request of [
          { filter: filter || '?' },
          { select: { [facet]: ['x'] } },
          { facets: [facet] },
          { sort: facet || 'x' },
        ]) {
          try {
            search(generation, tuning, request);
          } catch (error) {
            expect(error instanceof SearchRequestError || error instanceof FilterError).toBe(true);
          }
        }
      },
    ),
    runs(100),
  );
});
