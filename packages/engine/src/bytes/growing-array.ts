import { room, type NumbersType } from './room.ts';

type Numbers = Uint8Array | Uint16Array | Uint32Array | Int32Array | Float64Array;

/** A typed array that doubles when it is full, for data whose length is known only at the end. */
export class GrowingArray<T extends Numbers> {
  #array: T;
  #length = 0;
  readonly #Type: NumbersType<T>;

  constructor(Type: NumbersType<T>, first: readonly number[] = []) {
    this.#Type = Type;
    this.#array = new Type(16);
    first.forEach((value) => this.push(value));
  }

  get length(): number {
    return this.#length;
  }

  /** The memory itself, for reading and overwriting what was pushed. Stale after the next `push`. */
  get array(): T {
    return this.#array;
  }

  push(value: number): void {
    if (this.#length === this.#array.length) this.#grow(this.#length + 1);
    this.#array[this.#length++] = value;
  }

  append(values: ArrayLike<number>): void {
    const end = this.#length + values.length;
    if (end > this.#array.length) this.#grow(end);
    this.#array.set(values, this.#length);
    this.#length = end;
  }

  /** Adds what `write` puts into room for `most` values; it returns how many there are. */
  appendInto(most: number, write: (room: T) => number): void {
    const end = this.#length + most;
    if (end > this.#array.length) this.#grow(end);
    this.#length += write(this.#array.subarray(this.#length, end) as T);
  }

  clear(): void {
    this.#array = new this.#Type(0);
    this.#length = 0;
  }

  /** What was pushed, without a copy. */
  view(): T {
    return this.#array.subarray(0, this.#length) as T;
  }

  #grow(atLeast: number): void {
    const larger = room(this.#Type, Math.max(atLeast, this.#array.length * 2, 16));
    larger.set(this.#array.subarray(0, this.#length));
    this.#array = larger;
  }
}
