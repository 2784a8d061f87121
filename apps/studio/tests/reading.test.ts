import fc from 'fast-check';
import { parse } from 'csv-parse/sync';
import { readFileSync } from 'node:fs';
import { nestDotted } from '../src/server/records/parsers/nest';
import { flat } from '../src/server/scan/export';
import { House, lines } from './house';

let house: House;
beforeEach(async () => {
  house = await new House().open();
  await house.yucca.collections.create({ name: 'plants' });
});
afterEach(() => house.leave());

async function exported(format: 'ndjson' | 'csv', options = {}): Promise<string> {
  let text = '';
  for await (const piece of house.yucca.records.export('plants', format, options)) text += piece;
  return text;
}

const HOSTILE = [
  'a,b',
  '"quoted"',
  'two\nlines',
  'two\r\nlines',
  ';\t|',
  ' spaces ',
  '=1+1',
  '🌵 𝒴',
  '\u200f\u202e',
  "it's",
  '\\n',
  '﻿x',
];

test('hostile strings go in and the same come out, as JSON Lines and as CSV', async () => {
  const records = HOSTILE.map((text, i) => ({ id: `p${i}`, text, __proto__x: i, '': 'nameless' }));
  await house.load('plants', lines(records), 'application/x-ndjson');
  expect(await exported('ndjson')).toBe(lines(records));
  const rows: Record<string, string>[] = parse(await exported('csv'), { columns: true });
  expect(rows.map(({ text }) => text)).toEqual(HOSTILE);
  await house.yucca.collections.create({ name: 'again' });
  await house.load('again', await exported('csv', { fields: ['id', 'text'] }), 'text/csv');
  expect((await house.yucca.records.list('again', 1, 50)).items).toEqual(
    HOSTILE.map((text, i) => ({ id: `p${i}`, text })),
  );
});

test('an export of nested records opens objects, keeps lists, and loads back as it was', async () => {
  const records = [
    { id: 'a', maker: { id: 'm1', town: { name: 'Thornwick' } }, tags: ['x', 'y'], prices: [{ from: 1, price: 2.5 }] },
    { id: 'b', maker: { id: 'm2' }, safe: true, none: null },
  ];
  await house.load('plants', lines(records), 'application/x-ndjson');
  const csv = await exported('csv');
  expect(csv.split('\r\n')[0]).toBe('id,maker.id,maker.town.name,tags,prices,safe');
  await house.yucca.collections.create({ name: 'again' });
  house.yucca.fieldRules.set('again', [
    { field: 'tags', as: 'json' },
    { field: 'prices', as: 'json' },
    { field: 'safe', as: 'boolean' },
  ]);
  await house.load('again', csv, 'text/csv', { nest: true });
  expect(await house.yucca.records.get('again', 'a')).toEqual(records[0]);
  expect(await house.yucca.records.get('again', 'b')).toEqual({ id: 'b', maker: { id: 'm2' }, safe: true });
});

test('nesting what was opened gives the object back', () => {
  const name = fc.stringMatching(/^[a-z_]{1,6}$/);
  const leaf = fc.oneof(fc.string(), fc.integer(), fc.boolean());
  const { record } = fc.letrec((tie) => ({
    record: fc.dictionary(name, fc.oneof({ maxDepth: 3 }, leaf, tie('record')), { minKeys: 1, maxKeys: 4 }),
  }));
  const withoutEmpty = (value: unknown): boolean =>
    typeof value !== 'object' ||
    value === null ||
    (Object.keys(value).length > 0 && Object.values(value).every(withoutEmpty));
  fc.assert(
    fc.property(record.filter(withoutEmpty) as fc.Arbitrary<Record<string, unknown>>, (original) => {
      const asText = JSON.parse(JSON.stringify(original), (_, value: unknown) =>
        typeof value === 'object' ? value : String(value),
      ) as unknown;
      expect(nestDotted(flat(original))).toEqual(asText);
    }),
  );
});

test('names that clash stay flat', () => {
  expect(nestDotted({ a: '1', 'a.b': '2', 'c.d': '3', '.e': '4', 'c.d.f': '5' })).toEqual({
    a: '1',
    'a.b': '2',
    c: { d: '3', 'd.f': '5' },
    '.e': '4',
  });
});

test('a condition narrows lists, exports, single records and profiles', async () => {
  const records = Array.from({ length: 30 }, (_, i) => ({ id: `p${i}`, n: i, secret: i < 10 ? 'seen' : 'hidden' }));
  await house.load('plants', lines(records), 'application/x-ndjson');
  const filter = 'n < 10';
  const page = await house.yucca.records.list('plants', 2, 4, { filter });
  expect(page).toMatchObject({ total: 10, pages: 3, items: [{ id: 'p4' }, { id: 'p5' }, { id: 'p6' }, { id: 'p7' }] });
  expect((await exported('ndjson', { filter })).trim().split('\n')).toHaveLength(10);
  await expect(house.yucca.records.get('plants', 'p10', filter)).rejects.toThrow('no record');
  expect(await house.yucca.records.get('plants', 'p9', filter)).toMatchObject({ n: 9 });
  const profile = await house.yucca.profiles.get('plants', filter);
  expect(profile.records).toBe(10);
  expect(JSON.stringify(profile)).not.toContain('hidden');
});

test('a profile is made once and again after a change', async () => {
  await house.load('plants', lines([{ id: 'a' }]), 'application/x-ndjson');
  const { profiles, records } = house.yucca;
  const first = await profiles.get('plants');
  expect(await profiles.get('plants')).toBe(first);
  await records.put('plants', 'b', { x: 1 }, 'replace');
  expect((await profiles.get('plants')).records).toBe(2);
  await records.remove('plants', ['b']);
  expect((await profiles.get('plants')).records).toBe(1);
});

test('failed lines are kept as they came, under their header, and load once mended', async () => {
  const task = await house.load(
    'plants',
    'id,name\na,"x\n"b,y\n,no key\nc,"semi, colon",too many\nd,fine\n',
    'text/csv',
  );
  expect(task.failedKept).toBe(true);
  const json = await house.load('plants', '{"id":1}\n{"id":\n{"name":"no key"}\n[1]\n', 'application/x-ndjson');
  expect(json).toMatchObject({ done: 1, failed: 3, failedKept: true });
  expect(json.errors.map(({ line, text }) => [line, text])).toEqual([
    [2, '{"id":'],
    [3, '{"name":"no key"}'],
    [4, '[1]'],
  ]);
  expect(readFileSync(house.yucca.records.failedLines(json.id), 'utf8')).toBe('{"id":\n{"name":"no key"}\n[1]\n');
  const table = await house.load('plants', 'id,name\n,no key\ne,fine\nf,one,two\n', 'text/csv');
  expect(readFileSync(house.yucca.records.failedLines(table.id), 'utf8')).toBe('id,name\n,no key\nf,one,two\n');
  const good = await house.load('plants', '{"id":2}\n', 'application/x-ndjson');
  expect(good.failedKept).toBe(false);
  expect(() => house.yucca.records.failedLines(good.id)).toThrow('No failed lines');
});
