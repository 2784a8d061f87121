/**
 * A value that is replaced, never altered, and told to whoever listens: what `useSyncExternalStore` of React, a signal
 * or a plain callback watches. Whoever has a state on screen extends it.
 */
export class Store<T> {
  #value: T;
  readonly #listeners = new Set<() => void>();

  constructor(value: T) {
    this.#value = value;
  }

  /** The current value; the same object until something changes. */
  readonly snapshot = (): T => this.#value;

  /** Calls back after every change; gives back a function that stops it. */
  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  /** Replaces the value and tells everybody. */
  protected put(value: T): void {
    this.#value = value;
    this.#listeners.forEach((listener) => listener());
  }

  /** Replaces some of its properties. */
  protected set(change: Partial<T>): void {
    this.put({ ...this.#value, ...change });
  }
}
