/** Days of the range, as the address has them: a number of last days, or two dates. */
export interface DateRange {
  from: string;
  to: string;
}

export const LAST_DAYS = [7, 30, 90] as const;
const DEFAULT = 30;
const DATE = /^\d{4}-\d{2}-\d{2}$/;

const shifted = (date: string, days: number): string =>
  new Date(Date.parse(`${date}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

/** The range that an address means, up to a day: `7`, or `2026-05-01..2026-05-20`. */
export function rangeOf(text: string, today: string): DateRange {
  const [from = '', to = ''] = text.split('..');
  if (DATE.test(from) && DATE.test(to) && from <= to) return { from, to };
  const days = LAST_DAYS.find((one) => String(one) === text) ?? DEFAULT;
  return { from: shifted(today, 1 - days), to: today };
}

/** How many of the last days it is; null for a range of its own. */
export const lastDaysOf = (text: string): number | null =>
  text.includes('..') ? null : (LAST_DAYS.find((one) => String(one) === text) ?? DEFAULT);
