import type { FieldRule } from '@yucca/contract';
import { House, lines } from './house';

let house: House;
beforeEach(async () => {
  house = await new House().open();
  await house.yucca.collections.create({ name: 'plants' });
});
afterEach(() => house.leave());

const get = (key: string): Promise<unknown> => house.yucca.records.get('plants', key);

test('rules read what is written, by loads, single writes and patches', async () => {
  house.yucca.fieldRules.set('plants', [
    { field: 'price', as: 'number' },
    { field: 'tags', as: 'list', separator: '|' },
    { field: 'added', as: 'date' },
  ]);
  await house.load('plants', 'id,price,tags,added\na,"1,234.50",red|white,1.5.2026\nb,free,,soon\n', 'text/csv');
  expect(await get('a')).toEqual({ id: 'a', price: 1234.5, tags: ['red', 'white'], added: '2026-05-01' });
  expect(await get('b')).toEqual({ id: 'b', price: 'free', added: 'soon' });
  await house.yucca.records.put('plants', 'c', { price: '7' }, 'replace');
  expect(await get('c')).toEqual({ id: 'c', price: 7 });
  await house.yucca.records.put('plants', 'c', { price: '8.5', tags: 'x' }, 'merge');
  expect(await get('c')).toEqual({ id: 'c', price: 8.5, tags: ['x'] });
});

test('a repair changes what is here, its undoing brings the texts back, newer values stay', async () => {
  const many = Array.from({ length: 1200 }, (_, i) => ({ id: `p${i}`, year: i % 100 === 0 ? `${1900 + i}*` : i }));
  await house.load('plants', lines(many), 'application/x-ndjson');
  const { fieldRules } = house.yucca;
  expect(await fieldRules.effect('plants', { field: 'year', as: 'number' })).toMatchObject({
    holding: 1200,
    changes: 12,
    unreadable: 0,
    examples: expect.arrayContaining([{ id: 'p0', before: '1900*', after: 1900 }]) as unknown,
  });
  fieldRules.set('plants', [{ field: 'year', as: 'number' }]);
  expect(await fieldRules.apply('plants').ended).toMatchObject({ state: 'done', done: 1200, changed: 12 });
  expect(await get('p100')).toEqual({ id: 'p100', year: 2000 });
  expect(await house.ids('plants', { filter: 'year = 2000' })).toEqual(['p100']);
  await house.yucca.records.put('plants', 'p200', { id: 'p200', year: 5 }, 'replace');
  fieldRules.set('plants', []);
  expect(await fieldRules.apply('plants').ended).toMatchObject({ changed: 11 });
  expect(await get('p100')).toEqual({ id: 'p100', year: '2000*' });
  expect(await get('p200')).toEqual({ id: 'p200', year: 5 });
});

test('a repair killed half-way is finished by asking again', async () => {
  await house.load(
    'plants',
    lines(Array.from({ length: 3000 }, (_, i) => ({ id: `p${i}`, n: `${i}` }))),
    'application/x-ndjson',
  );
  house.yucca.fieldRules.set('plants', [{ field: 'n', as: 'number' }]);
  void house.yucca.fieldRules.apply('plants').ended.catch(() => {});
  await house.reopen();
  expect(await house.yucca.fieldRules.apply('plants').ended).toMatchObject({ state: 'done' });
  expect((await house.search('plants', { filter: 'n >= 0', size: 0 })).total).toBe(3000);
  house.yucca.fieldRules.set('plants', []);
  await house.yucca.fieldRules.apply('plants').ended;
  expect(await get('p2999')).toEqual({ id: 'p2999', n: '2999' });
});

test('a position made of two fields can be searched around, and goes with its rule', async () => {
  const rows = [
    { id: 'a', lat: '47.2', lng: '-18.4', start: { lat: 1 } },
    { id: 'b', lat: '', lng: '3' },
    { id: 'c', lat: '-6.08', lng: '145.39', position: 'known' },
  ];
  await house.load('plants', lines(rows), 'application/x-ndjson');
  const { fieldRules } = house.yucca;
  const rule: FieldRule = { field: 'position', as: 'position', from: ['lat', 'lng'] };
  expect(await fieldRules.effect('plants', rule)).toMatchObject({
    changes: 2,
    examples: [
      { id: 'a', before: null, after: { lat: 47.2, lng: -18.4 } },
      { id: 'c', before: 'known', after: { lat: -6.08, lng: 145.39 } },
    ],
  });
  fieldRules.set('plants', [rule]);
  expect(await fieldRules.apply('plants').ended).toMatchObject({ state: 'done', changed: 2 });
  expect(await get('a')).toEqual({ ...rows[0], position: { lat: 47.2, lng: -18.4 } });
  expect(await get('b')).toEqual(rows[1]);
  await house.yucca.tunings.patchDraft('plants', { geo: 'position' });
  await house.yucca.tunings.publish('plants', '');
  expect(await house.ids('plants', { near: { lat: 47, lng: -18, withinM: 100_000 } })).toEqual(['a']);
  fieldRules.set('plants', []);
  await fieldRules.apply('plants').ended;
  expect([await get('a'), await get('c')]).toEqual([rows[0], rows[2]]);
});

test('hundreds of rules hold up neither their own records nor writes elsewhere', async () => {
  const names = Array.from({ length: 400 }, (_, i) => `field ${i}`);
  const rows = Array.from({ length: 250 }, (_, id) => ({ id: `p${id}`, ...Object.fromEntries(names.map((name) => [name, `${id}`])) })); // prettier-ignore
  await house.load('plants', lines(rows), 'application/x-ndjson');
  await house.yucca.collections.create({ name: 'others' });
  house.yucca.fieldRules.set('plants', names.map((field) => ({ field, as: 'number' }))); // prettier-ignore
  let isOver = false;
  const repair = house.yucca.fieldRules.apply('plants').ended.finally(() => (isOver = true));
  const waits: number[] = [];
  const began = performance.now();
  while (!isOver) {
    const start = performance.now();
    await house.yucca.records.put('others', 'a', { id: 'a', n: waits.length }, 'replace');
    waits.push(performance.now() - start);
  }
  expect(await repair).toMatchObject({ state: 'done', changed: 250 });
  expect(waits.length).toBeGreaterThan(5);
  // It was 17 seconds, as long as all of it took; a busy machine may make it more than the 25 ms of a batch.
  expect(Math.max(...waits)).toBeLessThan(Math.max(3_000, (performance.now() - began) / 3));
  expect(await get('p7')).toMatchObject({ 'field 0': 7, 'field 399': 7 });
});

test.each<[FieldRule, string]>([
  [{ field: 'n', as: 'number', from: ['a', 'b'] }, '/rules/0/from'],
  [{ field: 'a', as: 'position', from: ['a', 'b'] }, '/rules/0/from'],
  [{ field: 'at', as: 'date', format: 'YYYY-qqqqqqq' }, '/rules/0/format'],
  [{ field: 'at', as: 'date', format: 'the day' }, '/rules/0/format'],
])('a rule that can read nothing is refused: %j', (rule, pointer) => {
  expect(() => house.yucca.fieldRules.set('plants', [rule])).toThrow(
    expect.objectContaining({ parts: [expect.objectContaining({ pointer })] }) as Error,
  );
});

test('two rules for a field, or a rule for the key, are refused', () => {
  const { fieldRules } = house.yucca;
  expect(() =>
    fieldRules.set('plants', [
      { field: 'a', as: 'number' },
      { field: 'a', as: 'text' },
    ]),
  ).toThrow('two rules');
  expect(() => fieldRules.set('plants', [{ field: 'id', as: 'number' }])).toThrow('key');
});
