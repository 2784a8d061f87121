/**
 * Whether whoever asked has gone: what a search needs of an `AbortSignal`, and none of what makes one dear (an event
 * target of the web's kind costs more than all else that a short request does in the main thread).
 */
export type HangUp = Pick<AbortSignal, 'aborted'> & {
  addEventListener(type: 'abort', listener: () => void, options?: { once?: boolean }): void;
  removeEventListener(type: 'abort', listener: () => void): void;
};

/** One that is told. */
export class OwnHangUp implements HangUp {
  aborted = false;
  readonly #listeners = new Set<() => void>();

  addEventListener(_: 'abort', listener: () => void): void {
    this.#listeners.add(listener);
  }

  removeEventListener(_: 'abort', listener: () => void): void {
    this.#listeners.delete(listener);
  }

  tell(): void {
    this.aborted = true;
    for (const listener of this.#listeners) listener();
    this.#listeners.clear();
  }
}
