import { RateLimiterMemory, type RateLimiterRes } from 'rate-limiter-flexible';
import { Failure } from '../failure';

/** Where a key stands within its rate. */
export interface RateState {
  limit: number;
  remaining: number;
  /** Seconds until the count starts anew. */
  resetS: number;
}

/** Counts the requests of each key by the minute. */
export class Rates {
  readonly #limiters = new Map<number, RateLimiterMemory>();

  /** Counts one request. Throws a Failure when the minute's requests are spent. */
  async take(id: string, perMinute: number): Promise<RateState> {
    let limiter = this.#limiters.get(perMinute);
    if (!limiter) {
      limiter = new RateLimiterMemory({ points: perMinute, duration: 60 });
      this.#limiters.set(perMinute, limiter);
    }
    try {
      return state(perMinute, await limiter.consume(id));
    } catch (refused) {
      const now = state(perMinute, refused as RateLimiterRes);
      throw new TooMany(now);
    }
  }
}

function state(limit: number, { remainingPoints, msBeforeNext }: RateLimiterRes): RateState {
  return { limit, remaining: remainingPoints, resetS: Math.max(1, Math.ceil(msBeforeNext / 1000)) };
}

/** The failure of a key that asked too often. */
export class TooMany extends Failure {
  readonly rate: RateState;

  constructor(rate: RateState) {
    super('too-many', `This key may ask ${rate.limit} times a minute. Ask again in ${rate.resetS} s.`);
    this.rate = rate;
  }
}
