import fc from 'fast-check';
import {
  closenessFactor,
  formFactor,
  lengthFactor,
  pairCloseness,
  roundScore,
  startFactor,
  telling,
} from '../src/query/score.ts';
import { compareCandidates, Top, type Candidate } from '../src/query/top.ts';

const candidate = fc.record({
  segment: fc.nat(3),
  doc: fc.nat(9),
  typos: fc.nat(3),
  score: fc.integer({ min: 0, max: 5 }),
  order: fc.nat(),
});
const distinct = fc.uniqueArray(candidate, { maxLength: 60, selector: ({ order }) => order });

test('the best few are the beginning of the whole list in order', () => {
  fc.assert(
    fc.property(distinct, fc.nat(20), (all, size) => {
      const top = new Top(size);
      for (const { segment, doc, typos, score, order } of all) top.offer(segment, doc, typos, score, order);
      expect(top.sorted()).toEqual([...all].sort(compareCandidates).slice(0, size));
    }),
  );
});

test('the order is total: of two results one stands above', () => {
  fc.assert(
    fc.property(distinct, (all: Candidate[]) =>
      all.every((a) =>
        all.every(
          (b) => a === b || (compareCandidates(a, b) === -compareCandidates(b, a) && compareCandidates(a, b) !== 0),
        ),
      ),
    ),
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
        factor(formFactor(typos, whole, typed, written));
        factor(startFactor(position));
        factor(lengthFactor(typed, words));
        factor(closenessFactor(pairCloseness(1, position, 1, words)));
      },
    ),
  );
});

test('what ought to count more does', () => {
  expect(formFactor(0, true, 4, 4)).toBeGreaterThan(formFactor(0, false, 4, 4));
  expect(formFactor(0, false, 4, 5)).toBeGreaterThan(formFactor(0, false, 4, 12));
  expect(formFactor(1, true, 4, 4)).toBeGreaterThan(formFactor(2, true, 4, 4));
  expect(startFactor(0)).toBeGreaterThan(startFactor(1));
  expect(lengthFactor(2, 2)).toBe(1);
  expect(lengthFactor(2, 3)).toBeGreaterThan(lengthFactor(2, 30));
  expect(pairCloseness(0, 3, 0, 4)).toBe(1);
  expect(pairCloseness(0, 4, 0, 3)).toBeLessThan(1);
  expect(pairCloseness(0, 3, 0, 5)).toBeGreaterThan(pairCloseness(0, 3, 0, 9));
  expect(pairCloseness(0, 3, 1, 4)).toBe(0);
  expect(telling(1000, 1)).toBeGreaterThan(telling(1000, 500));
  expect(telling(1000, 5000)).toBe(telling(1000, 1000));
  expect(telling(1000, 1000)).toBeGreaterThan(0);
  expect(roundScore(12.34567)).toBe(12.346);
});
