/** What a column of texts is taken for as a whole: numbers, dates, positions. */
import type { FieldRule } from '@yucca/contract';
import { applyRules, proposeRules } from '../src/rules/index.ts';

type Value = string | number | number[];
const rowsOf = (field: string, values: readonly Value[]) => values.map((value) => ({ [field]: value }));
const proposed = (field: string, values: readonly Value[], isTyped = false) =>
  proposeRules(rowsOf(field, values), [field], { isTyped });
const read = (rule: FieldRule, values: readonly Value[]) =>
  rowsOf(rule.field, values).map((row) => applyRules(row, [rule])[rule.field]);

test.each<[string, string[], Partial<FieldRule>, unknown[]]>([
  ['dollars', ['$8,000,000.00', '$12.50'], { unit: '$' }, [8_000_000, 12.5]],
  ['shares', ['13%', '7.5%'], { unit: '%' }, [13, 7.5]],
  ['feet', ['5,282 ft', '12 ft', '-11 ft'], { unit: 'ft' }, [5282, 12, -11]],
  ['without a zero', ['.097', '.25', '1.5'], {}, [0.097, 0.25, 1.5]],
  ['a decimal comma', ['48,25', '46,888', '1.234,5'], { decimal: ',' }, [48.25, 46.888, 1234.5]],
  ['thousands', ['12,500', '1,234,567'], {}, [12_500, 1_234_567]],
  ['below zero in parentheses', ['(1,200)', '350', '(7)'], {}, [-1200, 350, -7]],
  ['a minus before the currency', ['-€5', '€12', '−€3.50'], { unit: '€' }, [-5, 12, -3.5]],
  ['thin and no-break spaces', ['12\u202f500', '1\u00a0234\u00a0567', '3\u2009000'], {}, [12_500, 1_234_567, 3000]],
  ['apostrophes', ["12'500", '3’000'], {}, [12_500, 3000]],
  ['a currency in letters', ['EUR 12', 'EUR 1.250,50', 'EUR 3,5'], { unit: 'EUR', decimal: ',' }, [12, 1250.5, 3.5]],
])('a column of numbers: %s', (_, values, expected, numbers) => {
  const [proposal] = proposed('field', values);
  expect(proposal!.rule).toEqual({ field: 'field', as: 'number', ...expected });
  expect(read(proposal!.rule, values)).toEqual(numbers);
});

test('what does not fit is listed, and stays as it is', () => {
  const values = [...Array.from({ length: 60 }, (_, i) => `${i},5`), 'n/a', '?'];
  const [proposal] = proposed('height', values);
  expect(proposal).toEqual({
    rule: { field: 'height', as: 'number', decimal: ',' },
    reason: 'every value but “n/a”, “?” is a number, the comma is the decimal sign',
  });
  expect(read(proposal!.rule, values).slice(-3)).toEqual([59.5, 'n/a', '?']);
});

test.each<[string, string[]]>([
  ['numbers in two units', ['5 ft', '3 m', '4 ft', '2 m']],
  ['leading zeros', ['007', '012']],
  ['house numbers', ['12a', '12b', '3']],
  ['names with a digit', ['2D', '3D']],
  ['more than two in twenty that are none', ['1', '2', 'x', '3']],
  ['years from and to', ['1987/88', '1990/91']],
  ['numbers of parts', ['No.5', 'No.6']],
])('no column of numbers: %s', (_, values) => {
  expect(proposed('field', values).filter(({ rule }) => rule.as === 'number')).toEqual([]);
});

test('a budget never becomes a list split at its commas', () => {
  const budgets = Array.from({ length: 40 }, (_, i) => `${(i % 4) + 1},000,000`);
  expect(
    proposed('budget', [...budgets, 'unknown', 'none', 'none', 'unknown']).map(({ rule }) => rule.as),
  ).not.toContain('list');
});

test.each<[string, string[], string, string[]]>([
  ['one day above 12', ['5/1/1998', '8/28/1998'], 'M/d/yyyy', ['1998-05-01', '1998-08-28']],
  ['days first', ['5/1/1998', '28/8/1998'], 'd/M/yyyy', ['1998-01-05', '1998-08-28']],
  ['a day of the week', ['Fri, 12 Jun 1998', 'Tue, 3 Jul 2001'], 'EEE, d MMM yyyy', ['1998-06-12', '2001-07-03']],
  ['two digits of a year', ['12.06.98', '1.7.12'], 'd.M.yy', ['1998-06-12', '2012-07-01']],
  ['weeks', ['2026-W05', '2026-W53'], "RRRR-'W'II", ['2026-01-26', '2026-12-28']],
  ['hyphens and a month', ['12-Jun-98', '1-Jul-12'], 'd-MMM-yy', ['1998-06-12', '2012-07-01']],
  ['digits only', ['19980612', '20010703'], 'yyyyMMdd', ['1998-06-12', '2001-07-03']],
  ['a time as well', ['8/28/1998 10:30', '5/1/1998 9:05'], 'M/d/yyyy H:mm', ['1998-08-28T10:30', '1998-05-01T09:05']],
])('a column of dates: %s', (_, values, format, dates) => {
  const [proposal, ...others] = proposed('opened', values);
  expect([proposal!.rule, others]).toEqual([{ field: 'opened', as: 'date', format }, []]);
  expect(read(proposal!.rule, values)).toEqual(dates);
  expect(proposed('opened', values, true)[0]!.rule).toEqual(proposal!.rule);
});

test('dates that say themselves what they are need no pattern', () => {
  const values = ['Jun 12 1998', '3 July 2001', '2.8.2003'];
  const [proposal] = proposed('opened', values);
  expect(proposal!.rule).toEqual({ field: 'opened', as: 'date' });
  expect(read(proposal!.rule, values)).toEqual(['1998-06-12', '2001-07-03', '2003-08-02']);
});

test('dates that fit day and month first are asked about', () => {
  const found = proposed('opened', ['5/1/1998', '7/8/1998']);
  expect(found.map(({ rule, isDoubtful }) => [rule.format, isDoubtful])).toEqual([
    ['M/d/yyyy', true],
    ['d/M/yyyy', true],
  ]);
});

test('time since 1970 is a date where the name says time', () => {
  expect(proposed('created_at', [1_700_000_000, 1_600_000_000], true)[0]!.rule).toEqual({ field: 'created_at', as: 'date', format: 't' }); // prettier-ignore
  expect(proposed('updatedAt', ['1700000000000', '1600000000000'])[0]!.rule.format).toBe('T');
  expect(proposed('population', [1_700_000_000, 1_600_000_000], true)).toEqual([]);
  expect(read({ field: 'at', as: 'date', format: 't' }, [0, 1_700_000_000])).toEqual(['1970-01-01T00:00:00.000Z', '2023-11-14T22:13:20.000Z']); // prettier-ignore
});

test('a pattern that is none reads nothing', () => {
  expect(read({ field: 'at', as: 'date', format: 'qqqqqqq YY' }, ['2026'])).toEqual(['2026']);
});

test('JSON means its texts of plain digits', () => {
  expect(proposed('zip', ['12345', '99999'], true)).toEqual([]);
  expect(proposed('price', ['$12.50', '$3'], true)[0]!.rule).toEqual({ field: 'price', as: 'number', unit: '$' });
});

const AT = { lat: 47.2, lng: -18.4 };

test.each<[string, string, Value[], Partial<FieldRule>]>([
  ['which number cannot be a latitude', 'where', ['-118.4001, 47.2001', '-18.4, 47.2'], { order: 'lng-first' }],
  [
    'a list whose name says latitude first',
    'latlng',
    [
      [47.5, -18],
      [47.2, -18.4],
    ],
    { order: 'lat-first' },
  ],
  [
    'a list that GeoJSON would read wrongly',
    'place',
    [
      [47.5211, -118.1234],
      [47.2, -18.4],
    ],
    { order: 'lat-first' },
  ],
  ['well-known text', 'geometry', ['POINT(1.5 2.5)', 'POINT (-18.4 47.2)'], {}],
  ['degrees, minutes and seconds', 'place', [`1°30'N 2°E`, `47°12'0"N 18°24'W`], {}],
  ['halves of the earth before', 'place', ['S 6.08, E 145.39', 'N 47.2 W 18.4'], {}],
])('a column of positions: %s', (_, field, values, more) => {
  const [proposal, ...others] = proposed(field, values, true);
  expect([proposal?.rule, others]).toEqual([{ field, as: 'position', ...more }, []]);
  expect(read(proposal!.rule, values).at(-1)).toEqual(AT);
});

test('a pair that fits both ways is asked about', () => {
  const found = proposed('position', ['-6.081, 45.391', '47.2, -18.4']);
  expect(found.map(({ rule, isDoubtful }) => [rule.order, isDoubtful])).toEqual([
    ['lat-first', true],
    ['lng-first', true],
  ]);
});

test.each([
  [
    'months',
    [
      [1, 3],
      [4, 9],
    ],
  ],
  ['sizes', ['10.5, 20.5', '30.5, 40.5']],
  ['versions', ['1.2.3', '1.10.0']],
  ['telephones', ['555 123', '555 124']],
])('no positions: %s', (field, values) => {
  expect(proposed(field, values as Value[], true).filter(({ rule }) => rule.as === 'position')).toEqual([]);
});

test('a latitude and a longitude beside each other make a position of their own', () => {
  const rows = [
    { id: 'a', latitude_deg: '-6.08', longitude_deg: '145.39', start_lat: 1.5, start_lng: 2.5 },
    { id: 'b', latitude_deg: '47.2', longitude_deg: '-18.4', start_lat: 91, start_lng: 2.5 },
  ];
  const found = proposeRules(rows, Object.keys(rows[0]!));
  expect(found.filter(({ rule }) => rule.as === 'position').map(({ rule }) => rule)).toEqual([
    { field: 'position', as: 'position', from: ['latitude_deg', 'longitude_deg'] },
  ]);
  const rules = found.map(({ rule }) => rule);
  expect(applyRules(rows[1]!, rules)).toEqual({ id: 'b', latitude_deg: 47.2, longitude_deg: -18.4, start_lat: 91, start_lng: 2.5, position: AT }); // prettier-ignore
  const once = applyRules(rows[1]!, rules);
  expect(applyRules(once, rules)).toBe(once);
  expect(applyRules({ id: 'c', latitude_deg: '', longitude_deg: '1' }, rules)).toEqual({ id: 'c', latitude_deg: '', longitude_deg: 1 }); // prettier-ignore
});

test('hundreds of rules cost a record what its fields cost', () => {
  const record = Object.fromEntries(Array.from({ length: 400 }, (_, i) => [`field ${i}`, String(i)]));
  const rules = Array.from({ length: 400 }, (_, i): FieldRule => ({ field: `field ${i}`, as: 'number' }));
  expect(applyRules(record, rules)).toEqual(Object.fromEntries(Object.keys(record).map((name, i) => [name, i])));
  const ms = (work: () => void): number => {
    const start = performance.now();
    for (let i = 0; i < 100; i++) work();
    return performance.now() - start;
  };
  const plain = Math.min(...[1, 2, 3].map(() => ms(() => JSON.parse(JSON.stringify(record)))));
  const ruled = Math.min(...[1, 2, 3].map(() => ms(() => applyRules(record, rules))));
  // Five to seven times on a quiet machine; a walk for each rule would cost hundreds of times a record.
  expect(ruled).toBeLessThan(40 * plain);
});
