import { orderBy } from '../bytes/radix-sort.ts';
import { room } from '../bytes/room.ts';

/** Letters of a word that stand in its slot: six to a number, as digits to the base of 37. */
const LETTERS_A_NUMBER = 6;
const BASE = 37;
const PACKED_NUMBERS = 3;
const MOST_PACKED = LETTERS_A_NUMBER * PACKED_NUMBERS;
/** The letters of a word, and 1 + its number; 0 = the slot is free. */
const SLOT = PACKED_NUMBERS + 1;
const NUMBER = PACKED_NUMBERS;

/** 0 is no letter: it stands behind the end of a word, and the order of digits is that of UTF-16. */
const DIGITS = Uint8Array.from({ length: 128 }, (_, unit) => {
  if (unit >= 48 && unit <= 57) return unit - 47;
  return unit >= 97 && unit <= 122 ? unit - 86 : 0;
});
const UNITS = Uint8Array.from({ length: BASE }, (_, digit) =>
  digit === 0 ? 0 : digit <= 10 ? digit + 47 : digit + 86,
);

/**
 * Words by their number, counted from 0 in the order they come.
 *
 * A dictionary of half a million words is larger than the caches, so that a look-up costs what it touches in memory: of
 * a map of strings the bucket, its entries, and the letters of each string that is compared. Here a word of up to 18
 * ASCII letters and digits, which nearly all are, stands in its slot itself (open addressing, at most two thirds full;
 * Knuth, TAOCP 3, 6.4): one look in all. The others are in a map.
 */
export class WordTable {
  #slots = new Uint32Array(SLOT * 1024);
  #packed = 0;
  readonly #others = new Map<string, number>();
  /** The letters of the word at hand. */
  readonly #letters = new Uint32Array(PACKED_NUMBERS);

  get size(): number {
    return this.#packed + this.#others.size;
  }

  /** The number of a word; it gets the next one when it is new. */
  numberOf(word: string): number {
    if (!this.#pack(word)) {
      const known = this.#others.get(word);
      if (known !== undefined) return known;
      const number = this.size;
      this.#others.set(word, number);
      return number;
    }
    const at = this.#slotOf();
    const found = this.#slots[at + NUMBER]!;
    if (found !== 0) return found - 1;
    const number = this.size;
    this.#slots.set(this.#letters, at);
    this.#slots[at + NUMBER] = number + 1;
    this.#packed++;
    if (this.#packed * SLOT * 3 > this.#slots.length * 2) this.#grow();
    return number;
  }

  /** The number of a word, or -1. */
  find(word: string): number {
    if (!this.#pack(word)) return this.#others.get(word) ?? -1;
    return this.#slots[this.#slotOf() + NUMBER]! - 1;
  }

  /** All words in the order of their UTF-16 units, and the number of each. */
  sorted(): { words: string[]; numbers: Uint32Array } {
    const slots = this.#sortedSlots();
    const others = [...this.#others.keys()].sort();
    const words: string[] = [];
    const numbers = room(Uint32Array, this.size);
    let next = 0;
    const takeOthers = (before: string | null): void => {
      for (; next < others.length && (before === null || others[next]! < before); next++) {
        numbers[words.length] = this.#others.get(others[next]!)!;
        words.push(others[next]!);
      }
    };
    for (const at of slots) {
      const word = this.#wordAt(at);
      takeOthers(word);
      numbers[words.length] = this.#slots[at + NUMBER]! - 1;
      words.push(word);
    }
    takeOthers(null);
    return { words, numbers };
  }

  /** Writes the letters of a word down as numbers; false for one that does not fit. */
  #pack(word: string): boolean {
    const { length } = word;
    if (length > MOST_PACKED || length === 0) return false;
    const letters = this.#letters;
    letters.fill(0);
    let at = 0;
    for (let number = 0; at < length; number++) {
      let value = 0;
      const end = (number + 1) * LETTERS_A_NUMBER;
      for (; at < end; at++) {
        let digit = 0;
        if (at < length) {
          const unit = word.charCodeAt(at);
          digit = unit < 128 ? DIGITS[unit]! : 0;
          if (digit === 0) return false;
        }
        value = Math.imul(value, BASE) + digit;
      }
      letters[number] = value;
    }
    return true;
  }

  /** Where the packed word at hand stands, or the free slot where it belongs. */
  #slotOf(): number {
    const slots = this.#slots;
    const mask = slots.length / SLOT - 1;
    const [first, second, third] = [this.#letters[0]!, this.#letters[1]!, this.#letters[2]!];
    for (let slot = hashOf(first, second, third) & mask; ; slot = (slot + 1) & mask) {
      const at = slot * SLOT;
      if (slots[at + NUMBER] === 0) return at;
      if (slots[at] === first && slots[at + 1] === second && slots[at + 2] === third) return at;
    }
  }

  #grow(): void {
    const old = this.#slots;
    const slots = (this.#slots = room(Uint32Array, old.length * 2));
    const mask = slots.length / SLOT - 1;
    for (let from = 0; from < old.length; from += SLOT) {
      if (old[from + NUMBER] === 0) continue;
      let slot = hashOf(old[from]!, old[from + 1]!, old[from + 2]!) & mask;
      while (slots[slot * SLOT + NUMBER] !== 0) slot = (slot + 1) & mask;
      for (let i = 0; i < SLOT; i++) slots[slot * SLOT + i] = old[from + i]!;
    }
  }

  #wordAt(slot: number): string {
    const units: number[] = [];
    for (let i = 0; i < PACKED_NUMBERS; i++) {
      let power = BASE ** (LETTERS_A_NUMBER - 1);
      for (let value = this.#slots[slot + i]!; value > 0; power /= BASE) {
        const digit = Math.floor(value / power);
        units.push(UNITS[digit]!);
        value -= digit * power;
      }
    }
    return String.fromCharCode(...units);
  }

  /** The slots of all packed words in the order of their letters, which are put close together for that. */
  #sortedSlots(): Uint32Array {
    const slots = this.#slots;
    const places = room(Uint32Array, this.#packed);
    const letters = Array.from({ length: PACKED_NUMBERS }, () => room(Uint32Array, this.#packed));
    let next = 0;
    for (let at = 0; at < slots.length; at += SLOT) {
      if (slots[at + NUMBER] === 0) continue;
      for (let i = 0; i < PACKED_NUMBERS; i++) letters[i]![next] = slots[at + i]!;
      places[next++] = at;
    }
    const order = orderBy(letters);
    for (let i = 0; i < order.length; i++) order[i] = places[order[i]!]!;
    return order;
  }
}

/** Mixes the letters of a word (multipliers and last steps of MurmurHash3, Appleby 2011). */
function hashOf(first: number, second: number, third: number): number {
  let hash = Math.imul(first, 0xcc9e2d51) ^ Math.imul(second, 0x1b873593) ^ Math.imul(third, 0x9e3779b1);
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
  return hash ^ (hash >>> 13);
}
