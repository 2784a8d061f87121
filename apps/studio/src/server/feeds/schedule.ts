import type { FeedSource, PulledSource } from '@yucca/contract';
import { isDeepStrictEqual } from 'node:util';
import { Cron } from 'croner';

const BASE_MS = 5_000;
const MOST_MS = 3_600_000;
/** After so many failures in a row a source is left alone for a while: it is asked once, and by one request. */
const BROKEN_AFTER = 5;
const LEAST_BROKEN_MS = 300_000;

/** When a source is asked next, in milliseconds since 1970; null = when somebody asks. */
export function nextAt({ everyS, cron }: PulledSource, startedAt: number, now = Date.now()): number | null {
  if (everyS !== undefined) return Math.max(now, startedAt + everyS * 1_000);
  return cron === undefined ? null : (cronNext(cron)?.getTime() ?? null);
}

const cronNext = (cron: string): Date | null => new Cron(cron, { timezone: 'UTC', paused: true }).nextRun();

/** Whether a cron expression can be read and comes to pass at all. */
export function isCron(text: string): boolean {
  try {
    return cronNext(text) !== null;
  } catch (error) {
    if (error instanceof Error) return false;
    throw error;
  }
}

/**
 * How long to wait after so many failures in a row: twice as long each time, up to an hour, with jitter so that many
 * feeds of one source do not come back together (the circuit breaker of M. Nygard, Release It!, with exponential
 * back-off). What the source asks for is kept.
 */
export function retryMs(failures: number, retryAfterS: number | null, random = Math.random): number {
  const backOff = Math.min(MOST_MS, BASE_MS * 2 ** (failures - 1));
  const waited = failures >= BROKEN_AFTER ? Math.max(backOff, LEAST_BROKEN_MS) : backOff;
  return Math.max(waited * (0.8 + 0.4 * random()), (retryAfterS ?? 0) * 1_000);
}

/** When a source is asked, and how patiently: nothing of what is read. */
const WHEN = new Set(['everyS', 'cron', 'timeoutS', 'watch', 'allowPrivate']);

/** Whether the same is read of two sources. */
export function isReadAlike(a: FeedSource, b: FeedSource): boolean {
  const read = (source: FeedSource): object =>
    Object.fromEntries(Object.entries(source).filter(([name]) => !WHEN.has(name)));
  return isDeepStrictEqual(read(a), read(b));
}
