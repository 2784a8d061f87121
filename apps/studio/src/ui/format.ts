import { count, counted } from '@yucca/kit';

export { count, counted };

const dates = new Intl.DateTimeFormat('en', { dateStyle: 'medium', timeStyle: 'short', timeZone: 'UTC' });

/** An estimate to three figures: 170812 → "171,000". */
export const roughly = (value: number): string => count(Number(value.toPrecision(value < 1000 ? 2 : 3)));

/** "14.2 MB". */
export function bytes(value: number): string {
  if (value < 1000) return `${value} B`;
  const units = ['kB', 'MB', 'GB'];
  let size = value / 1000;
  let unit = 0;
  while (size >= 1000 && unit < units.length - 1) {
    size /= 1000;
    unit++;
  }
  return `${size >= 100 ? Math.round(size) : Math.round(size * 10) / 10} ${units[unit]}`;
}

/** A moment in UTC, so that server and browser write the same. */
export const moment = (iso: string): string => `${dates.format(new Date(iso))} UTC`;

/** "0.8 ms". */
export const milliseconds = (value: number): string =>
  `${value >= 10 ? Math.round(value) : Math.round(value * 10) / 10} ms`;

/** "12 s", "3 min". */
export function duration(seconds: number): string {
  if (seconds < 90) return `${Math.max(1, Math.round(seconds))} s`;
  return `${Math.round(seconds / 60)} min`;
}
