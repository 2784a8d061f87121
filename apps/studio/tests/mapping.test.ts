/** @jest-environment node */
/** What a mapping makes of records, and how its steps are made by hand. */
import type { FeedMapping, FeedMappingStep, RecordJson } from '@yucca/contract';
import fc from 'fast-check';
import { argumentOf, stepBy, wayOf, WAYS, withArgument, type Way } from '../src/features/feeds/mapping-steps';
import { checkMapping } from '../src/server/feeds/check-source';
import { mapRecord } from '../src/server/feeds/mapping';

const SUPPLIERS: Record<string, RecordJson> = { '7': { id: '7', name: 'Fernhill', at: { town: 'Moss' } } };
const lookup = (collection: string, key: string): RecordJson | null =>
  collection === 'suppliers' ? (SUPPLIERS[key] ?? null) : null;
const map = (record: RecordJson, mapping: FeedMapping, part = false): RecordJson => mapRecord(record, mapping, lookup, part); // prettier-ignore

const CAME = {
  sku: 7,
  cost: '1.250,50',
  genus: 'Rosa',
  species: 'canina',
  colours: 'pink; white;;',
  deep: { list: ['a', 'b'] },
  supplier: 7,
  hardy: 'yes',
  added: '2026-05-04',
};

test('renamed, picked, joined, split, read, looked up, the same for all', () => {
  expect(
    map(CAME, [
      { field: 'id', from: ['/sku'], as: 'text' },
      { field: 'price', from: ['/cost'], as: 'number' },
      { field: 'name', from: ['/genus', '/species', '/absent'], join: ' ' },
      { field: 'colour', from: ['/colours'], split: ';' },
      { field: 'tags', from: ['/deep/list'], join: '+' },
      { field: 'supplier', from: ['/supplier'], lookup: { collection: 'suppliers', take: '/at/town' } },
      { field: 'hardy', from: ['/nothing', '/hardy'], as: 'boolean' },
      { field: 'shop', value: 'Quillbrook' },
      { field: 'none', from: ['/absent'] },
    ]),
  ).toEqual({
    id: '7',
    price: 1250.5,
    name: 'Rosa canina',
    colour: ['pink', 'white'],
    tags: 'a+b',
    supplier: 'Moss',
    hardy: true,
    shop: 'Quillbrook',
  });
});

test('others are kept but for those that were taken; of a change only what it names is made', () => {
  const mapping: FeedMapping = [{ field: '*' }, { field: 'price', from: ['/cost'] }, { field: 'shop', value: 'Q' }];
  expect(map({ id: 1, cost: 2, name: 'x' }, mapping)).toEqual({ id: 1, price: 2, name: 'x', shop: 'Q' });
  expect(map({ cost: null }, mapping, true)).toEqual({ price: null });
  expect(map({ name: 'y' }, mapping, true)).toEqual({ name: 'y' });
  // A member within is no whole field: the field stays.
  expect(map({ a: { b: 1 } }, [{ field: '*' }, { field: 'b', from: ['/a/b'] }])).toEqual({ a: { b: 1 }, b: 1 });
  expect(map(JSON.parse('{"__proto__":{"x":1}}') as RecordJson, [{ field: '*' }])).toHaveProperty(
    ['__proto__', 'x'],
    1,
  );
});

test.each<[FeedMappingStep, RegExp]>([
  [{ field: 'price', from: ['/genus'], as: 'number' }, /“price”: “Rosa” cannot be read as a number/],
  [{ field: 'at', from: ['/genus'], as: 'date' }, /cannot be read as a date/],
  [{ field: 'x', from: ['/genus'], lookup: { collection: 'suppliers', take: '' } }, /suppliers has no record “Rosa”/],
  [{ field: 'x', from: ['/deep'], join: ' ' }, /only texts and numbers can be joined/],
])('what cannot be made says which field: %j', (step, reason) => {
  expect(() => map(CAME, [step])).toThrow(reason);
});

test('without steps records are as they come, and “*” alone changes nothing', () => {
  fc.assert(
    fc.property(fc.dictionary(fc.string(), fc.jsonValue()), (record) => {
      expect(map(record, [])).toBe(record);
      expect(Object.entries(map(record, [{ field: '*' }]))).toEqual(Object.entries(record));
    }),
  );
});

test('steps that do not fit together are refused with their place', () => {
  for (const mapping of [[{ field: 'a' }], [{ field: 'a', from: ['/x'], value: 1 }], [{ field: '*', from: ['/x'] }], [{ field: 'a', value: 1 }, { field: 'a', value: 2 }]] as FeedMapping[])
    expect(() => checkMapping(mapping)).toThrow(/\/mapping\/\d/);
}); // prettier-ignore

test('a step by hand: every way and back, with what belongs to it', () => {
  for (const way of Object.keys(WAYS) as Way[]) expect(wayOf(stepBy({ field: 'a', from: ['/x'] }, way))).toBe(way);
  const typed = (way: Way, text: string): FeedMappingStep => withArgument(stepBy({ field: 'a', from: ['/x'] }, way), text); // prettier-ignore
  expect(typed('lookup', 'suppliers/at/town')).toEqual({ field: 'a', from: ['/x'], lookup: { collection: 'suppliers', take: '/at/town' } }); // prettier-ignore
  expect(argumentOf(typed('lookup', 'suppliers/at/town'))).toBe('suppliers/at/town');
  expect(['12', '-0.5', 'true', '007', 'x'].map((text) => typed('constant', text).value)).toEqual([12, -0.5, true, '007', 'x']); // prettier-ignore
  expect(argumentOf(typed('constant', '12'))).toBe('12');
  expect(typed('split', '').split).toBe(',');
  expect(typed('join', '').join).toBe('');
});
