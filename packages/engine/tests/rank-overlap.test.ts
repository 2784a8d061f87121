import fc from 'fast-check';
import { rankBiasedOverlap } from '../src/compare/index.ts';

/**
 * The same measure written as its definition reads: the mean agreement at every depth, weighted, for lists of one
 * length.
 */
function byDefinition(a: readonly string[], b: readonly string[], p: number): number {
  const agreement = (depth: number): number =>
    a.slice(0, depth).filter((one) => b.slice(0, depth).includes(one)).length / depth;
  let sum = 0;
  for (let depth = 1; depth <= a.length; depth++) sum += agreement(depth) * p ** depth;
  return agreement(a.length) * p ** a.length + ((1 - p) / p) * sum;
}

const ranking = fc.uniqueArray(fc.constantFrom(...'abcdefghij'), { minLength: 1, maxLength: 10 });

test('of lists of one length it is what the definition says', () => {
  fc.assert(
    fc.property(ranking, ranking, (a, b) => {
      const depth = Math.min(a.length, b.length);
      const [x, y] = [a.slice(0, depth), b.slice(0, depth)];
      expect(rankBiasedOverlap(x, y)).toBeCloseTo(byDefinition(x, y, 0.9), 10);
    }),
  );
});

test('the same is 1, nothing in common is 0, and it does not matter which comes first', () => {
  fc.assert(
    fc.property(ranking, ranking, (a, b) => {
      expect(rankBiasedOverlap(a, a)).toBeCloseTo(1, 10);
      expect(rankBiasedOverlap(a, b)).toBeCloseTo(rankBiasedOverlap(b, a), 10);
      expect(rankBiasedOverlap(a, b)).toBeGreaterThanOrEqual(0);
      expect(rankBiasedOverlap(a, b)).toBeLessThanOrEqual(1);
      expect(
        rankBiasedOverlap(
          a,
          b.map((one) => `other ${one}`),
        ),
      ).toBe(0);
    }),
  );
  expect([rankBiasedOverlap([], []), rankBiasedOverlap([], ['a'])]).toEqual([1, 0]);
});

test('a change at the top weighs more than one further down', () => {
  const list = [...'abcdefghij'];
  const swapped = (at: number): string[] =>
    list.map((one, i) => (i === at ? list[at + 1]! : i === at + 1 ? list[at]! : one));
  expect(rankBiasedOverlap(list, swapped(0))).toBeLessThan(rankBiasedOverlap(list, swapped(4)));
  expect(rankBiasedOverlap(list, swapped(4))).toBeLessThan(rankBiasedOverlap(list, swapped(8)));
});
