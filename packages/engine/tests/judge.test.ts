import fc from 'fast-check';
import type { Judgement, Scores } from '@yucca/contract';
import { meanScores, parseQrels, printQrels, scoresOf, verdict } from '../src/judge/index.ts';

const close = (value: number) => expect.closeTo(value, 6) as number;

test('the worked example: gains 7, 3, 1 against the places they are worth', () => {
  const grades = { a: 3, b: 2, c: 1 };
  // (3/log2(2) + 7/log2(3) + 0 + 1/log2(5)) / (7/log2(2) + 3/log2(3) + 1/log2(4))
  const gain = 3 + 7 / Math.log2(3) + 1 / Math.log2(5);
  const ideal = 7 + 3 / Math.log2(3) + 0.5;
  expect(scoresOf(['b', 'a', 'x', 'c'], grades)).toEqual({
    ndcg: close(gain / ideal),
    precision: 1,
    reciprocalRank: 1,
    found: 1,
  });
});

test.each([
  [['x', 'y', 'a'], { a: 3 }, 1 / 3],
  [['x', 'c', 'a'], { a: 2, c: 1 }, 1 / 3],
  [['x'], { a: 3 }, 0],
  [[...'0123456789a'], { a: 3 }, 0],
  [[], { a: 3 }, 0],
])('%j with %j: the first good one stands at 1/%d', (ranking, grades, expected) => {
  expect(scoresOf(ranking, grades).reciprocalRank).toBeCloseTo(expected, 6);
});

test('of fewer good records than places, precision counts those there are', () => {
  expect(scoresOf(['a', 'x', 'b', 'x', 'x'], { a: 3, b: 2 }).precision).toBe(1);
  expect(scoresOf(['a', 'x', 'x', 'x', 'x', 'b'], { a: 3, b: 2 }).precision).toBe(0.5);
  expect(scoresOf(['a'], { a: 1 }).precision).toBe(1);
});

test('names every object has are records like others', () => {
  expect(scoresOf(['constructor', '__proto__'], { a: 3 }).ndcg).toBe(0);
});

const grades = fc.dictionary(fc.constantFrom(...'abcdefghijklmnop'), fc.integer({ min: 0, max: 3 }), {
  noNullPrototype: true,
});
const ranking = fc.shuffledSubarray([...'abcdefghijklmnopqrstuvw']);

test('every score lies between 0 and 1, and the best order has them all', () => {
  fc.assert(
    fc.property(ranking, grades, (ids, given) => {
      for (const score of Object.values(scoresOf(ids, given))) {
        expect(score).toBeGreaterThanOrEqual(0);
        expect(score).toBeLessThanOrEqual(1 + 1e-12);
      }
      const best = Object.keys(given).sort((a, b) => given[b]! - given[a]!);
      expect(scoresOf(best, given)).toMatchObject({ ndcg: close(1), precision: 1 });
    }),
  );
});

test('moving a better record up never costs gain', () => {
  fc.assert(
    fc.property(ranking, grades, fc.nat(20), (ids, given, at) => {
      const [a, b] = [ids[at], ids[at + 1]];
      fc.pre(a !== undefined && b !== undefined && (given[b] ?? 0) > (given[a] ?? 0));
      const swapped = [...ids.slice(0, at), b!, a!, ...ids.slice(at + 2)];
      expect(scoresOf(swapped, given).ndcg).toBeGreaterThanOrEqual(scoresOf(ids, given).ndcg);
    }),
  );
});

test('means and verdicts', () => {
  const scores = (ndcg: number): Scores => ({ ndcg, precision: 1, reciprocalRank: 0.5, found: 1 });
  expect(meanScores([scores(0.2), scores(0.6)])).toEqual({ ...scores(0.4), ndcg: close(0.4) });
  expect(meanScores([])).toEqual({ ndcg: 0, precision: 0, reciprocalRank: 0, found: 0 });
  const judged = (live: number, draft: number) => verdict({ live: scores(live), draft: scores(draft) });
  expect([judged(0.5, 0.6), judged(0.6, 0.5), judged(0.5, 0.50001)]).toEqual([1, -1, 0]);
});

describe('qrels', () => {
  const judgement: fc.Arbitrary<Judgement> = fc.record({
    query: fc.string({ unit: 'grapheme', minLength: 1 }),
    grades: fc.dictionary(
      fc.oneof(fc.constantFrom('P-1', '__proto__', 'a b', '100%'), fc.string({ unit: 'grapheme', minLength: 1 })),
      fc.integer({ min: 0, max: 3 }),
      { minKeys: 1, maxKeys: 5, noNullPrototype: true },
    ),
  });

  test('what is written is read back the same, whatever queries and keys hold', () => {
    fc.assert(
      fc.property(fc.uniqueArray(judgement, { selector: ({ query }) => query, maxLength: 5 }), (judgements) => {
        expect(parseQrels(printQrels(judgements))).toEqual({ judgements, errors: [] });
      }),
    );
  });

  test('files of others: tabs, blank lines, grades out of range; bad lines are named', () => {
    const text = 'snake%20plant\t0\tP-1\t4\r\n\nq2 Q0 P-2 -1\nq2 0 P-3\nq2 0 P-4 good\n';
    expect(parseQrels(text)).toEqual({
      judgements: [
        { query: 'snake plant', grades: { 'P-1': 3 } },
        { query: 'q2', grades: { 'P-2': 0 } },
      ],
      errors: [expect.objectContaining({ line: 4 }), expect.objectContaining({ line: 5 })],
    });
  });
});
