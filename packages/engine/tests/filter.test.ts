import { completeTuning } from '@yucca/contract';
import fc from 'fast-check';
import { FilterError, parseFilter, search, SearchRequestError } from '../src/index.ts';
import { generationOf } from './arbitraries.ts';

const records = [
  { id: '1', name: 'Agave', price: 12, tags: ['blue', 'dry'], added: '2026-05-01', ok: true, 'odd name': 'x' },
  { id: '2', name: "O'Hara rose", price: 30.5, tags: [], added: '2026-05-01T18:30:00Z', ok: false },
  { id: '3', name: 'agave', price: 'on request', supplier: { id: 's1' }, added: '2026-06-02', note: null },
];
const tuning = completeTuning({ search: [{ field: 'name' }] });
const found = (filter: string): string[] =>
  search(generationOf(records, tuning, [2]), tuning, { filter }).results.map(({ id }) => id);

test.each([
  ["name = 'Agave'", ['1']],
  ["NAME = 'Agave' or name like 'ag%'".replace('NAME', 'name'), ['1', '3']],
  ["name = 'O''Hara rose'", ['2']],
  ['price between 10 and 20', ['1']],
  ['price NOT BETWEEN 10 AND 20', ['2', '3']],
  ['20 < price', ['2']],
  ["tags = 'dry' AND ok = TRUE", ['1']],
  ['ok = false', ['2']],
  ["tags <> 'blue'", ['1']],
  ['tags IS NULL', ['2', '3']],
  ['NOT price < 20', ['2', '3']],
  ["supplier.id IN ('s1', 's2')", ['3']],
  ["NOT supplier.id = 's2'", ['3']],
  ['"odd name" = \'x\'', ['1']],
  ["added = DATE('2026-05-01')", ['1', '2']],
  ["added > TIMESTAMP('2026-05-01T12:00:00Z')", ['2', '3']],
  ["name LIKE '_gave'", ['1', '3']],
  ['note IS NULL AND (ok IS NOT NULL OR NOT (price > 0))', ['1', '2', '3']],
  ['TRUE', ['1', '2', '3']],
])('%s', (filter, ids) => {
  expect(found(filter)).toEqual(ids);
});

test.each([
  ["colr = 'x'", 'unknown field "colr" at 1:1'],
  ["nmae = 'x'", 'unknown field "nmae", did you mean "name"? at 1:1'],
  ['price >\n  cheap', 'a value is expected, not “cheap”; put text in single quotes at 2:3'],
  ['(price > 1', '“)” is expected, not “the end” at 1:11'],
  ["name = 'open", "the text that begins with ' is not closed at 1:8"],
  ['price', 'a comparison such as =, <, IN or IS NULL is expected, not “the end” at 1:6'],
  ['price > 1 price', 'AND, OR or the end is expected, not “price” at 1:11'],
  ["added = DATE('soon')", '“soon” is not a date; write it like 2026-05-01 at 1:14'],
  ['', 'a condition is expected at 1:1'],
  ['price ? 1', '“?” means nothing here at 1:7'],
])('%s is refused with its place', (filter, message) => {
  const run = (): unknown => search(generationOf(records, tuning), tuning, { filter: filter || ' ' });
  expect(run).toThrow(SearchRequestError);
  expect(run).toThrow(filter === '' ? 'a condition is expected at 1:2' : message);
});

test('nesting has a limit, and so has length', () => {
  expect(() => parseFilter(`${'('.repeat(64)}TRUE${')'.repeat(64)}`)).not.toThrow();
  expect(() => parseFilter(`${'('.repeat(65)}TRUE${')'.repeat(65)}`)).toThrow('nested more than 64 deep');
  expect(() => parseFilter(`${'NOT '.repeat(65)}TRUE`)).toThrow(FilterError);
  expect(() => parseFilter(`name = '${'x'.repeat(4_100)}'`)).toThrow('longer than 4096');
});

test('whatever is written, it is read or refused, and nothing else', () => {
  const piece = fc.oneof(
    fc.constantFrom(
      'AND',
      'or',
      'NOT',
      '(',
      ')',
      '=',
      '<>',
      'price',
      "'a'",
      '12',
      'IS',
      'NULL',
      'IN',
      ',',
      'LIKE',
      'DATE',
      '"',
      "'",
    ),
    fc.string({ maxLength: 4 }),
  );
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 12 }), (pieces) => {
      try {
        parseFilter(pieces.join(' '));
      } catch (error) {
        expect(error).toBeInstanceOf(FilterError);
      }
    }),
    { numRuns: 1000 },
  );
});
