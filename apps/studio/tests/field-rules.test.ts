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
