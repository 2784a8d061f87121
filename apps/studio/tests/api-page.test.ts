import { OPERATIONS, SCHEMAS } from '@yucca/contract/openapi';
import { addressOf, asCurl, asFetch, startOf } from '../src/features/api-page/request';
import { typeWords } from '../src/features/api-page/schema-view';
import { keyOrder } from '../src/features/keys/new-key-form';

const operation = (id: string) => OPERATIONS.find((one) => one.id === id)!;
const known = { collection: 'plants', id: 'a/b c', field: 'colour' };

test('an operation begins with its example and what is known of the data', () => {
  const search = startOf(operation('search'), known);
  expect(addressOf(operation('search'), search)).toBe('/api/v1/collections/plants/search');
  expect(JSON.parse(search.body)).toMatchObject({ q: 'agve' });
  const record = startOf(operation('getRecord'), known);
  expect(addressOf(operation('getRecord'), record)).toBe('/api/v1/collections/plants/records/a%2Fb%20c');
  const suggest = startOf(operation('suggest'), known);
  expect(addressOf(operation('suggest'), { ...suggest, query: { ...suggest.query, size: '3', empty: '' } })).toBe(
    '/api/v1/collections/plants/suggest?q=aga&size=3',
  );
});

test('every operation can be written as a command and as code', () => {
  for (const one of OPERATIONS) {
    const filled = startOf(one, known);
    expect(asCurl(one, filled, 'http://x', '$KEY')).toContain(`http://x/api/v1`);
    expect(asFetch(one, filled, 'http://x', '$KEY')).toContain(
      one.method === 'get' ? 'fetch(' : `method: '${one.method.toUpperCase()}'`,
    );
  }
});

test('quotes survive the shell; a key of the environment stays a variable', () => {
  const filled = { path: { collection: 'plants' }, query: {}, body: `{"q": "o'neill"}` };
  const curl = asCurl(operation('search'), filled, 'http://x', '$YUCCA_KEY');
  expect(curl).toContain(`-d '{"q":"o'\\''neill"}'`);
  expect(curl).toContain('"Authorization: Bearer $YUCCA_KEY"');
  expect(asCurl(operation('search'), filled, 'http://x', 'yk_1')).toContain(`'Authorization: Bearer yk_1'`);
  expect(asFetch(operation('search'), filled, 'http://x', '$YUCCA_KEY')).toContain('`Bearer ${process.env.YUCCA_KEY}`');
});

test('types of a schema in words', () => {
  expect(typeWords({ type: 'array', items: { type: 'string' } })).toBe('list of string');
  expect(typeWords({ type: ['number', 'null'] })).toBe('number or null');
  expect(typeWords({ enum: ['a', 'b'] })).toBe('"a" | "b"');
  expect(typeWords({ $ref: 'Task' })).toBe('Task');
  expect(Object.values(SCHEMAS).every((schema) => typeWords(schema).length > 0)).toBe(true);
});

test('a key as it is typed: what is empty does not limit', () => {
  const empty = { label: ' Shop ', origins: '', perMinute: '', expiresAt: '', filter: ' ' };
  expect(keyOrder(empty, ['search'], [])).toEqual({ label: 'Shop', rights: ['search'] });
  const full = { ...empty, origins: 'https://a.example, https://b.example', perMinute: '60', filter: 'stock > 0' };
  expect(keyOrder(full, ['read'], ['plants'])).toEqual({
    label: 'Shop',
    rights: ['read'],
    collections: ['plants'],
    origins: ['https://a.example', 'https://b.example'],
    perMinute: 60,
    filter: 'stock > 0',
  });
});
