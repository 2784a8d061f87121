import type { VisitorEvent } from '@yucca/contract';
import { pastQueries, visitorEvents } from '../src/server/db/schema';
import { AnsweredQueries } from '../src/server/past-queries/answered-queries';
import { PastQueries } from '../src/server/past-queries/past-queries';
import { House, lines } from './house';

const NDJSON = 'application/x-ndjson';
const PLANTS = [
  { id: 'P-1', name: 'Snow fern', shop: 'north' },
  { id: 'P-2', name: 'Fernwood agave', shop: 'south' },
  { id: 'P-3', name: 'Rose Ambleside', shop: 'north' },
  { id: 'P-4', name: 'Rose Fernhill', shop: 'south' },
];
let house: House;

beforeEach(async () => {
  house = await new House().open();
  await house.yucca.collections.create({ name: 'plants' });
  await house.load('plants', lines(PLANTS), NDJSON);
});
afterEach(() => house.leave());

/** A visit: somebody asks, and does something with the first result. */
async function visit(
  q: string,
  session: string,
  { type = 'click', ...asked }: { type?: VisitorEvent['type']; forcedFilter?: string; record?: boolean } = {},
): Promise<string> {
  const { forcedFilter, ...request } = asked;
  const { queryId, results } = await house.yucca.search.search('plants', { q, ...request }, { forcedFilter });
  house.yucca.visitorEvents.take([{ type, queryId, recordId: results[0]?.id ?? 'none', session }]);
  await house.yucca.visitorEvents.counted();
  return queryId;
}

async function offered(q: string, forcedFilter?: string): Promise<string[]> {
  const { suggestions } = await house.yucca.search.suggest('plants', q, 8, { forcedFilter });
  return suggestions.filter(({ kind }) => kind === 'query').map(({ text, count }) => `${text} ${count}`);
}

const kept = () => house.yucca.db.select().from(pastQueries).all();

test('what two visits asked for and opened is offered to the next, with what it finds now', async () => {
  await visit('Snow  Fern ', 'anna');
  expect(await offered('sn')).toEqual([]);
  await visit('snow fern', 'bo', { type: 'convert' });
  expect(await offered('sn')).toEqual(['Snow Fern 1']);
  expect(await offered('snow fern')).toEqual([]);
  expect(await offered('fern')).toEqual([]);
  await house.load('plants', lines([{ id: 'P-5', name: 'Snow fern, large' }]), NDJSON);
  expect(await offered('sn')).toEqual(['Snow Fern 2']);
  await house.reopen();
  expect(await offered('SNOW f')).toEqual(['Snow Fern 2']);
});

test('one visitor is one visit, however often, and so is one answer', async () => {
  await visit('rose', 'anna');
  await visit('rose', 'anna');
  const queryId = await visit('rose', 'anna');
  house.yucca.visitorEvents.take([{ type: 'convert', queryId, recordId: 'P-3', session: 'bo' }]);
  await house.yucca.visitorEvents.counted();
  expect(kept()).toMatchObject([{ folded: 'rose', visits: 1, lastSession: 'anna' }]);
  await visit('rose', 'bo');
  await visit('rose', 'anna');
  expect(kept()).toMatchObject([{ visits: 3 }]);
});

test.each([
  ['half-typed', 'fernh', {}],
  ['misspelt', 'rsoe', {}],
  ['only seen', 'snow fern', { type: 'view' as const }],
  ['kept out of insights', 'snow fern', { record: false }],
  ['empty', ' ', {}],
  ['finding nothing', 'zzz', {}],
  ['a phrase', '"snow fern"', {}],
])('a query that was %s is offered to nobody, and its event is kept', async (_, q, more) => {
  await visit(q, 'anna', more);
  await visit(q, 'bo', more);
  expect(kept()).toEqual([]);
  expect(house.yucca.db.select().from(visitorEvents).all()).toHaveLength(2);
});

test('what may name a person is offered to nobody, even where it finds something', async () => {
  await house.load('plants', lines([{ id: 'P-9', name: 'Fern, ask 020 7946 0958' }]), NDJSON);
  await visit('fern 020 7946 0958', 'anna');
  await visit('fern 020 7946 0958', 'bo');
  expect(kept()).toEqual([]);
});

test('what was asked under a forced filter is offered under the same one alone', async () => {
  const north = "shop = 'north'";
  await visit('rose ambleside', 'anna', { forcedFilter: north });
  await visit('rose ambleside', 'bo', { forcedFilter: north });
  await visit('rose fernhill', 'anna');
  await visit('rose fernhill', 'bo');
  expect(await offered('ro', north)).toEqual(['rose ambleside 1']);
  expect(await offered('ro', "shop = 'south'")).toEqual(['rose fernhill 1']);
  expect(await offered('ro')).toEqual(['rose fernhill 1']);
});

test('the most visited come first, and what finds nothing any more gives way', async () => {
  for (const session of ['a', 'b']) await visit('rose ambleside', session);
  for (const session of ['a', 'b', 'c']) await visit('rose fernhill', session);
  expect(await offered('r')).toEqual(['rose fernhill 1', 'rose ambleside 1']);
  await house.yucca.records.remove('plants', ['P-4']);
  await house.load('plants', lines([{ id: 'P-6', name: 'Fern' }]), NDJSON);
  expect(await offered('r')).toEqual(['rose ambleside 1']);
});

test('an event after its collection has gone is kept, and counted for no collection of the same name', async () => {
  const { queryId } = await house.search('plants', 'rose');
  house.yucca.removeCollection('plants');
  const event = { type: 'click' as const, queryId, recordId: 'P-3', session: 'anna' };
  house.yucca.visitorEvents.take([event]);
  await house.yucca.visitorEvents.counted();
  expect(kept()).toEqual([]);
  expect(house.yucca.db.select().from(visitorEvents).all()).toHaveLength(1);
});

test('a collection takes its past queries along', async () => {
  await visit('rose', 'anna');
  expect(kept()).toHaveLength(1);
  house.yucca.removeCollection('plants');
  for (let i = 0; i < 100 && kept().length > 0; i++) await new Promise((resolve) => setTimeout(resolve, 50));
  expect(kept()).toEqual([]);
});

test('of more queries than are kept, the least visited and of them the oldest are given up', () => {
  const queries = new PastQueries({ db: house.yucca.db, limits: { kept: 100, lookAfter: 50 } });
  const count = (q: string, at: number, collectionId = 7): void =>
    queries.count({ collection: 'plants', collectionId, scope: '', q }, null, new Date(at).toISOString());
  for (let i = 0; i < 3; i++) count(`rose ${i}`, i);
  count('fern', 0, 8);
  for (let i = 0; i < 147; i++) count(`rose ${i}`, i);
  // Looked at after 101 visits, when there were few enough, and after 151, when there were 147.
  const texts = new Set(kept().map(({ text }) => text));
  expect(texts.size).toBe(101);
  const spared = ['rose 0', 'rose 2', 'rose 3', 'rose 49', 'rose 50', 'rose 146', 'fern'].map((q) => texts.has(q));
  expect(spared).toEqual([true, true, false, false, true, true, true]);
});

test('an answer is told of once, and the oldest answers are forgotten', () => {
  const answered = new AnsweredQueries();
  const query = { collection: 'plants', collectionId: 1, scope: '', q: 'rose' };
  for (let i = 0; i <= 10_000; i++) answered.keep(`id-${i}`, query);
  expect(answered.take('id-0')).toBeNull();
  expect(answered.take('id-1')).toEqual(query);
  expect(answered.take('id-1')).toBeNull();
});
