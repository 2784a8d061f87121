import { DAY_MS } from './count';

/** Days that are looked at, by their numbers since 1970, in UTC; both count. */
export interface DayRange {
  from: number;
  to: number;
}

export const dateOf = (day: number): string => new Date(day * DAY_MS).toISOString().slice(0, 10);

/** The number of a date; null for what is none, such as 2026-02-30. */
export function dayOf(date: string): number | null {
  const at = /^\d{4}-\d{2}-\d{2}$/.test(date) ? Date.parse(`${date}T00:00:00Z`) : Number.NaN;
  return Number.isNaN(at) || new Date(at).toISOString().slice(0, 10) !== date ? null : at / DAY_MS;
}

/** As many days right before. */
export const before = ({ from, to }: DayRange): DayRange => ({ from: from - (to - from + 1), to: from - 1 });
