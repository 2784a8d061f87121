import { effectOf } from '../src/features/judgements/run-judgements';
import { ordered } from '../src/features/judgements/query-table';
import { change } from '../src/features/judgements/score-strip';
import { House, lines } from './house';
import type { JudgedQuery } from '@yucca/contract';

let house: House;
beforeAll(async () => {
  house = await new House().open();
  const { collections, tunings } = house.yucca;
  await collections.create({ name: 'plants', title: 'Plants' });
  const plants = [
    { id: 'P-1', name: 'Dog rose', care: 'A hedge.' },
    { id: 'P-2', name: 'Fern', care: 'Not a rose, though it stands beside one.' },
    { id: 'P-3', name: 'Beach rose', care: 'By the sea.' },
  ];
  await house.load('plants', lines(plants), 'application/x-ndjson');
  await tunings.replaceDraft('plants', { search: [{ field: 'name', weight: 1 }] });
});
afterAll(() => house.leave());

test('judgements are kept, changed and taken back; a query without grades is gone', async () => {
  const { judgements } = house.yucca;
  judgements.replace('plants', [
    { query: 'rose', grades: { 'P-1': 3, 'P-2': 0 } },
    { query: 'fern', grades: { 'P-2': 3 } },
  ]);
  expect(judgements.change('plants', [{ query: 'rose', grades: { 'P-2': null, 'P-3': 2, __proto__x: 1 } }])[0]).toEqual(
    {
      query: 'rose',
      grades: { 'P-1': 3, 'P-3': 2, __proto__x: 1 },
    },
  );
  judgements.change('plants', [
    { query: 'fern', grades: null },
    { query: 'rose', grades: { __proto__x: null } },
  ]);
  await house.reopen();
  expect(house.yucca.judgements.list('plants')).toEqual([{ query: 'rose', grades: { 'P-1': 3, 'P-3': 2 } }]);
  expect(house.yucca.collections.get('plants').judged).toBe(1);
  expect(() => house.yucca.judgements.list('nowhere')).toThrow('nowhere');
});

test('live and draft are scored at every judged query, or at some', async () => {
  const { judgements } = house.yucca;
  judgements.replace('plants', [
    { query: 'rose', grades: { 'P-1': 3, 'P-3': 3 } },
    { query: 'beside', grades: { 'P-2': 3 } },
    { query: 'zzzzzz', grades: { 'P-1': 1 } },
  ]);
  const { queries, live, draft } = await judgements.run('plants', null);
  expect(queries.map(({ query, judged }) => [query, judged])).toEqual([
    ['rose', 2],
    ['beside', 1],
    ['zzzzzz', 1],
  ]);
  // The draft searches names alone: it does not find what only the care says.
  expect(queries[1]).toMatchObject({ live: { ndcg: 1, found: 1 }, draft: { ndcg: 0, found: 0 } });
  expect(queries[2]).toMatchObject({ live: { ndcg: 0, found: 0 } });
  expect(live.ndcg).toBeGreaterThan(draft.ndcg);
  const some = await judgements.run('plants', ['rose', 'not judged']);
  expect(some.queries.map(({ query }) => query)).toEqual(['rose']);
});

test('who has gone is not scored for', async () => {
  const gone = new AbortController();
  gone.abort();
  await expect(house.yucca.judgements.run('plants', null, null, gone.signal)).rejects.toThrow();
});

test('a collection that is deleted takes its judgements along', async () => {
  const { collections, db, judgements, removeCollection } = house.yucca;
  await collections.create({ name: 'gone' });
  judgements.replace('gone', [{ query: 'a', grades: { x: 1 } }]);
  removeCollection('gone');
  const left = () => db.$client.prepare("select count(*) from judgements where query = 'a'").pluck().get();
  for (let tries = 0; tries < 100 && left() !== 0; tries++) await new Promise((resolve) => setTimeout(resolve, 50));
  expect(left()).toBe(0);
});

const judged = (query: string, live: number, draft: number): JudgedQuery => {
  const scores = (ndcg: number) => ({ ndcg, precision: 0, reciprocalRank: 0, found: 1 });
  return { query, judged: 1, live: scores(live), draft: scores(draft) };
};

test('a draft in short: what gets better and worse, the greatest change first', () => {
  const scored = [judged('a', 0.5, 0.6), judged('b', 0.5, 0.5), judged('c', 0.9, 0.2), judged('d', 0, 1)];
  const { better, worse, ...rest } = effectOf(scored);
  expect(better.map(({ query }) => query)).toEqual(['d', 'a']);
  expect(worse.map(({ query }) => query)).toEqual(['c']);
  expect(rest).toEqual({ judged: 4, live: 0.475, draft: 0.575 });
});

test('queries in the order that is asked for; those not scored yet come last', () => {
  const judgements = ['a', 'b', 'c', 'd'].map((query) => ({ query, grades: { x: 1 } }));
  const scores = new Map(
    [judged('a', 0.9, 0.9), judged('b', 0.1, 0.2), judged('d', 0.5, 0)].map((one) => [one.query, one]),
  );
  const names = (order: Parameters<typeof ordered>[2]) =>
    ordered(judgements, scores, order)
      .map(({ query }) => query)
      .join('');
  expect([names('judged'), names('lowest'), names('changed')]).toEqual(['abcd', 'bdac', 'dbac']);
  expect([change(0.5, 0.625), change(0.5, 0.25), change(0.5, 0.5001)]).toEqual(['+0.125', '−0.250', '']);
});
