import { FNV_START, fnvStep } from '../bytes/fnv.ts';

/** Values counted exactly; beyond, an estimate. */
export const EXACT_VALUES = 10_000;

const BITS = 12;
const REGISTERS = 1 << BITS;
/** The bias correction for many registers (Flajolet et al. 2007, figure 3). */
const ALPHA = 0.7213 / (1 + 1.079 / REGISTERS);

/** Of longer texts, about this many units are hashed, evenly spaced: an estimate needs no more. */
const HASHED_UNITS = 256;

/** A 32-bit hash of a text: FNV-1a over its units, then the finaliser of MurmurHash3 to spread the bits. */
function hashOf(text: string): number {
  const step = text.length <= HASHED_UNITS ? 1 : text.length / HASHED_UNITS;
  let hash = FNV_START ^ text.length;
  for (let at = 0; at < text.length; at += step) hash = fnvStep(hash, text.charCodeAt(at));
  return spreadBits(hash);
}

function spreadBits(value: number): number {
  let hash = Math.imul(value ^ (value >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return (hash ^ (hash >>> 16)) >>> 0;
}

const bits = new DataView(new ArrayBuffer(8));

function hashNumber(value: number): number {
  bits.setFloat64(0, value);
  return spreadBits(Math.imul(bits.getInt32(0), 0x9e3779b1) ^ bits.getInt32(4));
}

/**
 * Counts distinct values: exactly, with how often each came, up to 10,000 of them; with more, by an estimate from 4,096
 * registers (HyperLogLog; Flajolet, Fusy, Gandouet, Meunier 2007), whose standard error is 1.04 / √4096, about 1.6%.
 */
export class DistinctCounter {
  readonly #counts = new Map<string | number, number>();
  #registers: Uint8Array | null = null;

  add(value: string | number): void {
    if (this.#registers !== null) return this.#note(value);
    const known = this.#counts.get(value);
    if (known !== undefined) this.#counts.set(value, known + 1);
    else if (this.#counts.size < EXACT_VALUES) this.#counts.set(value, 1);
    else {
      this.#registers = new Uint8Array(REGISTERS);
      for (const counted of this.#counts.keys()) this.#note(counted);
      this.#note(value);
      this.#counts.clear();
    }
  }

  #note(value: string | number): void {
    const hash = typeof value === 'string' ? hashOf(value) : hashNumber(value);
    const register = hash >>> (32 - BITS);
    const rank = Math.min(Math.clz32(hash << BITS) + 1, 32 - BITS + 1);
    if (rank > this.#registers![register]!) this.#registers![register] = rank;
  }

  get exact(): boolean {
    return this.#registers === null;
  }

  get size(): number {
    if (this.#registers === null) return this.#counts.size;
    let sum = 0;
    let empty = 0;
    for (const rank of this.#registers) {
      sum += 2 ** -rank;
      if (rank === 0) empty++;
    }
    const estimate = (ALPHA * REGISTERS * REGISTERS) / sum;
    // Few values: counting the empty registers is closer (linear counting).
    const small = estimate <= 2.5 * REGISTERS && empty > 0;
    return Math.max(EXACT_VALUES, Math.round(small ? REGISTERS * Math.log(REGISTERS / empty) : estimate));
  }

  /** The commonest values; none when there are too many to count. */
  top(most: number): { value: string; count: number }[] {
    return [...this.#counts]
      .sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
      .slice(0, most)
      .map(([value, count]) => ({ value: String(value), count }));
  }
}
