import type { HangUp } from './hang-up';
import { isThreadLost, type RemoteThread } from '../workers/rpc';
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

/** A thread takes about so long to start. */
const STARTING_MS = 50;

/**
 * The pool of searcher threads. Each answers one question at a time and the rest wait here. When a caller has gone, a
 * question that waits is dropped for nothing, and one that is being answered is stopped at the engine's next step.
 */
export class Searchers {
  readonly #all: readonly Searcher[];
  readonly #idle: Searcher[];
  readonly #waiting: ((searcher: Searcher) => Promise<void>)[] = [];
  /** The newest state of every collection: a thread that takes another's place is told all of it. */
  readonly #states = new Map<number, PublishedState>();
  #tickets = 0;

  /** `start` makes one thread; it is called back whenever another worker had to take its place. */
  constructor(count: number, start: (onReplaced: () => void) => RemoteThread<SearcherMethods>) {
    this.#all = Array.from({ length: count }, () => {
      const flag = new Int32Array(new SharedArrayBuffer(4));
      const searcher: Searcher = { flag, thread: start(() => this.#inform(searcher)) };
      this.#inform(searcher);
      return searcher;
    });
    this.#idle = [...this.#all];
  }

  #inform({ thread, flag }: Searcher): void {
    thread.send('watchFor', [flag]);
    for (const state of this.#states.values()) thread.send('publish', [state]);
  }

  get threads(): readonly RemoteThread<SearcherMethods>[] {
    return this.#all.map(({ thread }) => thread);
  }

  /** Questions that wait for a thread. */
  get waiting(): number {
    return this.#waiting.length;
  }

  /** Shows every searcher a collection's new state. Messages keep their order, so later searches see it. */
  publish(state: PublishedState): void {
    this.#states.set(state.collectionId, state);
    for (const { thread } of this.#all) thread.send('publish', [state]);
  }

  forget(collectionId: number): void {
    this.#states.delete(collectionId);
    for (const { thread } of this.#all) thread.send('forget', [collectionId]);
  }

  /**
   * Has a question answered by the next idle thread. One whose thread was lost is asked once more: what is asked
   * changes nothing. Rejects with a SearchCancelled when `signal` fires first.
   */
  async ask<T>(question: Question, run: Run<T>, signal?: HangUp): Promise<T> {
    try {
      return await this.#askOnce(question, run, signal);
    } catch (error) {
      if (isThreadLost(error) && !signal?.aborted) return this.#askOnce(question, run, signal);
      throw error;
    }
  }

  #askOnce<T>(question: Question, run: Run<T>, signal?: HangUp): Promise<T> {
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
      const at = this.#idle.findLastIndex(({ thread }) => thread.alive);
      // All of them are being started again: soon one is there.
      if (at === -1) return void setTimeout(() => this.#next(), STARTING_MS);
      const [searcher] = this.#idle.splice(at, 1) as [Searcher];
      void this.#waiting.shift()!(searcher).finally(() => {
        this.#idle.push(searcher);
        this.#next();
      });
    }
  }
}
