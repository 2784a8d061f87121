/** A value that is the very query stands before one that holds it. */
import { completeTuning, type RecordJson, type TuningDocument } from '@yucca/contract';
import { search } from '../src/index.ts';
import { generationOf } from './arbitraries.ts';

function found(records: RecordJson[], q: string, document: TuningDocument = {}, cuts: number[] = []): string[] {
  const tuning = completeTuning({
    search: [
      { field: 'name', weight: 10 },
      { field: 'code', weight: 6 },
    ],
    ...document,
  });
  return search(generationOf(records, tuning, cuts), tuning, { q }).results.map(({ id }) => id);
}

const airports = [
  { id: 'a', name: 'JFK Memorial Field', code: 'MEM' },
  { id: 'b', name: 'New York', code: 'JFK' },
  { id: 'c', name: 'JFK', code: 'XJF' },
];
const codes = { typos: { exactFields: ['code'] } };

test('a code first, then a name, then what holds it', () => {
  expect(found(airports, 'jfk', codes)).toEqual(['b', 'c', 'a']);
  // Without codes the heavier of two names leads, by its score.
  expect(found(airports, 'jfk')).toEqual(['c', 'b', 'a']);
  for (const cut of [1, 2]) expect(found(airports, 'jfk', codes, [cut])).toEqual(['b', 'c', 'a']);
});

test('the key is a code, though it weighs little', () => {
  const records = [
    { id: '001', name: 'Zero' },
    { id: '002', name: '001 and all that' },
    { id: '0011', name: 'Another 001' },
  ];
  const document = {
    search: [
      { field: 'name', weight: 10 },
      { field: 'id', weight: 1 },
    ],
  };
  expect(found(records, '001', document)).toEqual(['001', '0011', '002']);
  // A key of some records alone is no key: the last one has another.
  const [first, second] = records;
  const others = [first!, { ...second!, sku: '002' }, { id: 'x', sku: '001', name: 'Third' }];
  const bySku = {
    search: [
      { field: 'name', weight: 10 },
      { field: 'sku', weight: 1 },
    ],
  };
  expect(found(others, '001', bySku)).toEqual(['002', 'x']);
});

test('light fields tell of what kind a record is, and do not lead', () => {
  const plants = [
    { id: 'iris', name: 'Iris', colour: 'lavender' },
    { id: 'hidcote', name: 'Lavender Hidcote', colour: 'blue' },
  ];
  const document = (weight: number) => ({
    search: [
      { field: 'name', weight: 10 },
      { field: 'colour', weight },
    ],
  });
  expect(found(plants, 'lavender', document(3))).toEqual(['hidcote', 'iris']);
  expect(found(plants, 'lavender', document(5))).toEqual(['iris', 'hidcote']);
});

test.each([
  ['ag204b', 'AG-204/B'],
  ['ag-204/b', 'AG-204/B'],
  ['wi fi', 'Wi-Fi'],
  ['snake plant', 'Snake Plant'],
  ['pere', 'Père'],
])('asked %s, %s is it', (q, name) => {
  const records = [
    { id: 'holds', name: `${q} ${q} and more`, code: 'x' },
    { id: 'is', name, code: 'y' },
  ];
  expect(found(records, q, { signals: [], ...codes })[0]).toBe('is');
});

test('of a list each value counts; two values are not one', () => {
  const records = [
    { id: 'two', name: ['snake', 'plant'] },
    { id: 'aliases', name: ['Mother-in-law’s tongue', 'Snake plant'] },
    { id: 'part', name: ['Snake', 'Snake plant pot'] },
  ];
  expect(found(records, 'snake plant')[0]).toBe('aliases');
  expect(found(records, 'snake')[0]).toBe('two');
});

test('a part of a code is not the code', () => {
  const records = [
    { id: 'part', name: '204b', code: 'x' },
    { id: 'is', name: 'the 204', code: '204' },
  ];
  expect(found(records, '204 ')).toEqual(['is', 'part']);
});

test('what a placement lifts stands above, and the explanation names the field', () => {
  const placement = {
    name: 'lifted',
    when: { is: 'exact' as const, query: 'jfk' },
    lift: ["code = 'MEM'"],
  };
  expect(found(airports, 'jfk', { ...codes, placements: [placement] })).toEqual(['a', 'b', 'c']);
  const tuning = completeTuning({
    search: [
      { field: 'name', weight: 10 },
      { field: 'code', weight: 6 },
    ],
    ...codes,
  });
  const { results } = search(generationOf(airports, tuning), tuning, { q: 'jfk', explain: true });
  expect(results.map(({ why }) => why!.whole)).toEqual([
    { field: 'code', isCode: true },
    { field: 'name', isCode: false },
    undefined,
  ]);
});
