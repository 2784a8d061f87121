import type { SignalRule } from '@yucca/contract';

/** The least and greatest of a signal's numbers in the collection. */
export interface Extent {
  min: number;
  max: number;
}

/** How a business number becomes 0 to 1. A new shape is one more entry here. */
type Shape = (value: number, extent: Extent, rule: SignalRule) => number;

const DAY_MS = 86_400_000;

export const SHAPES: Readonly<Record<SignalRule['shape'], Shape>> = {
  /** Evenly between the least and the greatest. */
  linear: (value, { min, max }) => (max > min ? (value - min) / (max - min) : 1),
  /** The first steps count most: for numbers such as sales, of which few are very large. */
  log: (value, { min, max }) => (max > min ? Math.log1p(value - min) / Math.log1p(max - min) : 1),
  /** Halves with each half-life before the newest date (exponential decay). Dates are milliseconds. */
  recency: (value, { max }, { halfLifeDays }) => 2 ** (-(max - value) / (halfLifeDays * DAY_MS)),
};

/** A number on its shape, 0 to 1; ascending signals prefer small numbers. */
export function shaped(value: number, extent: Extent, rule: SignalRule): number {
  const high = SHAPES[rule.shape](value, extent, rule);
  return rule.order === 'desc' ? high : 1 - high;
}
