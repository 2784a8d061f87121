import { createHash } from 'node:crypto';
import { Clock } from '../src/server/clock';
import { KeySealer } from '../src/server/keys/key-sealer';
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
    const { perMinute, ...rest } = limits;
    expect(caller).toMatchObject({ ...rest, rates: [{ id: key.id, perMinute }] });
    expect(() => requireCollection(caller, 'guides')).toThrow('does not reach');
    expect(() => requireCollection(caller, 'plants')).not.toThrow();
    expect(keys.takeUses().map(({ id }) => id)).toContain(key.id);
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

  test('a rate is counted by key and told, by a clock that only goes forward', () => {
    let now = 0;
    const rates = new Rates(() => now);
    expect(rates.take('a', 2)).toMatchObject({ limit: 2, remaining: 1, resetS: 60 });
    now = 20_000;
    rates.take('a', 2);
    expect(() => rates.take('a', 2)).toThrow(expect.objectContaining({ code: 'too-many', rate: { limit: 2, remaining: 0, resetS: 40 } }) as Error); // prettier-ignore
    expect(rates.take('b', 2)).toMatchObject({ remaining: 1 });
    now = 60_000;
    expect(rates.take('a', 2)).toMatchObject({ remaining: 1 });
  });

  test('the tightest of several counts is told, and each of them counts', () => {
    const rates = new Rates();
    const key = { id: 'k', perMinute: 3 };
    const token = (n: number) => ({ id: `k/${n}`, perMinute: 2 });
    expect(rates.takeAll([])).toBeNull();
    expect(rates.takeAll([key, token(1)])).toMatchObject({ limit: 2, remaining: 1 });
    expect(rates.takeAll([key, token(2)])).toMatchObject({ limit: 3, remaining: 1 });
    rates.takeAll([key, token(3)]);
    expect(() => rates.takeAll([key, token(4)])).toThrow('3 times a minute');
  });

  test('the clock of expiries is not set back, and what has expired stays so', () => {
    let wall = 1_000_000;
    let monotonic = 0;
    const clock = new Clock(
      0,
      () => wall,
      () => monotonic,
    );
    wall -= 500_000;
    monotonic += 2_000;
    expect(clock.now()).toBe(1_002_000);
    wall = 5_000_000;
    expect([clock.now(), clock.steady()]).toEqual([5_000_000, 1_002_000]);
    expect(
      new Clock(
        9_000_000,
        () => wall,
        () => monotonic,
      ).now(),
    ).toBe(9_000_000);
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
      rates: [{ perMinute: 30 }],
    });
  });

  test('the requests of a token count for its key as well', () => {
    const { keys, rates } = house.yucca;
    const { key, secret } = keys.create({ label: 'Busy', rights: ['search'], perMinute: 2 });
    const ask = (token: string) => rates.takeAll(keys.bySecret(token).rates);
    ask(sign({ collections: ['a'] }, secret, key.id));
    ask(sign({ collections: ['b'], perMinute: 100 }, secret, key.id));
    expect(() => ask(secret)).toThrow('2 times a minute');
  });

  test('a leaked database signs nothing: what is stored is neither the key’s hash nor what verifies with it', () => {
    const { keys, db } = house.yucca;
    const { key, secret } = keys.create({ label: 'Leaked', rights: ['admin'] });
    const row = db.$client.prepare('select * from keys where id = ?').get(key.id) as {
      secret_hash: string;
      sealed: string;
    };
    const plainHash = createHash('sha256').update(secret).digest();
    expect(Object.values(row).join()).not.toContain(plainHash.toString('hex'));
    for (const stolen of [Buffer.from(row.secret_hash, 'hex'), Buffer.from(row.sealed, 'base64'), row.sealed])
      expect(() => keys.bySecret(sign({}, stolen as string, key.id))).toThrow('not valid');
    expect(new KeySealer(Buffer.alloc(32, 1)).open(row.sealed)).toBeNull();
    expect(keys.bySecret(sign({}, secret, key.id)).rights).toEqual(['admin']);
  });

  test('keys from before are sealed at the start; their secrets and tokens go on working', async () => {
    const { key, secret } = house.yucca.keys.create({ label: 'Old', rights: ['search'] });
    const plainHash = createHash('sha256').update(secret).digest('hex');
    house.yucca.db.$client
      .prepare('update keys set secret_hash = ?, sealed = null where id = ?')
      .run(plainHash, key.id);
    await house.reopen();
    const { keys, db } = house.yucca;
    expect(keys.bySecret(secret)).toMatchObject({ keyId: key.id });
    expect(keys.bySecret(sign({}, secret, key.id))).toMatchObject({ keyId: key.id });
    expect(
      db.$client.prepare('select count(*) from keys where secret_hash = ? or sealed is null').pluck().get(plainHash),
    ).toBe(0);
  });

  test('they never widen: rights, collections, expiry and rate are the lesser of both', () => {
    const rates = [{ id: 'k', perMinute: 5 }];
    const base = { ...unlimited('k', 'k', ['search']), collections: ['plants'], rates, expiresAt: 1000 };
    const wide = narrowed(base, {
      rights: ['admin', 'search'],
      collections: ['guides'],
      rate: { id: 'k/t', perMinute: 50 },
      expiresAt: 9000,
    });
    expect(wide).toMatchObject({ rights: ['search'], collections: [], expiresAt: 1000 });
    expect(wide.rates).toEqual([...rates, { id: 'k/t', perMinute: 50 }]);
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
