import type { SearchRequest } from '@yucca/contract';
import type { EngineAnswer } from '@yucca/engine';
import type { RemoteThread } from '../workers/rpc';
import type { PublishedState, SearcherMethods } from '../workers/search-worker';

interface Waiting {
  run: (searcher: RemoteThread<SearcherMethods>) => Promise<void>;
}

/** The caller hung up before its search was begun. */
export class SearchCancelled extends Error {
  override name = 'SearchCancelled';
}

/**
 * The pool of searcher threads. Each answers one search at a time and the rest wait here, where a search whose caller has
 * gone is dropped for nothing.
 */
export class Searchers {
  readonly #idle: RemoteThread<SearcherMethods>[];
  readonly #all: readonly RemoteThread<SearcherMethods>[];
  readonly #waiting: Waiting[] = [];

  constructor(searchers: readonly RemoteThread<SearcherMethods>[]) {
    this.#all = searchers;
    this.#idle = [...searchers];
  }

  /** Shows every searcher a collection's new state. Messages keep their order, so later searches see it. */
  publish(state: PublishedState): void {
    for (const searcher of this.#all) searcher.send('publish', [state]);
  }

  forget(collectionId: number): void {
    for (const searcher of this.#all) searcher.send('forget', [collectionId]);
  }

  search(
    collectionId: number,
    request: SearchRequest,
    signal?: AbortSignal,
  ): Promise<{ answer: EngineAnswer; engineMs: number }> {
    return new Promise((resolve, reject) => {
      const cancelled = (): void => reject(new SearchCancelled('the caller has gone'));
      if (signal?.aborted) return cancelled();
      const entry: Waiting = {
        run: (searcher) => searcher.call('search', [collectionId, request]).then(resolve, reject),
      };
      signal?.addEventListener('abort', () => {
        const at = this.#waiting.indexOf(entry);
        if (at !== -1) this.#waiting.splice(at, 1);
        cancelled();
      });
      this.#waiting.push(entry);
      this.#next();
    });
  }

  #next(): void {
    while (this.#idle.length > 0 && this.#waiting.length > 0) {
      const searcher = this.#idle.pop()!;
      void this.#waiting
        .shift()!
        .run(searcher)
        .finally(() => {
          this.#idle.push(searcher);
          this.#next();
        });
    }
  }
}
