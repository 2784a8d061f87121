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
    ' > ',
    ' >  > a > ',
    '> '.repeat(300),
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
          { select: { name: [filter, facet, `${filter} > ${facet}`] }, facets: ['*'] },
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

test('any filter over any field names is answered, or refused with a pointer', () => {
  const quoted = nasty.map((name) => `"${name.replaceAll('"', '""')}"`);
  const literal = fc.oneof(
    nasty.map((text) => `'${text.replaceAll("'", "''")}'`),
    fc.double().map(String),
    fc.constantFrom('TRUE', '1e999', "DATE('2026-05-01')", '-0', '00012'),
  );
  const sign = fc.constantFrom('=', '<>', '<', '<=', '>', '>=');
  const comparison = fc.oneof(
    fc.tuple(quoted, sign, literal).map((parts) => parts.join(' ')),
    fc.tuple(quoted, literal, literal).map(([name, low, high]) => `${name} BETWEEN ${low} AND ${high}`),
    fc.tuple(quoted, fc.array(literal, { minLength: 1 })).map(([name, list]) => `${name} IN (${list.join(', ')})`),
    fc.tuple(quoted, nasty).map(([name, text]) => `${name} LIKE '${text.replaceAll("'", "''")}'`),
    quoted.map((name) => `NOT ${name} IS NULL`),
  );
  fc.assert(
    fc.property(
      fc.array(fc.dictionary(nasty, fc.oneof(nasty, fc.double({ noNaN: true }), fc.array(nasty))), { minLength: 1 }),
      fc.array(comparison, { minLength: 1, maxLength: 6 }),
      fc.constantFrom(' AND ', ' OR ', ' AND NOT ', ' OR NOT '),
      (records, comparisons, join) => {
        const generation = generationOf(
          records.map((fields, i) => ({ ...fields, id: `r${i}` })),
          tuning,
        );
        try {
          const { total } = search(generation, tuning, { filter: comparisons.join(join) });
          expect(total).toBeLessThanOrEqual(records.length);
        } catch (error) {
          expect(error).toBeInstanceOf(SearchRequestError);
          expect(error).toHaveProperty('pointer', '/filter');
        }
      },
    ),
    runs(300),
  );
});
