const DAY_MS = 86_400_000;

/**
 * The time of day that expiries go by. The wall clock may be set back while the process runs; what had expired must not
 * come to life again. So this clock never stands below where it once was plus the time that has passed since.
 */
export class Clock {
  readonly #wall: () => number;
  readonly #monotonic: () => number;
  readonly #start: number;
  readonly #startedAt: number;
  #day = { number: Number.NaN, text: '' };

  /** `atLeast`: the time that was written down last, in milliseconds since 1970. */
  constructor(atLeast = 0, wall: () => number = () => Date.now(), monotonic: () => number = () => performance.now()) {
    this.#wall = wall;
    this.#monotonic = monotonic;
    this.#start = Math.max(atLeast, wall());
    this.#startedAt = monotonic();
  }

  /** Milliseconds since 1970. */
  now(): number {
    return Math.max(this.#wall(), this.steady());
  }

  /** The day in UTC as an ISO date; its text is made once a day. */
  today(): string {
    const number = Math.floor(this.now() / DAY_MS);
    if (number !== this.#day.number) this.#day = { number, text: new Date(number * DAY_MS).toISOString().slice(0, 10) };
    return this.#day.text;
  }

  /** The time as it goes without any change of the wall clock: what is worth writing down. */
  steady(): number {
    return this.#start + (this.#monotonic() - this.#startedAt);
  }
}
