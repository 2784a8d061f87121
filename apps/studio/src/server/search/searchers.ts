import type { RemoteThread } from '../workers/rpc';
import type { Ask, PublishedState, SearcherMethods } from '../workers/search-worker';

/** The caller hung up. */
export class SearchCancelled extends Error {
  override name = 'SearchCancelled';
}

interface Searcher {
  thread: RemoteThread<SearcherMethods>;
  /** Shared with the thread: the ticket of a call to stop. */
  flag: Int32Array;
}

/** What a caller asks; the pool adds the ticket. */
export type Question = Omit<Ask, 'ticket'>;
export type Run<T> = (thread: RemoteThread<SearcherMethods>, ask: Ask) => Promise<T>;

/**
 * The pool of searcher threads. Each answers one question at a time and the rest wait here. When a caller has gone, a
 * question that waits is dropped for nothing, and one that is being answered is stopped at the engine's next step.
 */
export class Searchers {
  readonly #all: readonly Searcher[];
  readonly #idle: Searcher[];
  readonly #waiting: ((searcher: Searcher) => Promise<void>)[] = [];
  #tickets = 0;

  constructor(threads: readonly RemoteThread<SearcherMethods>[]) {
    this.#all = threads.map((thread) => {
      const flag = new Int32Array(new SharedArrayBuffer(4));
      thread.send('watchFor', [flag]);
      return { thread, flag };
    });
    this.#idle = [...this.#all];
  }

  /** Shows every searcher a collection's new state. Messages keep their order, so later searches see it. */
  publish(state: PublishedState): void {
    for (const { thread } of this.#all) thread.send('publish', [state]);
  }

  forget(collectionId: number): void {
    for (const { thread } of this.#all) thread.send('forget', [collectionId]);
  }

  /** Has a question answered by the next idle thread. Rejects with a SearchCancelled when `signal` fires first. */
  ask<T>(question: Question, run: Run<T>, signal?: AbortSignal): Promise<T> {
    return new Promise((resolve, reject) => {
      const cancelled = (): void => reject(new SearchCancelled('the caller has gone'));
      if (signal?.aborted) return cancelled();
      // Tickets fit the flag's 32 bits for ever: they start over, never at 0.
      const ticket = (this.#tickets = (this.#tickets % 0x7fff_ffff) + 1);
      let answering: Searcher | null = null;
      const entry = (searcher: Searcher): Promise<void> => {
        answering = searcher;
        return run(searcher.thread, { ...question, ticket })
          .then(resolve, reject)
          .finally(() => signal?.removeEventListener('abort', leave));
      };
      const leave = (): void => {
        const at = this.#waiting.indexOf(entry);
        if (at !== -1) this.#waiting.splice(at, 1);
        if (answering !== null) Atomics.store(answering.flag, 0, ticket);
        cancelled();
      };
      signal?.addEventListener('abort', leave, { once: true });
      this.#waiting.push(entry);
      this.#next();
    });
  }

  #next(): void {
    while (this.#idle.length > 0 && this.#waiting.length > 0) {
      const searcher = this.#idle.pop()!;
      void this.#waiting.shift()!(searcher).finally(() => {
        this.#idle.push(searcher);
        this.#next();
      });
    }
  }
}
