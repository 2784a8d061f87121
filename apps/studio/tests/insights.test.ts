/** What visitors did, from keystrokes to sums: counted once, the same as a slow recount, erased, kept within bounds. */
import type { PastSearch, TuningDocument } from '@yucca/contract';
import { eq } from 'drizzle-orm';
import fc from 'fast-check';
import { settledSearches, searchLog } from '../src/server/db/insights-schema';
import { visitorEvents } from '../src/server/db/schema';
import { lastDays } from '../src/server/insights/insights';
import { DAY_MS, HOUR_MS } from '../src/server/insights/count';
import { alikeByClicks } from '../src/server/insights/lists';
import { readInsights } from '../src/server/insights/read-insights';
import { readList, type ListOrder } from '../src/server/insights/read-list';
import { SearchCounter } from '../src/server/insights/search-counter';
import { SearchLog, type AnsweredSearch } from '../src/server/insights/search-log';
import { bucketOf, middleOf, percentile } from '../src/server/insights/time-buckets';
import { trimInsights } from '../src/server/insights/trim-insights';
import { House, lines } from './house';

let house: House;
let id: number;
let counter: SearchCounter;
/** Noon of a Monday. */
const NOON = Date.UTC(2026, 4, 4, 12);
const RANGE = { from: NOON / DAY_MS - 0.5 - 30, to: NOON / DAY_MS - 0.5 + 30 };

beforeEach(async () => {
  // That Monday goes further away every day; what happened then is still to be kept.
  house = await new House({ YUCCA_INSIGHT_DAYS: '36500' }).open();
  await house.yucca.collections.create({ name: 'plants' });
  id = house.yucca.collections.idOf('plants');
  counter = new SearchCounter(house.yucca.db, 'secret');
});
afterEach(() => house.leave());

let answers = 0;
const answered = (seconds: number, q: string, session: string, more: Partial<AnsweredSearch> = {}): AnsweredSearch => ({
  at: NOON + seconds * 1_000,
  collectionId: id,
  queryId: `answer-${answers++}`,
  session,
  viewer: null,
  q,
  select: null,
  total: 10,
  ms: 2,
  tags: [],
  chosen: false,
  ...more,
});

/** Stores what a page tells, as it comes. */
function tell(type: string, { queryId, session, at }: AnsweredSearch, recordId = 'P-1', position = 1): number {
  const row = { type, queryId, recordId, position, session, at: new Date(at + 900).toISOString() };
  return house.yucca.db.insert(visitorEvents).values(row).returning().get().id;
}
const take = (searches: AnsweredSearch[], lastEvent: number, seconds: number, weight = 1): void =>
  counter.take({ searches, weight }, lastEvent, NOON + seconds * 1_000);
const scope = (tag = '') => ({ collectionId: id, tag, range: RANGE });
const totals = (tag = '') => readInsights(house.yucca.db, scope(tag), 'day').totals;
const list = (name: ListOrder['list'], more: Partial<ListOrder> = {}, tag = '') =>
  readList(house.yucca.db, scope(tag), { list: name, sort: null, q: '', page: 1, size: 200, least: 1, ...more });
const items = (...order: Parameters<typeof list>) => list(...order).items.map(({ item }) => item);

test('a trail of letters is one search, however the writes cut it', () => {
  const typed = ['l', 'la', 'lav', 'lavender'].map((q, i) => answered(i * 0.4, q, 'anna'));
  take(typed.slice(0, 2), 0, 0.5);
  take(typed.slice(2), 0, 1.5);
  expect(totals().searches).toBe(0);
  take([], 0, 6);
  expect(totals()).toMatchObject({ searches: 1, visitors: 1, nothing: 0, clicked: 0, meanPlace: null });
  expect(items('asked')).toMatchObject([{ query: 'lavender', count: 1, visitors: 1, ms: 2 }]);
  expect(house.yucca.db.select().from(searchLog).all()).toEqual([]);
});

test('what was open when the process ended settles in the next', async () => {
  take([answered(0, 'rose', 'anna')], 0, 1);
  expect(totals().searches).toBe(0);
  await house.reopen();
  const range = { from: RANGE.from, to: RANGE.to };
  for (let tries = 0; tries < 100; tries++) {
    const { totals: now } = await house.yucca.insights.read('plants', range, '', 'day');
    if (now.searches === 1) return;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('it never settled');
});

test('a click counts for the trail of its answer, before it settles and after', () => {
  const typed = ['rose', 'roses'].map((q, i) => answered(i * 0.4, q, 'anna'));
  // The answer to the first was still on the page.
  const early = tell('click', typed[0]!, 'P-7', 3);
  take(typed, early, 1);
  const late = answered(60, 'fern', 'bo');
  take([late], early, 60);
  take([], early, 66);
  take([], tell('click', late, 'P-9', 5), 90);
  expect(totals()).toMatchObject({ searches: 3, clicked: 2, meanPlace: 4 });
  expect(items('deep')).toMatchObject([{ query: 'fern', meanPlace: 5, clicked: 1 }]);
});

test('the same words again in a visit are one search, with what was chosen meanwhile', () => {
  const first = answered(0, 'rose', 'anna');
  take([first], 0, 6);
  const clicked = tell('click', first);
  take([answered(30, 'rose', 'anna', { select: { colour: ['red'] }, total: 3 })], clicked, 36);
  take([answered(50, 'rose', 'anna', { select: { colour: ['red', 'white'] }, total: 5 })], clicked, 56);
  expect(totals()).toMatchObject({ searches: 1, clicked: 1 });
  expect(items('facets')).toEqual([
    { facet: 'colour', value: 'red', count: 1 },
    { facet: 'colour', value: 'white', count: 1 },
  ]);
});

test('what was asked next, when nothing was opened', () => {
  take([answered(0, 'sword fern', 'anna', { total: 0 }), answered(20, 'fern', 'anna')], 0, 30);
  take([answered(0, 'sword fern', 'bo', { total: 0 }), answered(30, 'boston fern', 'bo', { total: 0 })], 0, 40);
  expect(items('nothing')).toMatchObject([
    {
      query: 'sword fern',
      nothing: 2,
      next: [{ text: 'boston fern', count: 1, found: 0 }, { text: 'fern', count: 1, found: 1 }],
    },
    { query: 'boston fern', nothing: 1, next: [] },
  ]); // prettier-ignore
});

test('by day, week and hour, with days that have nothing', () => {
  const at = (hours: number): number => hours * 3_600;
  take([answered(at(0), 'rose', 'anna'), answered(at(1), 'fern', 'anna', { total: 0 })], 0, at(2));
  take([answered(at(30), 'rose', 'bo')], 0, at(31));
  const range = { from: NOON / DAY_MS - 0.5, to: NOON / DAY_MS - 0.5 + 8 };
  const points = (interval: 'hour' | 'day' | 'week') =>
    readInsights(house.yucca.db, { ...scope(), range }, interval).series.map(({ searches, nothing }) => [searches, nothing]); // prettier-ignore
  expect(points('day')).toEqual([[2, 1], [1, 0], ...Array.from({ length: 7 }, () => [0, 0])]);
  expect(points('week')).toEqual([[3, 1], [0, 0]]); // prettier-ignore
  expect(points('hour')).toHaveLength(9 * 24);
  expect(points('hour').slice(12, 14)).toEqual([[1, 0], [1, 1]]); // prettier-ignore
});

test('by tag: a page, a width, a kind of customer', () => {
  take([answered(0, 'rose', 'anna', { tags: ['page:nursery', 'width:phone'] })], 0, 6);
  take([answered(0, 'fern', 'bo', { tags: ['page:nursery'] })], 0, 6);
  expect([totals(), totals('page:nursery'), totals('width:phone'), totals('other')].map((one) => one.searches)).toEqual(
    [2, 2, 1, 0],
  );
  expect(items('asked', {}, 'width:phone')).toMatchObject([{ query: 'rose' }]);
  expect(readInsights(house.yucca.db, scope(), 'day').tags).toEqual(['page:nursery', 'width:phone']);
});

test('records: shown and never opened, and never shown', async () => {
  await house.load('plants', '{"id":"P-1"}\n{"id":"P-2"}\n{"id":"P-3"}', 'application/x-ndjson');
  const search = answered(0, 'rose', 'anna');
  tell('view', search, 'P-1');
  tell('view', search, 'P-2');
  take([search], tell('click', search, 'P-2'), 6);
  expect(items('shown')).toEqual([{ value: 'P-1', count: 1, clicked: 0 }]);
  expect(items('unseen')).toEqual([{ value: 'P-3', count: 0 }]);
});

test('nothing that names a person is kept, and visits are not what pages call them', () => {
  take([answered(0, 'invoice anna@example.org', 'anna-session', { viewer: 'anna' })], 0, 6);
  const rows = JSON.stringify(house.yucca.db.select().from(settledSearches).all());
  expect(rows).toContain('(e-mail)');
  expect(rows).not.toMatch(/anna/);
});

test('machines and made-up names do not make the tables grow', () => {
  counter = new SearchCounter(house.yucca.db, 'secret', { tags: 3, queries: 20, choices: 5, records: 5, ranks: 5 });
  const fast = Array.from({ length: 1_000 }, (_, i) => answered(i * 0.1, `word${i}`, 'machine'));
  take(fast, 0, 200);
  expect(totals().searches).toBeLessThanOrEqual(400);
  const many = Array.from({ length: 50 }, (_, i) =>
    answered(300 + i, `query ${i}`, `visit ${i}`, { tags: [`tag ${i}`], select: { facet: [`value ${i}`] } }),
  );
  take(many, 0, 400);
  expect(items('asked').length).toBeLessThanOrEqual(20);
  expect(items('facets').length).toBeLessThanOrEqual(5);
  expect(readInsights(house.yucca.db, scope(), 'day').tags.length).toBeLessThanOrEqual(3);
  // In the sums they are all there.
  expect(totals().searches).toBeGreaterThanOrEqual(50);
});

test('under pressure whole visits stand for all, and it is said', () => {
  const log = new SearchLog(100);
  for (let i = 0; i < 4_000; i++) log.note(answered(0, 'rose', `visit ${i}`));
  const { searches, weight } = log.take();
  expect(searches.length).toBeLessThanOrEqual(100);
  expect(weight).toBeGreaterThan(16);
  take(searches, 0, 6, weight);
  const told = readInsights(house.yucca.db, scope(), 'day');
  expect(told.sampled).toBe(true);
  expect(Math.abs(told.totals.searches / 4_000 - 1)).toBeLessThan(0.5);
  for (let i = 0; i < 200; i++) log.take();
  expect(log.take().weight).toBe(1);
});

test('percentiles from buckets are within 3%', () => {
  const times = Array.from({ length: 1_000 }, (_, i) => 0.2 * 1.01 ** i).sort((a, b) => a - b);
  const counts = new Map<number, number>();
  for (const ms of times) counts.set(bucketOf(ms), (counts.get(bucketOf(ms)) ?? 0) + 1);
  const rows = [...counts].map(([bucket, searches]) => ({ bucket, searches })).sort((a, b) => a.bucket - b.bucket);
  for (const share of [0.05, 0.5, 0.95])
    expect(percentile(rows, share)! / times[Math.ceil(share * 1_000) - 1]!).toBeCloseTo(1, 1);
  expect(percentile([], 0.5)).toBeNull();
  expect(middleOf(bucketOf(7)) / 7).toBeCloseTo(1, 1);
});

const pastSearch = fc.record({
  at: fc.integer({ min: 0, max: 20 * 24 * 60 }).map((minutes) => new Date(NOON + minutes * 60_000).toISOString()),
  q: fc.constantFrom('rose', 'Rose', 'fern', 'agave', 'pot 30 cm', 'ivy'),
  session: fc.integer({ min: 0, max: 8 }).map((n) => `visit ${n}`),
  viewer: fc.constantFrom('anna', 'bo', 'chris'),
  total: fc.constantFrom(0, 0, 3, 40),
  ms: fc.double({ min: 0.1, max: 90, noNaN: true }),
  tags: fc.uniqueArray(fc.constantFrom('page:nursery', 'width:phone'), { maxLength: 2 }),
  select: fc.constantFrom({}, { colour: ['red'] }, { colour: ['red', 'white'], light: ['sun'] }),
  chosen: fc.boolean(),
  clicks: fc.array(fc.record({ recordId: fc.constantFrom('P-1', 'P-2'), position: fc.integer({ min: 1, max: 30 }) }), { maxLength: 3 }), // prettier-ignore
  conversions: fc.integer({ min: 0, max: 2 }),
});

test('the sums are what a slow recount of the single searches gives, also after erasing', () => {
  const everything = fc.array(pastSearch, { maxLength: 60 });
  fc.assert(
    fc.property(everything, fc.constantFrom('anna', 'visit 3', 'rose', 'nobody'), (searches, erased) => {
      const { db } = house.yucca;
      for (const { name } of db.$client.prepare(`select name from sqlite_master where name like 'insight_%' and type = 'table'`).all() as { name: string }[]) db.$client.exec(`delete from ${name}`); // prettier-ignore
      db.delete(settledSearches).run();
      counter = new SearchCounter(db, 'secret');
      const inOrder = [...searches].sort((a, b) => (a.at < b.at ? -1 : 1));
      counter.import(id, inOrder as PastSearch[]);
      expect(sums()).toEqual(recount());
      counter.erase(id, erased === 'rose' ? { query: erased } : { [erased === 'anna' ? 'viewer' : 'session']: erased });
      expect(sums()).toEqual(recount());
    }),
    { numRuns: 40 },
  );

  function sums() {
    const { totals, series } = readInsights(house.yucca.db, scope(), 'hour');
    const { searches, nothing, clicked, conversions, meanPlace } = totals;
    const perQuery = items('asked').map(({ query, count, nothing, clicked, conversions }) => [query!.toLowerCase(), count, nothing, clicked, conversions]); // prettier-ignore
    return {
      ...{ searches, nothing, clicked, conversions, meanPlace },
      series: series.filter((point) => point.searches > 0).map((point) => [point.at, point.searches, point.nothing, point.clicked]), // prettier-ignore
      queries: perQuery.sort(),
      choices: items('facets').map(({ facet, value, count }) => [facet, value, count]).sort(), // prettier-ignore
    };
  }

  function recount() {
    const rows = house.yucca.db.select().from(settledSearches).where(eq(settledSearches.collectionId, id)).all();
    const sum = (of: (row: (typeof rows)[number]) => number, among = rows): number =>
      among.reduce((all, row) => all + of(row), 0);
    const nothing = (row: (typeof rows)[number]): number => (row.total === 0 ? 1 : 0);
    const clicked = (row: (typeof rows)[number]): number => (row.clicks > 0 ? 1 : 0);
    const groups = (key: (row: (typeof rows)[number]) => string): [string, typeof rows][] => {
      const all = new Map<string, typeof rows>();
      for (const row of rows) all.set(key(row), [...(all.get(key(row)) ?? []), row]);
      return [...all];
    };
    const chosen = new Map<string, number>();
    for (const { choices } of rows)
      for (const [facet, values] of Object.entries(JSON.parse(choices ?? '{}') as Record<string, string[]>))
        for (const value of values) chosen.set(`${facet}|${value}`, (chosen.get(`${facet}|${value}`) ?? 0) + 1);
    return {
      searches: rows.length,
      nothing: sum(nothing),
      clicked: sum(clicked),
      conversions: sum((row) => row.conversions),
      meanPlace: sum(clicked) > 0 ? Math.round((sum((row) => row.firstPlace ?? 0) / sum(clicked)) * 100) / 100 : null,
      series: groups((row) => new Date(Math.floor(row.at / HOUR_MS) * HOUR_MS).toISOString())
        .map(([at, all]) => [at, all.length, sum(nothing, all), sum(clicked, all)])
        .sort(),
      queries: groups((row) => row.words)
        .map(([words, all]) => [
          words,
          all.length,
          sum(nothing, all),
          sum(clicked, all),
          sum((row) => row.conversions, all),
        ]) // prettier-ignore
        .sort(),
      choices: [...chosen].map(([key, count]) => [...key.split('|'), count]).sort(),
    };
  }
});

test('clicks make judgements, with ranks taken into account, and apart from those by hand', async () => {
  const { judgements, insights } = house.yucca;
  await house.load('plants', '{"id":"P-1","name":"fern"}\n{"id":"P-2","name":"fern"}\n{"id":"P-3","name":"fern"}', 'application/x-ndjson'); // prettier-ignore
  // All are shown in this order: nobody opens the first, two of three the second, one in four the third.
  const visits = Array.from({ length: 90 }, (_, i): PastSearch => {
    const clicks = i % 3 === 0 ? [] : [{ recordId: 'P-2', position: 2 }];
    if (i % 4 === 0) clicks.push({ recordId: 'P-3', position: 3 });
    return { at: new Date(Date.now() - i * 60_000).toISOString(), q: 'Fern', session: `visit ${i}`, total: 3, shown: ['P-1', 'P-2', 'P-3'], clicks }; // prettier-ignore
  });
  await insights.import('plants', visits);
  const range = { from: Math.floor(Date.now() / DAY_MS) - 5, to: Math.floor(Date.now() / DAY_MS) };
  const told = await insights.judgements('plants', range);
  expect(told.judgements).toMatchObject([{ query: 'Fern', grades: { 'P-1': 0, 'P-2': 3 } }]);
  expect(told.judgements[0]!.grades['P-3']).toBeGreaterThan(0);
  expect(told.looked[0]).toBe(1);
  expect(judgements.list('plants')).toEqual([]);
  const scored = await judgements.run('plants', ['Fern'], told.judgements);
  expect(scored.queries).toMatchObject([{ query: 'Fern', judged: 3, live: { found: 1, reciprocalRank: 0.5 } }]);
  await insights.erase('plants', { query: 'fern' });
  expect((await insights.judgements('plants', range)).judgements).toEqual([]);
});

test('single searches go after a while, their sums stay, and rare queries of old days go too', () => {
  const past = (day: number, q: string): PastSearch => ({
    at: new Date(NOON + day * DAY_MS).toISOString(),
    ...{ q, session: `${day} ${q}`, total: 1 },
  });
  counter.import(id, [past(0, 'rose'), past(0, 'rose '), past(0, 'fern'), past(0, 'ivy'), past(20, 'agave')]);
  const now = NOON + 21 * DAY_MS;
  expect(trimInsights(house.yucca.db, { rawDays: 7, sumDays: 400 }, now, { asked: 1, inVain: 0 })).toBe(false);
  expect(house.yucca.db.select().from(settledSearches).all()).toHaveLength(1);
  expect(totals().searches).toBe(5);
  expect(items('asked').map(({ query }) => query)).toEqual(['rose', 'agave']);
  trimInsights(house.yucca.db, { rawDays: 7, sumDays: 10 }, now + DAY_MS);
  expect(totals().searches).toBe(1);
});

test('fixed since the version that fixed it, not since any that was published meanwhile', async () => {
  const { yucca } = house;
  await house.load('plants', lines([{ id: 'a', name: 'dog rose' }]), 'application/x-ndjson');
  const failed = { at: new Date(Date.now() - 60_000).toISOString(), q: 'briar', session: 's', total: 0 };
  await yucca.insights.import('plants', [failed]);
  const publish = async (tuning: TuningDocument): Promise<string> => {
    await yucca.tunings.replaceDraft('plants', tuning);
    await yucca.tunings.publish('plants', null);
    return yucca.tunings.versions('plants').at(0)!.savedAt;
  };
  const fixedSince = async (): Promise<string | undefined> => {
    const order = { list: 'nothing', sort: null, q: '', page: 1, size: 10 } as const;
    return (await yucca.insights.list('plants', lastDays(7), '', order)).items[0]!.fixedSince;
  };
  const synonyms: TuningDocument['synonyms'] = [{ kind: 'oneWay', from: ['briar'], to: ['rose'] }];
  await publish({ stopWords: ['a'] });
  expect(await fixedSince()).toBeUndefined();
  const fixed = await publish({ stopWords: ['a'], synonyms });
  expect(await fixedSince()).toBe(fixed);
  await publish({ stopWords: ['a', 'the'], synonyms });
  expect(await fixedSince()).toBe(fixed);
});

test('what is kept can be taken away and brought in again, with what was opened', async () => {
  const { yucca } = house;
  await yucca.collections.create({ name: 'copy' });
  await house.load('plants', lines([{ id: 'a', name: 'dog rose' }, { id: 'b', name: 'tea rose' }]), 'application/x-ndjson'); // prettier-ignore
  const found = await yucca.search.search('plants', { q: 'rose', session: 'v', viewer: 'w', tags: ['page:shop'] });
  const [first] = found.results;
  const told = { queryId: found.queryId, recordId: first!.id, position: 1, session: 'v' };
  yucca.visitorEvents.take([{ type: 'view', ...told }, { type: 'click', ...told }, { type: 'convert', ...told }]); // prettier-ignore
  await yucca.search.search('plants', { q: 'briar', session: 'x' });
  const range = lastDays(2);
  const read = async (name: string): Promise<PastSearch[]> => {
    const parts: string[] = [];
    for await (const part of yucca.insights.export(name, range)) parts.push(part);
    return parts.join('').split('\n').filter(Boolean).map((line) => JSON.parse(line) as PastSearch); // prettier-ignore
  };
  // A trail settles four seconds after its last letter.
  while ((await read('plants')).length < 2) await new Promise((resolve) => setTimeout(resolve, 200));
  const searches = await read('plants');
  expect(searches).toMatchObject([
    { q: 'rose', total: 2, tags: ['page:shop'], shown: [first!.id], clicks: [{ recordId: first!.id, position: 1 }], conversions: 1 },
    { q: 'briar', total: 0 },
  ]); // prettier-ignore
  expect(JSON.stringify(searches)).not.toMatch(/"(v|w|x)"/);
  await yucca.insights.import('copy', searches);
  const totals = async (name: string) => (await yucca.insights.read(name, range, '', 'day')).totals;
  expect(await totals('copy')).toEqual(await totals('plants'));
});

test('other queries that lead to the same records', async () => {
  const of = (q: string, ...records: string[]): PastSearch[] =>
    records.map((recordId, i) => ({ at: new Date(NOON + i * 3_600_000).toISOString(), q, session: `${q} ${i}`, total: 9, clicks: [{ recordId, position: 1 }] })); // prettier-ignore
  await house.yucca.insights.import('plants', [
    ...of('chilli', 'a', 'b'),
    ...of('pepper', 'a', 'b', 'b', 'c'),
    ...of('fern', 'a', 'd'),
  ]);
  expect(alikeByClicks(house.yucca.db, scope(), 'chilli')).toEqual([{ text: 'pepper', records: 2, opened: 3 }]);
});
