/** @jest-environment node */
/** What was lost on the way of a feed, and what others did to its records. */
import type { FeedComparison, FeedRepair, RecordJson, RepairKind, Task } from '@yucca/contract';
import { FeedChanges } from '../src/server/feeds/apply-changes';
import { RecordStore } from '../src/server/records/record-store';
import { lines, resultOf } from './house';
import { sendingHouse } from './sending-house';

const own = sendingHouse();
const { all, event, send } = own;

describe('what was lost on the way', () => {
  const text = (...records: unknown[]): AsyncIterable<Uint8Array> => {
    const bytes = Buffer.from(records.map((record) => (typeof record === 'string' ? record : JSON.stringify(record))).join('\n')); // prettier-ignore
    return (async function* () {
      // Odd pieces, so that lines and letters are cut anywhere.
      for (let at = 0; at < bytes.length; at += 7) yield new Uint8Array(bytes.subarray(at, at + 7));
    })();
  };
  const repair = (
    source: AsyncIterable<Uint8Array> | null,
    what: RepairKind[],
    more: { asOf?: number; confirmed?: boolean } = {},
  ) =>
    resultOf(
      own.house.yucca.feeds.repair(own.feed.id, source, { what, asOf: Date.now() + 1, confirmed: false, ...more }),
    );
  const records = (many: number): RecordJson[] => Array.from({ length: many }, (_, i) => ({ id: `p${i}`, name: `Fern ${i}`, süß: i })); // prettier-ignore

  test('is found by comparing, with its keys and fields, and changes nothing', async () => {
    await own.house.load('plants', lines(records(5)), 'application/x-ndjson');
    const [, second, ...rest] = records(6);
    const told = await resultOf<FeedComparison>(own.house.yucca.feeds.compare(own.feed.id, text({ ...second, name: 'Moss', more: 1 }, ...rest, '', 'half {', { name: 'no key' }, { id: { a: 1 } }))); // prettier-ignore
    expect(told).toMatchObject({ records: 5, same: 3, missing: 1, different: 1, extra: 1, unreadable: 3 });
    expect(told.samples).toMatchObject({
      missing: ['p5'],
      different: [{ key: 'p1', fields: ['name', 'more'] }],
      extra: ['p0'],
      unreadable: [{ line: 7 }, { line: 8, detail: 'the record has no “id”' }, { line: 9 }],
    });
    expect(await all()).toHaveLength(5);
    await expect(own.house.yucca.feeds.compare(own.feed.id, text('x'.repeat(1_700_000)))).rejects.toThrow(
      'longer than',
    );
    const [failed] = own.house.yucca.tasks.list('plants', 1);
    expect(failed).toMatchObject({ kind: 'feed-compare', state: 'failed', errors: [{ detail: expect.stringContaining('longer than') as string }] }); // prettier-ignore
  });

  test('without its records it is compared with what its events told last', async () => {
    for (const record of records(5)) await send(event('upserted', String(record.id), record));
    await send(event('deleted', 'p4'));
    await own.house.yucca.records.put('plants', 'p0', { name: 'Changed here' }, 'replace');
    await own.house.yucca.records.remove('plants', ['p1']);
    await own.house.load('plants', lines([{ id: 'p4', name: 'Back' }, { id: 'other' }]), 'application/x-ndjson');
    expect(await resultOf(own.house.yucca.feeds.compare(own.feed.id, null))).toEqual({
      ...{ records: 4, same: 2, missing: 1, different: 1, extra: 1, unreadable: 0 },
      samples: { missing: ['p1'], different: [{ key: 'p0', fields: [] }], extra: ['p4'], unreadable: [] },
    });
    await expect(repair(null, ['missing'])).rejects.toThrow('send all of its records');
  });

  test('is broken off when that is asked: what is written stays and is found, nothing is deleted', async () => {
    await own.house.load('plants', lines(records(3)), 'application/x-ndjson');
    let goOn = (): void => {};
    const waits = new Promise<void>((resolve) => (goOn = resolve));
    const slow = (async function* () {
      yield Buffer.from(lines(records(700).slice(1)));
      await waits;
      yield Buffer.from(lines(records(900).slice(700)));
    })();
    const named = '7f0c0a52-0000-4000-8000-000000000001';
    const begun = own.house.yucca.feeds.repair(own.feed.id, slow, { what: ['missing', 'extra'], asOf: Date.now() + 1, confirmed: true }, named); // prettier-ignore
    const running = (): Task => own.house.yucca.tasks.get(named);
    while (running().done < 600) await new Promise((resolve) => setTimeout(resolve, 10));
    expect(running()).toMatchObject({ kind: 'feed-repair', state: 'running' });
    own.house.yucca.tasks.cancel(running().id);
    goOn();
    const end = await (await begun).ended;
    expect(end).toMatchObject({ state: 'cancelled', errors: [], result: { deleted: 0 } });
    const { written } = end.result as FeedRepair;
    expect(written).toBeGreaterThan(500);
    expect(written).toBeLessThan(897);
    expect((await own.house.search('plants', { q: '', size: 0 })).total).toBe(3 + written);
    expect(await own.house.ids('plants', 'p0')).toEqual(['p0']);
  });

  test('is repaired as far as it is asked for; what is newer, and what many would lose, stays', async () => {
    await own.house.load('plants', lines(records(5)), 'application/x-ndjson');
    const [first, second] = records(7);
    const source = (): RecordJson[] => [
      { ...first, name: 'Moss' },
      { süß: 1, name: 'Fern 1', id: second!.id! },
      ...records(7).slice(5),
    ];
    expect(await repair(text(...source()), ['missing'])).toEqual({ written: 2, deleted: 0, left: 0, unreadable: 0, asks: null }); // prettier-ignore
    expect((await all()).find(({ id }) => id === 'p0')!.name).toBe('Fern 0');
    expect(await repair(text(...source()), ['missing', 'different'])).toMatchObject({ written: 1 });
    expect((await all()).find(({ id }) => id === 'p0')!.name).toBe('Moss');
    // Three of seven would go.
    expect(await repair(text(...source()), ['extra'])).toMatchObject({ deleted: 0, asks: 3 });
    expect(await repair(text(), ['extra'], { confirmed: true })).toMatchObject({ deleted: 0, asks: null });
    expect(await repair(text(...source(), 'half {'), ['extra'], { confirmed: true })).toMatchObject({ deleted: 0, unreadable: 1 }); // prettier-ignore
    expect(await all()).toHaveLength(7);
    // An event came after the source was read.
    const asOf = Date.now() - 1;
    await send(event('patched', 'p0', { name: 'Newer' }));
    await send(event('patched', 'p2', { name: 'Newer too' }));
    expect(await repair(text(...source()), ['missing', 'different', 'extra'], { asOf, confirmed: true })).toEqual({ written: 0, deleted: 2, left: 2, unreadable: 0, asks: null }); // prettier-ignore
    expect((await all()).map(({ id, name }) => `${String(id)} ${String(name)}`)).toEqual(['p0 Newer', 'p1 Fern 1', 'p2 Newer too', 'p5 Fern 5', 'p6 Fern 6']); // prettier-ignore
    expect(own.house.yucca.collections.get('plants').records).toBe(5);
    expect(await own.house.ids('plants', '')).toHaveLength(5);
  });
});

test('what others do to its records is found without reading them; field rules are no others', async () => {
  const { feeds, records, fieldRules } = own.house.yucca;
  await send(['a', 'b', 'c', 'd'].map((id, i) => event('upserted', id, { name: id, price: `${i}` })));
  await send([event('patched', 'a', { price: '9' }), event('deleted', 'd')]);
  const check = async () => {
    const { feeds: found } = own.house.yucca;
    await found.checkDue(Date.now() + 90_000_000);
    return found.get(own.feed.id).drift;
  };
  expect(feeds.get(own.feed.id).drift).toBeNull();
  expect(await check()).toMatchObject({ missing: 0, different: 0, extra: 0 });
  fieldRules.set('plants', [{ field: 'price', as: 'number' }]);
  await fieldRules.apply('plants').ended;
  expect(await all()).toMatchObject([{ price: 9 }, { price: 1 }, { price: 2 }]);
  expect(await check()).toMatchObject({ missing: 0, different: 0, extra: 0 });
  await records.put('plants', 'a', { id: 'a', name: 'By hand' }, 'replace');
  await records.put('plants', 'd', { id: 'd' }, 'replace');
  await records.remove('plants', ['b']);
  expect(await check()).toMatchObject({ missing: 1, different: 1, extra: 1 });
  // The source tells them again.
  await send([event('upserted', 'a', { name: 'a' }), event('upserted', 'b', { name: 'b' }), event('deleted', 'd')]);
  expect(await check()).toMatchObject({ missing: 0, different: 0, extra: 0 });
  await feeds.change(own.feed.id, { checkEveryS: null });
  expect(feeds.get(own.feed.id).checkEveryS).toBeNull();
});

test('what comes while something is stored is stored with what came beside it: each has its own answer', async () => {
  const many = Array.from({ length: 60 }, (_, i) => event('upserted', `k${i % 20}`, { n: i }, { sequence: i }));
  const sent = many.map((one, i) => send(one, { message: `once-${i}` }));
  own.house.yucca.feeds.pause(own.feed.id);
  const paused = own.house.yucca.feeds.resume(own.feed.id);
  const again = many.slice(0, 5).map((one, i) => send(one, { message: `once-${i}` }));
  expect(await Promise.all(sent)).toEqual(many.map(() => ({ taken: 1, repeats: 0 })));
  expect(await Promise.all(again)).toEqual(again.map(() => ({ taken: 0, repeats: 1 })));
  await paused;
  expect((await all()).map(({ n }) => n)).toHaveLength(20);
  expect((await all()).every(({ n }) => Number(n) >= 40)).toBe(true);
  expect(own.house.yucca.feeds.get(own.feed.id)).toMatchObject({ lagS: 0, dead: 0, events: 60 });
});

test('a mapping is tried on the newest records that came; older ones are not kept for it', async () => {
  const { feeds, db } = own.house.yucca;
  for (let i = 0; i < 30; i++) await send(event('upserted', `k${i}`, { cost: i === 29 ? 'much' : `${i}` }));
  const preview = () => feeds.preview({ source: { kind: 'webhook' }, feed: own.feed.id, mapping: [{ field: 'price', from: ['/cost'], as: 'number' }] }); // prettier-ignore
  const { records } = await preview();
  expect(records).toHaveLength(10);
  expect(records.slice(0, 2)).toEqual([
    { before: { cost: 'much' }, after: null, problem: expect.stringMatching(/“price”/) as string },
    { before: { cost: '28' }, after: { price: 28 }, problem: null },
  ]);
  new FeedChanges(db, new RecordStore(db)).trim(Date.now());
  const kept = db.$client.prepare('select count(*) from feed_events where data is not null').pluck().get();
  expect(kept).toBe(21);
  expect((await preview()).records).toHaveLength(10);
  await expect(feeds.preview({ source: { kind: 'webhook' } })).rejects.toThrow('connect it first');
});
