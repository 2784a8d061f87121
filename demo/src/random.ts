import { fnvOfText } from '@yucca/engine/fnv';

/**
 * A seeded source of chance: the same seed gives the same world. The generator is Mulberry32 (Tommy Ettinger, public
 * domain); the hash that turns text into a seed is FNV-1a.
 */
export class Chance {
  #state: number;

  constructor(seed: string) {
    this.#state = fnvOfText(seed);
  }

  /** From 0 up to, not including, 1. */
  next(): number {
    this.#state = (this.#state + 0x6d2b79f5) >>> 0;
    let t = this.#state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  /** A whole number from `low` to `high`, both included. */
  whole(low: number, high: number): number {
    return low + Math.floor(this.next() * (high - low + 1));
  }

  between(low: number, high: number): number {
    return low + this.next() * (high - low);
  }

  happens(probability: number): boolean {
    return this.next() < probability;
  }

  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.next() * list.length)]!;
  }

  /** Some distinct members, in the order of the list. */
  some<T>(list: readonly T[], count: number): T[] {
    const left = list.map((_, i) => i);
    const chosen: number[] = [];
    while (chosen.length < count && left.length > 0)
      chosen.push(left.splice(Math.floor(this.next() * left.length), 1)[0]!);
    return chosen.sort((a, b) => a - b).map((i) => list[i]!);
  }

  shuffled<T>(list: readonly T[]): T[] {
    const result = [...list];
    for (let i = result.length - 1; i > 0; i--) {
      const j = Math.floor(this.next() * (i + 1));
      [result[i], result[j]] = [result[j]!, result[i]!];
    }
    return result;
  }

  /**
   * Writes a text from a pattern: `[a|b|c]` chooses one, patterns may stand inside each other; `{name}` is filled in.
   */
  say(pattern: string, facts: Record<string, string | number> = {}): string {
    let text = pattern;
    while (text.includes('[')) {
      text = text.replace(/\[([^[\]]*)\]/g, (_, choices: string) => this.pick(choices.split('|')));
    }
    return text.replace(/\{(\w+)\}/g, (_, name: string) => String(facts[name] ?? name));
  }
}

/** With a capital letter first. */
export function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
