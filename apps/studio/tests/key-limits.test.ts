import jwt from 'jsonwebtoken';
import { narrowed, requireCollection, requireOrigin, unlimited } from '../src/server/keys/caller';
import { Rates } from '../src/server/keys/rates';
import { House } from './house';

let house: House;
beforeAll(async () => void (house = await new House().open()));
afterAll(() => house.leave());

const inAnHour = (): string => new Date(Date.now() + 3_600_000).toISOString();

describe('limits of a key', () => {
  test('they are kept, listed and held to', () => {
    const { keys } = house.yucca;
    const limits = { collections: ['plants'], origins: ['https://shop.example'], perMinute: 5, filter: 'price < 10' };
    const { key, secret } = keys.create({ label: 'Shop', rights: ['search'], ...limits, expiresAt: inAnHour() });
    expect(key).toMatchObject({ ...limits, lastUsedAt: null, forPages: false });
    const caller = keys.bySecret(secret);
    expect(caller).toMatchObject(limits);
    expect(() => requireCollection(caller, 'guides')).toThrow('does not reach');
    expect(() => requireCollection(caller, 'plants')).not.toThrow();
    expect(keys.list().find(({ id }) => id === key.id)!.lastUsedAt).not.toBeNull();
  });

  test('what does not go together is refused, with a pointer', () => {
    const { keys } = house.yucca;
    const pointers = (wanted: Parameters<typeof keys.create>[0]): unknown => {
      try {
        keys.create(wanted);
      } catch (error) {
        return (error as { parts: { pointer: string }[] }).parts.map(({ pointer }) => pointer);
      }
      return 'made';
    };
    expect(pointers({ label: 'x', rights: ['write'], filter: 'a = 1' })).toEqual(['/filter']);
    expect(pointers({ label: 'x', rights: ['search'], filter: 'a = ' })).toEqual(['/filter']);
    expect(pointers({ label: 'x', rights: ['search'], expiresAt: '2001-01-01T00:00:00Z' })).toEqual(['/expiresAt']);
    expect(pointers({ label: 'x', rights: ['search', 'read'], filter: 'a = 1' })).toBe('made');
  });

  test('an expired key is worthless', () => {
    const { keys } = house.yucca;
    const { secret } = keys.create({ label: 'Brief', rights: ['search'], expiresAt: inAnHour() });
    const now = jest.spyOn(Date, 'now').mockReturnValue(Date.now() + 3_600_001);
    expect(() => keys.bySecret(secret)).toThrow('expired');
    now.mockRestore();
  });

  test.each([
    ['https://shop.example', 'https://shop.example', true],
    ['https://shop.example', 'https://SHOP.example', true],
    ['https://shop.example', 'https://shop.example.evil.test', false],
    ['https://*.shop.example', 'https://de.shop.example', true],
    ['https://*.shop.example', 'https://shop.example', false],
    ['https://*.shop.example', 'https://evilshop.example', false],
    ['https://*.shop.example', 'http://de.shop.example', false],
  ])('origin %s lets in %s: %s', (allowed, origin, fits) => {
    const caller = { ...unlimited('k', null, ['search']), origins: [allowed] };
    const ask = (): void => requireOrigin(caller, origin);
    if (fits) expect(ask).not.toThrow();
    else expect(ask).toThrow('not for pages of');
    expect(() => requireOrigin(caller, null)).not.toThrow();
  });

  test('a rate is counted by key and told', async () => {
    const rates = new Rates();
    expect(await rates.take('a', 2)).toMatchObject({ limit: 2, remaining: 1 });
    await rates.take('a', 2);
    await expect(rates.take('a', 2)).rejects.toMatchObject({ code: 'too-many', rate: { remaining: 0 } });
    expect(await rates.take('b', 2)).toMatchObject({ remaining: 1 });
  });
});

describe('scoped tokens', () => {
  const sign = (claims: object, secret: string, keyid: string, more: jwt.SignOptions = {}): string =>
    jwt.sign(claims, secret, { algorithm: 'HS256', keyid, ...more });

  test('any JWT library signs them with the secret; they narrow the key', () => {
    const { keys } = house.yucca;
    const { key, secret } = keys.create({
      label: 'Shop',
      rights: ['read'],
      collections: ['plants', 'guides'],
      filter: 'stock > 0',
    });
    const claims = { rights: ['search'], collections: ['plants', 'gardens'], filter: "tenant = 'a'", perMinute: 30 };
    const caller = keys.bySecret(sign(claims, secret, key.id, { expiresIn: 60 }));
    expect(caller).toMatchObject({
      keyId: key.id,
      rights: ['search'],
      collections: ['plants'],
      filter: "(stock > 0) AND (tenant = 'a')",
      perMinute: 30,
    });
  });

  test('they never widen: rights, collections, expiry and rate are the lesser of both', () => {
    const base = { ...unlimited('k', 'k', ['search']), collections: ['plants'], perMinute: 5, expiresAt: 1000 };
    const wide = narrowed(base, {
      rights: ['admin', 'search'],
      collections: ['guides'],
      perMinute: 50,
      expiresAt: 9000,
    });
    expect(wide).toMatchObject({ rights: ['search'], collections: [], perMinute: 5, expiresAt: 1000 });
    // An administrator's token with a filter may look, and no more.
    expect(narrowed(unlimited('a', 'a', ['admin']), { filter: 'a = 1' }).rights).toEqual(['search', 'read']);
    expect(narrowed(unlimited('w', 'w', ['write']), { filter: 'a = 1' }).rights).toEqual([]);
  });

  test('forged, expired, unsigned and misspelt ones are refused', () => {
    const { keys } = house.yucca;
    const { key, secret } = keys.create({ label: 'Shop', rights: ['search'] });
    const other = keys.create({ label: 'Other', rights: ['admin'] });
    const refused = (token: string): void => expect(() => keys.bySecret(token)).toThrow(/token|kid|known/);
    refused(sign({}, other.secret, key.id));
    refused(sign({}, `${secret}x`, key.id));
    refused(sign({}, secret, 'nobody'));
    refused(jwt.sign({}, secret));
    refused(sign({ fliter: 'a = 1' }, secret, key.id));
    refused(sign({}, secret, key.id, { expiresIn: -5 }));
    refused(jwt.sign({}, null as unknown as string, { algorithm: 'none', keyid: key.id } as jwt.SignOptions));
    refused(sign({}, secret, key.id, { algorithm: 'HS512' }));
    expect(() => keys.bySecret(sign({ filter: 'a ==' }, secret, key.id))).toThrow('filter');
    const good = sign({}, secret, key.id);
    expect(keys.bySecret(good).rights).toEqual(['search']);
    keys.remove(key.id);
    refused(good);
  });

  test('the key of the environment signs too, however short it is', () => {
    expect(house.yucca.keys.bySecret(sign({ rights: ['search'] }, 'test-key', 'admin')).rights).toEqual(['search']);
  });
});
