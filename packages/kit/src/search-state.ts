import type { SearchAnswer } from '@yucca/contract';
import { ProblemError, type SearchClient, type YuccaClient } from './client.ts';
import { pagesUpTo } from './pages-up-to.ts';
import { EMPTY_QUERY, requestFor, withPage, type Query, type StandingRequest } from './query.ts';

/** What a search page shows at one moment. */
export interface SearchSnapshot {
  /** What the visitor asks for now. */
  query: Query;
  /** The last good answer; it stays on screen until the next one is there. */
  answer: SearchAnswer | null;
  /** What the collections beside it answered to the same text, in their order; null = that one did not answer. */
  beside: readonly (SearchAnswer | null)[];
  /** The query that `answer` answers. */
  answered: Query | null;
  status: 'idle' | 'loading' | 'failed';
  error: Error | null;
}

/** Another collection that is asked for the same text, on one page with the first. */
export interface Beside {
  collection: string;
  /** Facets, size, fields. */
  request?: StandingRequest;
}

export interface SearchStateOptions {
  client: SearchClient & Partial<Pick<YuccaClient, 'multiSearch'>>;
  collection: string;
  /** What is asked for with every query: facets, size, fields. */
  request?: StandingRequest;
  /** Pages are put below each other: the answer to page 3 holds the results of pages 1 to 3. For load-more and scrolling. */
  grow?: boolean;
  /** More collections, asked in the same request: "12 plants, 3 guides". Choices, pages and sorts are the first one's. */
  beside?: readonly Beside[];
  query?: Query;
  /** An answer to `query` that came with the page: nothing is asked again for it. */
  answer?: SearchAnswer | null;
}

/**
 * The state of one search, without a framework. Every change of the query asks at once and cancels the request before
 * it; an answer is taken only if it belongs to the newest request. So a slow answer can never replace a newer one.
 */
export class SearchState {
  #snapshot: SearchSnapshot;
  #newest = 0;
  #abort: AbortController | null = null;
  readonly #listeners = new Set<() => void>();
  readonly #options: SearchStateOptions;
  #request: SearchStateOptions['request'];

  constructor(options: SearchStateOptions) {
    this.#options = options;
    this.#request = options.request;
    const { query = EMPTY_QUERY, answer = null } = options;
    this.#snapshot = { query, answer, beside: [], answered: answer ? query : null, status: 'idle', error: null };
  }

  /** The current state; the same object until something changes. */
  readonly snapshot = (): SearchSnapshot => this.#snapshot;

  /** Calls back after every change; answers a function that stops it. */
  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  /** Resolves as soon as nothing is being asked. */
  settled(): Promise<void> {
    if (this.#snapshot.status !== 'loading') return Promise.resolve();
    return new Promise((resolve) => {
      const stop = this.subscribe(() => {
        if (this.#snapshot.status === 'loading') return;
        stop();
        resolve();
      });
    });
  }

  /** Asks for something else. The old results stay until the new ones come. */
  ask(query: Query): void {
    if (query === this.#snapshot.query) return;
    this.#set({ query });
    void this.refresh();
  }

  /** Changes what is asked for with every query, and asks anew. */
  change(request: StandingRequest): void {
    this.#request = request;
    void this.refresh();
  }

  /** Asks again for the same. */
  async refresh(): Promise<void> {
    const mine = ++this.#newest;
    this.#abort?.abort();
    const abort = new AbortController();
    this.#abort = abort;
    const { client, collection, beside = [], grow = false } = this.#options;
    const request = this.#request;
    let others: SearchSnapshot['beside'] = this.#snapshot.beside;
    const { query, answer: before, answered } = this.#snapshot;
    const search = async (page: Query): Promise<SearchAnswer> => {
      const asked = requestFor(page, request);
      // Further pages are the first collection's alone.
      if (beside.length === 0 || page.page > 1) return client.search(collection, asked, abort.signal);
      const more = beside.map((one) => ({ collection: one.collection, ...one.request, q: page.q }));
      const [first, ...rest] = await askAll(client, [{ collection, ...asked }, ...more], abort.signal);
      if (!('results' in first!)) throw new ProblemError(first!);
      others = rest.map((answer) => ('results' in answer ? answer : null));
      return first;
    };
    this.#set({ status: 'loading' });
    try {
      const known = before && answered ? { answer: before, answered } : null;
      const answer = grow ? await pagesUpTo(query, search, known) : await search(query);
      const reached = grow ? withPage(query, answer.page) : query;
      if (mine === this.#newest) this.#set({ answer, beside: others, answered: reached, status: 'idle', error: null });
    } catch (error) {
      if (mine === this.#newest) this.#set({ status: 'failed', error: error as Error });
    }
  }

  /** Stops what is in flight. */
  stop(): void {
    this.#newest++;
    this.#abort?.abort();
    if (this.#snapshot.status === 'loading') this.#set({ status: 'idle' });
  }

  #set(change: Partial<SearchSnapshot>): void {
    this.#snapshot = { ...this.#snapshot, ...change };
    this.#listeners.forEach((listener) => listener());
  }
}

/** Asks for several searches in one request; of a client that cannot, one by one. */
function askAll(
  client: SearchStateOptions['client'],
  queries: Parameters<YuccaClient['multiSearch']>[0],
  signal: AbortSignal,
): ReturnType<YuccaClient['multiSearch']> {
  if (client.multiSearch) return client.multiSearch(queries, signal);
  return Promise.all(queries.map(({ collection, ...request }) => client.search(collection, request, signal)));
}
