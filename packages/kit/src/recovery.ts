import { ProblemError } from './problem-error.ts';

/** The first wait before something is tried again by itself, and the longest, in milliseconds. */
const FIRST_MS = 1_000;
const LONGEST_MS = 30_000;

/** Answers that another try may turn: too many requests, a server that starts or is looked after. */
const PASSING = new Set([429, 502, 503, 504]);

/** Whether the same may work a little later: the line was down, an answer did not come in time, the server was busy. */
export function mayPass(error: Error | null): boolean {
  if (error instanceof ProblemError) return PASSING.has(error.problem.status);
  return error !== null && error.name !== 'AbortError' && error.name !== 'SyntaxError';
}

/**
 * Tries something again by itself after it failed: each time twice as long after the last one, somewhat by chance, so
 * that many pages do not come back in one moment (full jitter, Brooker 2015); never before the server asks for it;
 * at once when the line is back; and only while somebody can see the page.
 */
export class Recovery {
  readonly #again: () => void;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #tries = 0;

  constructor(again: () => void) {
    this.#again = again;
  }

  /** It failed: plans the next try, if that may help. */
  failed(error: Error): void {
    this.#forget();
    if (!mayPass(error)) return;
    const most = Math.min(LONGEST_MS, FIRST_MS * 2 ** this.#tries++);
    const asked = error instanceof ProblemError ? (error.retryAfterS ?? 0) * 1000 : 0;
    this.#timer = setTimeout(this.#due, asked + most * (0.5 + Math.random() / 2));
    globalThis.addEventListener?.('online', this.#due);
  }

  /** It worked, or nobody waits for it any more. */
  stop(): void {
    this.#tries = 0;
    this.#forget();
  }

  #forget(): void {
    clearTimeout(this.#timer);
    globalThis.removeEventListener?.('online', this.#due);
    globalThis.document?.removeEventListener('visibilitychange', this.#due);
  }

  readonly #due = (): void => {
    this.#forget();
    const { document } = globalThis;
    if (document?.visibilityState === 'hidden') document.addEventListener('visibilitychange', this.#due);
    else this.#again();
  };
}
