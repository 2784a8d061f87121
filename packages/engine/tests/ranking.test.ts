import fc from 'fast-check';
import {
  closenessFactor,
  formFactor,
  lengthFactor,
  pairCloseness,
  roundScore,
  startFactor,
  idf,
  trustIn,
} from '../src/score/text-score.ts';
import { compareInSegment, type Candidate } from '../src/query/rank/rank.ts';
import { Top } from '../src/query/rank/top.ts';

const few = fc.integer({ min: 0, max: 3 });
const candidate: fc.Arbitrary<Candidate> = fc
  .record({ doc: fc.nat(), tier: few, lift: few, whole: fc.constantFrom(0, 1, 2), score: few, signals: few, key: few })
  .map(({ key, ...numbers }) => ({ ...numbers, segment: 0, order: numbers.doc, keys: [key], resolve: () => [key] }));
const distinct = fc.uniqueArray(candidate, { maxLength: 60, selector: ({ order }) => order });

test('the best few are the beginning of the whole list in order', () => {
  fc.assert(
    fc.property(distinct, fc.nat(20), (all, size) => {
      const top = new Top(size, compareInSegment);
      for (const one of all) top.offer(one);
      expect(top.sorted()).toEqual([...all].sort(compareInSegment).slice(0, size));
    }),
  );
});

test('the order is total: of two results one stands above', () => {
  fc.assert(
    fc.property(distinct, (all) => {
      for (const a of all) {
        for (const b of all) {
          expect(Math.sign(compareInSegment(a, b)) + Math.sign(compareInSegment(b, a))).toBe(0);
          if (a !== b) expect(compareInSegment(a, b)).not.toBe(0);
        }
      }
    }),
  );
});

const factor = (value: number): void => {
  expect(value).toBeGreaterThan(0);
  expect(value).toBeLessThanOrEqual(1);
};

test('every factor lies between 0 and 1, so the score lies between 0 and 100', () => {
  fc.assert(
    fc.property(
      fc.nat(2),
      fc.boolean(),
      fc.integer({ min: 1, max: 64 }),
      fc.integer({ min: 1, max: 64 }),
      fc.nat(1023),
      fc.nat(255),
      (typos, whole, typed, written, position, words) => {
        factor(formFactor(trustIn('exact', typos), whole, typed, written));
        factor(startFactor(position));
        factor(lengthFactor(typed, words));
        factor(closenessFactor(pairCloseness(1, position, 1, words)));
      },
    ),
  );
});

test('what ought to count more does', () => {
  const forms = (['exact', 'joined', 'split', 'synonym', 'stem'] as const).map((how) => trustIn(how, 0));
  expect([...forms].sort((a, b) => b - a)).toEqual(forms);
  expect(Math.min(...forms)).toBeGreaterThanOrEqual(formFactor(trustIn('prefix', 0), false, 9, 10));
  expect(formFactor(1, false, 4, 5)).toBeGreaterThan(formFactor(1, false, 4, 12));
  expect(trustIn('typo', 1)).toBeGreaterThan(trustIn('typo', 2));
  expect(startFactor(0)).toBeGreaterThan(startFactor(1));
  expect(lengthFactor(2, 2)).toBe(1);
  expect(lengthFactor(2, 3)).toBeGreaterThan(lengthFactor(2, 30));
  expect(pairCloseness(0, 3, 0, 4)).toBe(1);
  expect(pairCloseness(0, 4, 0, 3)).toBeLessThan(1);
  expect(pairCloseness(0, 3, 0, 5)).toBeGreaterThan(pairCloseness(0, 3, 0, 9));
  expect(pairCloseness(0, 3, 1, 4)).toBe(0);
  expect(idf(1000, 1)).toBeGreaterThan(idf(1000, 500));
  expect(idf(1000, 5000)).toBe(idf(1000, 1000));
  expect(idf(1000, 1000)).toBeGreaterThan(0);
  expect(roundScore(12.34567)).toBe(12.346);
});
