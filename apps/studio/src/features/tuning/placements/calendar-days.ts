/** A month of the calendar. */
export interface Month {
  /** Its first day, ISO 8601. */
  start: string;
  label: string;
}

const names = new Intl.DateTimeFormat('en', { month: 'short', timeZone: 'UTC' });

const iso = (ms: number): string => new Date(ms).toISOString().slice(0, 10);

/** Some months from the one of a day on, `shift` months later (or earlier). January carries its year. */
export function monthsFrom(day: string, shift: number, count: number): Month[] {
  const [year, month] = day.split('-').map(Number) as [number, number];
  return Array.from({ length: count }, (_, i) => {
    const start = Date.UTC(year, month - 1 + shift + i, 1);
    const date = new Date(start);
    const label = names.format(date) + (i === 0 || date.getUTCMonth() === 0 ? ` ${date.getUTCFullYear()}` : '');
    return { start: iso(start), label };
  });
}

/** Where a day begins within some months, each of one width, 0 to 1; null = outside of them. */
export function shareOf(months: readonly Month[], day: string): number | null {
  const at = months.findIndex(({ start }, i) => start <= day && (months[i + 1]?.start ?? next(start)) > day);
  if (at === -1) return null;
  const start = Date.parse(months[at]!.start);
  const length = Date.parse(next(months[at]!.start)) - start;
  return (at + (Date.parse(day) - start) / length) / months.length;
}

/** The first day of the month after the one that begins on a day. */
function next(start: string): string {
  const [year, month] = start.split('-').map(Number) as [number, number];
  return iso(Date.UTC(year, month, 1));
}

/** The part of some months that lies between two days, both included, 0 to 1; null = none of it. */
export function spanOf(
  months: readonly Month[],
  { from, to }: { from?: string | undefined; to?: string | undefined },
): { from: number; to: number } | null {
  const first = months[0]!.start;
  const end = next(months.at(-1)!.start);
  if ((from !== undefined && from >= end) || (to !== undefined && to < first)) return null;
  const left = from === undefined || from <= first ? 0 : shareOf(months, from)!;
  const after = to === undefined ? end : iso(Date.parse(to) + 86_400_000);
  return { from: left, to: after >= end ? 1 : shareOf(months, after)! };
}
