/** @jest-environment node */
/** Feeds: signed, once each, the newest wins whatever the order, and what cannot be applied says why. */
import type { FeedAction, RecordJson } from '@yucca/contract';
import fc from 'fast-check';
import { FeedChanges, EARLY_MS, type FeedTarget } from '../src/server/feeds/apply-changes';
import { readEvents, type FeedChange } from '../src/server/feeds/read-events';
import { newFeedSecret, signed, verifiedMessage } from '../src/server/feeds/signature';
import { applyMergePatch } from '../src/server/records/merge-patch';
import { RecordStore } from '../src/server/records/record-store';
import { BATCHED, sendingHouse, STRUCTURED } from './sending-house';

const own = sendingHouse();
const { all, event, send, states } = own;

test('created, changed, deleted: stored when it answers, and found a moment later', async () => {
  expect(await send(event('upserted', 'a', { name: 'Dog rose', price: 3 }))).toEqual({ taken: 1, repeats: 0 });
  expect(await all()).toEqual([{ id: 'a', name: 'Dog rose', price: 3 }]);
  while ((await own.house.ids('plants', 'rose')).length === 0) await new Promise((resolve) => setTimeout(resolve, 20));
  await send(event('patched', 'a', { price: 4 }));
  expect(await all()).toEqual([{ id: 'a', name: 'Dog rose', price: 4 }]);
  await send([event('deleted', 'a'), event('upserted', 'b', { id: 'b', name: 'Fern' })]);
  expect(await all()).toEqual([{ id: 'b', name: 'Fern' }]);
  expect(own.house.yucca.feeds.get(own.feed.id)).toMatchObject({
    state: 'running',
    events: 4,
    dead: 0,
    early: 0,
    lagS: 0,
  });
  expect(own.house.yucca.collections.get('plants').records).toBe(1);
});

test('an event, and a message, count once', async () => {
  const once = event('upserted', 'a', { n: 1 });
  await send(once, { message: 'same' });
  expect(await send(event('upserted', 'a', { n: 2 }), { message: 'same' })).toEqual({ taken: 0, repeats: 1 });
  expect(await send([once, event('upserted', 'b', { n: 3 })])).toEqual({ taken: 1, repeats: 1 });
  expect(await all()).toEqual([{ id: 'a', n: 1 }, { id: 'b', n: 3 }]); // prettier-ignore
});

test('by time, to the microsecond, or by the number a source counts with', async () => {
  const at = (time: string) => ({ time: `2026-05-04T10:00:${time}Z` });
  await send(event('upserted', 'a', { n: 2 }, at('01.000002')));
  await send(event('upserted', 'a', { n: 1 }, at('01.000001')));
  await send(event('upserted', 'a', { n: 3 }, at('01.000003')));
  expect(await all()).toEqual([{ id: 'a', n: 3 }]);
  await send(event('deleted', 'a', undefined, at('05')));
  await send(event('upserted', 'a', { n: 4 }, at('04')));
  expect(await all()).toEqual([]);
  await send(event('upserted', 'b', { n: 9 }, { sequence: '9' }));
  await send(event('upserted', 'b', { n: 10 }, { sequence: '10' }));
  await send(event('upserted', 'b', { n: 8 }, { sequence: 8 }));
  expect(await all()).toEqual([{ id: 'b', n: 10 }]);
  expect(states()).toEqual(['applied', 'old', 'applied', 'applied', 'old', 'applied', 'applied', 'old']);
});

test('in any order, with repeats, in batches: what the source has', async () => {
  const { db, collections } = own.house.yucca;
  const changes = new FeedChanges(db, new RecordStore(db));
  const key = fc.constantFrom('a', 'b', 'c');
  const field = fc.constantFrom('name', 'price', 'stock');
  const step = fc.record({
    key,
    action: fc.constantFrom<FeedAction>('upsert', 'patch', 'patch', 'delete'),
    data: fc.dictionary(field, fc.oneof(fc.integer({ min: 0, max: 9 }), fc.constant(null)), { maxKeys: 3 }),
  });
  let run = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.array(step, { minLength: 1, maxLength: 24 }),
      fc.array(fc.nat(), { minLength: 24, maxLength: 24 }),
      fc.array(fc.nat(23), { maxLength: 8 }),
      fc.integer({ min: 1, max: 7 }),
      async (steps, shuffle, repeats, size) => {
        const name = `run-${run++}`;
        await collections.create({ name });
        const { id: collectionId } = collections.row(name);
        const target: FeedTarget = { feedId: name, collectionId, keyField: 'id', mapping: [] };
        // The source: a patch of what is not there is no change of its.
        const source = new Map<string, RecordJson>();
        const told: FeedChange[] = [];
        steps.forEach(({ key, action, data }, order) => {
          if (action === 'patch' && !source.has(key)) return;
          if (action === 'delete') source.delete(key);
          if (action === 'upsert') source.set(key, { id: key, ...data });
          if (action === 'patch') source.set(key, applyMergePatch(source.get(key), data) as RecordJson);
          told.push({ source: '/s', event: `e${order}`, type: 't', key, action, order, data: action === 'delete' ? null : JSON.stringify(data) }); // prettier-ignore
        });
        const shuffled = told.map((change, i) => ({ change, at: shuffle[i]! })).sort((x, y) => x.at - y.at).map(({ change }) => change); // prettier-ignore
        const arriving = [...shuffled];
        for (const at of repeats) if (at < shuffled.length) arriving.splice(at, 0, shuffled[at]!);
        for (let at = 0; at < arriving.length; at += size)
          changes.takeAll(target, [{ message: `m${at}`, changes: arriving.slice(at, at + size) }], {
            paused: at % 2 === 1,
            now: 1,
          });
        while (changes.applyWaiting(target));
        const store = new RecordStore(db);
        for (const one of ['a', 'b', 'c'])
          expect({ key: one, record: sorted(store.get(collectionId, one)) }).toEqual({ key: one, record: sorted(source.get(one) ?? null) }); // prettier-ignore
        expect(collections.get(name).records).toBe(source.size);
      },
    ),
    { numRuns: 150 },
  );
});

/** Fields have no order that matters. */
const sorted = (record: RecordJson | null): unknown =>
  record && Object.entries(record).sort(([a], [b]) => (a < b ? -1 : 1));

test('a change before its record waits for it, and ten minutes at the most', async () => {
  const { db } = own.house.yucca;
  await send(event('patched', 'a', { price: 4 }, { sequence: 2 }));
  await send(event('patched', 'b', { price: 5 }, { sequence: 2 }));
  expect(states()).toEqual(['early', 'early']);
  expect(own.house.yucca.feeds.get(own.feed.id).early).toBe(2);
  await send(event('upserted', 'a', { name: 'Fern', price: 3 }, { sequence: 1 }));
  expect(await all()).toEqual([{ id: 'a', name: 'Fern', price: 4 }]);
  new FeedChanges(db, new RecordStore(db)).trim(Date.now() + EARLY_MS + 1_000);
  const [dead] = own.house.yucca.feeds.sent.events(own.feed.id, 'dead', 1, 10).items;
  expect(dead).toMatchObject({ key: 'b', reason: 'Its record did not come within 10 minutes.' });
});

test('what cannot be stored is dead with its reason, keeps the rest going, and can be tried again', async () => {
  const big = 'x'.repeat(300_000);
  await send([
    event('upserted', 'a', { n: 1 }, { sequence: 1 }),
    event('upserted', 'b', { text: big }, { sequence: 1 }),
    event('upserted', 'c', { id: 'other' }, { sequence: 1 }),
    event('upserted', 'ü'.repeat(300), { n: 1 }, { sequence: 1 }),
    event('upserted', 'd', { n: 1 }, { sequence: 1 }),
  ]);
  expect(states()).toEqual(['applied', 'dead', 'dead', 'dead', 'applied']);
  const reasons = own.house.yucca.feeds.sent.events(own.feed.id, 'dead', 1, 10).items.map(({ reason }) => reason);
  expect(reasons[0]).toMatch(/key is 600 bytes long/);
  expect(reasons[1]).toBe(`Not stored: the record's "id" is "other", its event says "c".`);
  expect(reasons[2]).toMatch(/more than 256 kB/);
  expect(own.house.yucca.collections.get('plants').records).toBe(2);
  expect(await own.house.yucca.feeds.sent.replay(own.feed.id, null)).toBe(0);
  // Mended at the source: the newer state is applied, and the dead one is old when it is tried again.
  await send(event('upserted', 'b', { text: 'short' }, { sequence: 2 }));
  const { number } = own.house.yucca.feeds.sent
    .events(own.feed.id, 'dead', 1, 10)
    .items.find(({ key }) => key === 'b')!;
  expect(await own.house.yucca.feeds.sent.replay(own.feed.id, [number])).toBe(1);
  expect((await all()).find(({ id }) => id === 'b')).toEqual({ id: 'b', text: 'short' });
  expect(own.house.yucca.feeds.get(own.feed.id).dead).toBe(2);
});

test('paused, events are kept; they are applied on resuming, and after a restart', async () => {
  own.house.yucca.feeds.pause(own.feed.id);
  expect(await send(event('upserted', 'a', { n: 1 }))).toEqual({ taken: 1, repeats: 0 });
  expect(await all()).toEqual([]);
  expect(own.house.yucca.feeds.get(own.feed.id)).toMatchObject({ state: 'paused', events: 1 });
  await own.house.reopen();
  expect(own.house.yucca.feeds.get(own.feed.id).state).toBe('paused');
  expect((await own.house.yucca.feeds.resume(own.feed.id)).lagS).toBe(0);
  expect(await all()).toEqual([{ id: 'a', n: 1 }]);
  while ((await own.house.ids('plants', '')).length === 0) await new Promise((resolve) => setTimeout(resolve, 20));
});

test('an event that is on its way while the feed is resumed does not wait for the next time', async () => {
  own.house.yucca.feeds.pause(own.feed.id);
  const onItsWay = send(event('upserted', 'a', { n: 1 }));
  const resumed = own.house.yucca.feeds.resume(own.feed.id);
  await Promise.all([onItsWay, resumed]);
  expect(await all()).toEqual([{ id: 'a', n: 1 }]);
  expect(states()).toEqual(['applied']);
});

test('who signs with another secret, too late, or over other bytes is refused', async () => {
  const one = event('upserted', 'a', { n: 1 });
  const late = new Date(Date.now() - 6 * 60_000);
  await expect(send(one, { key: newFeedSecret() })).rejects.toThrow('no matching signature found');
  await expect(send(one, { at: late })).rejects.toThrow('too old');
  await expect(send(one, { at: new Date(Date.now() + 6 * 60_000) })).rejects.toThrow('too new');
  await expect(send(one, { more: { 'webhook-id': 'another' } })).rejects.toThrow('no matching signature found');
  await expect(send(one, { more: { 'webhook-signature': 'v1' } })).rejects.toThrow('no matching signature found');
  await expect(send(one, { more: { 'webhook-timestamp': 'noon' } })).rejects.toThrow('invalid signature headers');
  await expect(send(one, { more: { 'webhook-signature': '' } })).rejects.toThrow('webhook-signature is missing');
  expect(await all()).toEqual([]);
  // Renewed: both hold for a day.
  const renewed = own.house.yucca.feeds.renewSecret(own.feed.id);
  await send(one);
  await send(event('upserted', 'b', { n: 2 }), { key: renewed.secret });
  expect(await all()).toHaveLength(2);
  own.house.yucca.feeds.renewSecret(own.feed.id);
  await expect(send(event('upserted', 'c', {}), { key: own.secret })).rejects.toThrow('no matching signature found');
  // What is kept of a secret cannot be read from the database.
  const rows = own.house.yucca.db.$client.prepare('select * from feeds').all();
  expect(JSON.stringify(rows)).not.toContain(own.secret.slice(8, 30));
  const headers = new Map(Object.entries(signed(own.secret, 'm', 'x', new Date())));
  expect(verifiedMessage({ get: (name) => headers.get(name) ?? null }, 'x', [newFeedSecret(), own.secret])).toBe('m');
});

test('what cannot be read is refused at once, with the place', () => {
  const read = (headers: Record<string, string>, body: unknown, types = {}): FeedChange[] =>
    readEvents({ get: (name) => headers[name] ?? null }, body, { kind: 'webhook', types }, 'sku');
  const wrong = (event: unknown, pointer: string, type = STRUCTURED): void => {
    let told: unknown = null;
    try {
      read({ 'content-type': type }, event);
    } catch (error) {
      told = error;
    }
    expect(told).toMatchObject({ name: 'Failure', parts: [{ pointer }] });
  };
  const good = { specversion: '1.0', id: '1', source: '/s', type: 'a.upserted', data: { sku: 7 } };
  expect(read({ 'content-type': `${STRUCTURED}; charset=utf-8` }, good)[0]).toMatchObject({
    key: '7',
    action: 'upsert',
  });
  wrong({ ...good, specversion: '0.3' }, '/specversion');
  wrong({ ...good, id: '' }, '/id');
  wrong({ ...good, source: undefined }, '/source');
  wrong({ ...good, time: 'yesterday' }, '/time');
  wrong({ ...good, sequence: 'x' }, '/sequence');
  wrong({ ...good, sequence: '99999999999999999999' }, '/sequence');
  wrong({ ...good, type: 'a.created' }, '/type');
  wrong({ ...good, type: 'a.toString' }, '/type');
  wrong({ ...good, data: 'text' }, '/data');
  wrong({ ...good, data: {} }, '/subject');
  wrong({ ...good, subject: '\ud800' }, '/subject');
  wrong([good, { ...good, type: 'x' }], '/1/type', BATCHED);
  wrong([good, null], '/1', BATCHED);
  wrong(good, '', BATCHED);
  expect(() => read({ 'content-type': 'application/json' }, good)).toThrow('ce- headers');
  expect(() =>
    read(
      { 'content-type': BATCHED },
      Array.from({ length: 1_001 }, () => good),
    ),
  ).toThrow('1000 events');
  const binary = { 'content-type': 'application/json', 'ce-id': '1', 'ce-source': '/s', 'ce-type': 'made', 'ce-specversion': '1.0', 'ce-subject': 'P-1' }; // prettier-ignore
  expect(read(binary, { n: 1 }, { made: 'patch' })[0]).toMatchObject({ key: 'P-1', action: 'patch', data: '{"n":1}' });
});

test('a feed is listed with its collection, and goes with it; its records stay when it ends', async () => {
  const { feeds } = own.house.yucca;
  await send(event('upserted', 'a', { n: 1 }));
  expect(feeds.list(1, 10, 'plants').items.map(({ name }) => name)).toEqual(['Shop']);
  expect((await feeds.change(own.feed.id, { name: 'Store' })).name).toBe('Store');
  expect(await feeds.sent.test(own.feed.id, { key: 'a', action: 'patch', data: { n: 2 } })).toMatchObject({ key: 'a', state: 'applied' }); // prettier-ignore
  expect(await all()).toEqual([{ id: 'a', n: 2 }]);
  await feeds.remove(own.feed.id);
  expect(() => feeds.get(own.feed.id)).toThrow('There is no feed');
  expect(await all()).toHaveLength(1);
  await expect(send(event('upserted', 'b', {}))).rejects.toThrow('no matching signature found');
  feeds.create({ name: 'Next', collection: 'plants', source: { kind: 'webhook' } });
  own.house.yucca.removeCollection('plants');
  expect(feeds.list(1, 10, null).items).toEqual([]);
});

test('plain JSON of a system that can do no better: by pointers, with the secret as a token', async () => {
  const { feeds } = own.house.yucca;
  const plain = { type: '/event', record: '/product', key: '/product/sku', id: '/n', order: '/at' };
  const types = { 'product/update': 'upsert', 'product/gone': 'delete' } as const;
  const made = feeds.create({
    name: 'Old shop',
    collection: 'plants',
    source: { kind: 'webhook', plain, types },
    mapping: [{ field: 'id', from: ['/sku'] }, { field: '*' }],
  });
  const post = (body: object, token = made.secret!, more: Record<string, string> = {}) => {
    const headers: Record<string, string> = {
      'content-type': 'application/json',
      authorization: `Bearer ${token}`,
      ...more,
    };
    return feeds.sent.take(made.feed.id, { get: (name) => headers[name] ?? null }, JSON.stringify(body), JSON.parse);
  };
  const update = (n: number, at: string, name: string) => ({
    event: 'product/update',
    n,
    at,
    product: { sku: 7, name },
  });
  expect(await post(update(1, '2026-05-04T10:00:02Z', 'New'))).toEqual({ taken: 1, repeats: 0 });
  expect(await post(update(1, '2026-05-04T10:00:02Z', 'New'))).toEqual({ taken: 0, repeats: 1 });
  await post(update(2, '2026-05-04T10:00:01Z', 'Old'));
  expect(await all()).toEqual([{ id: 7, name: 'New' }]);
  await expect(post(update(3, 'yesterday', 'x'))).rejects.toThrow('/at must be a whole number of 53 bits, or a time');
  await expect(post({ event: 'else', n: 4, at: 1, product: { sku: 7 } })).rejects.toThrow('/event must be one');
  await expect(post({ event: 'product/update', n: 4, at: 9e15 })).rejects.toThrow('/product must be an object');
  for (const wrong of ['', 'whsec_x', `${made.secret!}x`, own.secret])
    await expect(post(update(9, '2026-05-05T10:00:00Z', 'Evil'), wrong)).rejects.toThrow(/header webhook-id/);
  await post({ event: 'product/gone', n: 5, at: '2026-05-06T10:00:00Z', product: { sku: 7 } });
  expect(await all()).toEqual([]);
  // A feed that reads events takes no token.
  const headers: Record<string, string> = { 'content-type': STRUCTURED, authorization: `Bearer ${own.secret}` };
  await expect(
    feeds.sent.take(own.feed.id, { get: (name) => headers[name] ?? null }, '{}', JSON.parse),
  ).rejects.toThrow(/header/);
});
