const BINS = 256;
/** Bins shown: few enough for a small chart. */
const SHOWN = 24;

/**
 * Counts numbers in bins of one width without knowing their range beforehand: the width is a power of two, and when a
 * number falls outside the bins, they are joined two and two until it fits. So every count is exact.
 */
export class Spread {
  #exponent = 0;
  /** The first bin's number: it begins at `#first × width`. */
  #first = 0;
  #counts: number[] = [];

  add(value: number): void {
    if (!Number.isFinite(value)) return;
    if (this.#counts.length === 0) {
      this.#exponent = value === 0 ? -10 : Math.max(-60, Math.floor(Math.log2(Math.abs(value))) - 16);
      this.#first = Math.floor(value / 2 ** this.#exponent);
      this.#counts = [1];
      return;
    }
    let bin = this.#binOf(value);
    while (Math.max(bin, this.#first + this.#counts.length - 1) - Math.min(bin, this.#first) >= BINS) {
      this.#join();
      bin = this.#binOf(value);
    }
    while (bin < this.#first) {
      this.#counts.unshift(0);
      this.#first--;
    }
    while (bin >= this.#first + this.#counts.length) this.#counts.push(0);
    this.#counts[bin - this.#first]!++;
  }

  #binOf(value: number): number {
    const bin = Math.floor(value / 2 ** this.#exponent);
    // The least numbers below zero vanish in the division.
    return value < 0 && bin === 0 ? -1 : bin;
  }

  #join(): void {
    const first = Math.floor(this.#first / 2);
    const joined: number[] = [];
    this.#counts.forEach((count, i) => {
      const at = Math.floor((this.#first + i) / 2) - first;
      joined[at] = (joined[at] ?? 0) + count;
    });
    this.#exponent++;
    this.#first = first;
    this.#counts = joined;
  }

  /** The bins, at most 24, each `[from + i × width, from + (i + 1) × width)`. Null without numbers. */
  bins(): { from: number; width: number; counts: number[] } | null {
    if (this.#counts.length === 0) return null;
    while (this.#counts.length > SHOWN) this.#join();
    const width = 2 ** this.#exponent;
    return { from: this.#first * width, width, counts: this.#counts };
  }
}
