import { LRUCache } from 'lru-cache';
import { Failure } from '../failure';
import type { Rate } from './caller';

/** Where a caller stands within its rate. */
export interface RateState {
  limit: number;
  remaining: number;
  /** Seconds until the count starts anew. */
  resetS: number;
}

interface Count {
  taken: number;
  /** Milliseconds of the monotonic clock at which the minute is over. */
  until: number;
}

const MINUTE_MS = 60_000;
/** Counts kept at once. With more callers than this within a minute, the one not heard of longest begins anew. */
const MOST_COUNTS = 50_000;

/**
 * Counts requests by the minute. By a clock that only goes forward: the wall clock may be set back or ahead while a
 * minute runs, and then a count that goes by it stands still, or begins anew.
 */
export class Rates {
  readonly #counts = new LRUCache<string, Count>({ max: MOST_COUNTS });
  readonly #now: () => number;

  constructor(now: () => number = () => performance.now()) {
    this.#now = now;
  }

  /** Counts one request. Throws a TooMany when the minute's requests are spent. */
  take(id: string, perMinute: number): RateState {
    const now = this.#now();
    let count = this.#counts.get(id);
    if (!count || count.until <= now) this.#counts.set(id, (count = { taken: 0, until: now + MINUTE_MS }));
    const resetS = Math.max(1, Math.ceil((count.until - now) / 1000));
    if (count.taken >= perMinute) throw new TooMany({ limit: perMinute, remaining: 0, resetS });
    count.taken++;
    return { limit: perMinute, remaining: perMinute - count.taken, resetS };
  }

  /** Counts one request in all of a caller's counts; returns the tightest, null without any. */
  takeAll(rates: readonly Rate[]): RateState | null {
    let tightest: RateState | null = null;
    for (const { id, perMinute } of rates) {
      const state = this.take(id, perMinute);
      if (tightest === null || state.remaining < tightest.remaining) tightest = state;
    }
    return tightest;
  }
}

/** The failure of somebody who asked too often. */
export class TooMany extends Failure {
  readonly rate: RateState;

  constructor(rate: RateState, who = 'This key') {
    super('too-many', `${who} may ask ${rate.limit} times a minute. Ask again in ${rate.resetS} s.`);
    this.rate = rate;
  }
}
