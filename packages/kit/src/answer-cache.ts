/** Answers of the last while by the address they were asked at: the one that was not used for longest goes first. */
export class AnswerCache {
  readonly #entries = new Map<string, { value: unknown; until: number }>();
  readonly #most: number;
  readonly #forMs: number;

  /** `most` = answers kept, 0 = none; `forMs` = how long one may be used. */
  constructor(most: number, forMs: number) {
    this.#most = most;
    this.#forMs = forMs;
  }

  get<T>(key: string): T | null {
    const entry = this.#entries.get(key);
    if (!entry) return null;
    this.#entries.delete(key);
    if (entry.until <= Date.now()) return null;
    this.#entries.set(key, entry);
    return entry.value as T;
  }

  set(key: string, value: unknown): void {
    if (this.#most === 0) return;
    this.#entries.delete(key);
    this.#entries.set(key, { value, until: Date.now() + this.#forMs });
    for (const oldest of this.#entries.keys()) {
      if (this.#entries.size <= this.#most) break;
      this.#entries.delete(oldest);
    }
  }
}
