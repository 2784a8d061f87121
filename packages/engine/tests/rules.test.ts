import fc from 'fast-check';
import type { FieldRule, RecordJson } from '@yucca/contract';
import { applyRules, EffectCounter, isCoerced, proposeRules, coerce } from '../src/rules/index.ts';

const read = (as: FieldRule['as'], value: unknown, separator?: string): unknown =>
  coerce({ field: 'f', as, ...(separator === undefined ? {} : { separator }) }, value);

test.each([
  ['1987', 1987],
  ['1987*', 1987],
  ['c. 1987', 1987],
  ['.097', 0.097],
  ['-.5', -0.5],
  ['$.50', 0.5],
  [',5', 0.5],
  ['No.5', 5],
  ['before 1910', 1910],
  ['€ 1,234.50', 1234.5],
  ['1.234,5 kg', 1234.5],
  ['1 234,5', 1234.5],
  ['12,5', 12.5],
  ['12,500', 12500],
  ['1,234,567', 1234567],
  ['-3', -3],
  ['−3', -3],
  ['1e3', 1000],
  ['1987/88', '1987/88'],
  ['10-20', '10-20'],
  ['unknown', 'unknown'],
  ['', ''],
])('%j read as a number is %j', (text, value) => {
  expect(read('number', text)).toBe(value);
});

test.each([
  ['2026-05-01', '2026-05-01'],
  ['2026/5/1', '2026-05-01'],
  ['1.5.2026', '2026-05-01'],
  ['31/12/2026', '2026-12-31'],
  ['12/31/2026', '2026-12-31'],
  ['5/1/2026', '5/1/2026'],
  ['5/5/2026', '2026-05-05'],
  ['1 May 2026', '2026-05-01'],
  ['May 1, 2026', '2026-05-01'],
  ['30 Feb 2026', '30 Feb 2026'],
  ['2026-13-01', '2026-13-01'],
  ['2026-05-01 10:30', '2026-05-01T10:30'],
  ['soon', 'soon'],
])('%j read as a date is %j', (text, value) => {
  expect(read('date', text)).toBe(value);
});

test('booleans, lists, JSON, text', () => {
  expect(['yes', 'No', 'TRUE', '0', 'maybe', 1, 2].map((value) => read('boolean', value))).toEqual([
    true,
    false,
    true,
    false,
    'maybe',
    true,
    2,
  ]);
  expect(read('list', 'a, b,,c')).toEqual(['a', 'b', 'c']);
  expect(read('list', 'a|b,c', '|')).toEqual(['a', 'b,c']);
  expect([read('json', '[1,{"a":2}]'), read('json', '{oops'), read('json', '12')]).toEqual([
    [1, { a: 2 }],
    '{oops',
    '12',
  ]);
  expect([read('text', 12), read('text', true), read('text', null)]).toEqual(['12', 'true', null]);
});

test('rules reach nested fields and lists, and leave the record they were given alone', () => {
  const record = {
    id: '1',
    makers: [{ year: '1987*' }, { year: 5 }, 'odd'],
    'a.b': '3',
    a: { b: '4' },
    tags: ['x, y'],
  };
  const before = JSON.stringify(record);
  const rules: FieldRule[] = [
    { field: 'makers.year', as: 'number' },
    { field: 'a.b', as: 'number' },
    { field: 'tags', as: 'list' },
  ];
  expect(applyRules(record, rules)).toEqual({
    id: '1',
    makers: [{ year: 1987 }, { year: 5 }, 'odd'],
    'a.b': 3,
    a: { b: 4 },
    tags: ['x, y'],
  });
  expect(JSON.stringify(record)).toBe(before);
  const same = { id: '1', other: 'x' };
  expect(applyRules(same, rules)).toBe(same);
});

test('expansion twice changes nothing more, whatever comes', () => {
  const leaf = fc.oneof(
    fc.string(),
    fc.double(),
    fc.boolean(),
    fc.constant(null),
    fc.constantFrom('1,5', 'yes', '2026/5/1', '[1]', 'a, b'),
  );
  const record = fc.dictionary(
    fc.constantFrom('a', 'b', 'a.b', '__proto__'),
    fc.oneof(leaf, fc.array(leaf), fc.dictionary(fc.constantFrom('b', 'c'), leaf)),
  );
  const rule = fc.record({
    field: fc.constantFrom('a', 'b', 'a.b', '__proto__'),
    as: fc.constantFrom('number', 'boolean', 'date', 'list', 'json', 'text') as fc.Arbitrary<FieldRule['as']>,
  });
  fc.assert(
    fc.property(record, rule, (given, one) => {
      const once = applyRules(given as RecordJson, [one]);
      // JSON inside JSON opens a level at a time.
      if (one.as !== 'json') expect(applyRules(once, [one])).toEqual(once);
      expect(Object.keys(once)).toEqual(Object.keys(given));
      expect(({} as { polluted?: unknown }).polluted).toBeUndefined();
    }),
  );
});

test('what a rule would do is counted by records', () => {
  const counter = new EffectCounter({ field: 'year', as: 'number' });
  [{ year: 1 }, { year: '2*' }, { year: 'unknown' }, {}, { year: ['3', 'x'] }].forEach((record, i) =>
    counter.add(`r${i}`, record),
  );
  expect(counter.finish()).toEqual({
    holding: 4,
    changes: 2,
    unreadable: 2,
    examples: [
      { id: 'r1', before: '2*', after: 2 },
      { id: 'r2', before: 'unknown', after: null },
      { id: 'r4', before: '3', after: 3 },
      { id: 'r4', before: 'x', after: null },
    ],
  });
});

test('columns of a table: what every value fits is proposed, names made of digits stay text', () => {
  const rows = Array.from({ length: 20 }, (_, i) => ({
    zip: `0${1000 + i}`,
    price: `${i}.50`,
    offer: i % 2 ? 'yes' : 'no',
    added: `${i + 1}.5.2026`,
    iso: `2026-05-${10 + i}`,
    colours: ['red', 'white', 'red|white', 'white|blue'][i % 4]!,
    address: `${i} High Street, Thornwick`,
    note: `A plant, number ${i}, that grows`,
    cells: '["a"]',
    mixed: i % 9 === 3 ? 'unknown' : String(i),
    empty: '',
  }));
  const found = proposeRules(rows, Object.keys(rows[0]!)).map(({ rule }) => rule);
  expect(found).toEqual([
    { field: 'price', as: 'number' },
    { field: 'offer', as: 'boolean' },
    { field: 'added', as: 'date' },
    { field: 'colours', as: 'list', separator: '|' },
    { field: 'cells', as: 'json' },
  ]);
  for (const rule of found)
    expect(rows.every((row) => isCoerced(rule, coerce(rule, (row as Record<string, string>)[rule.field])))).toBe(true);
});
