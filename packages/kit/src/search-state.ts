import type { RecordJson, SearchAnswer, SearchRequest } from '@yucca/contract';
import type { SearchClient, YuccaClient } from './client.ts';
import { ProblemError } from './problem-error.ts';
import { pagesUpTo } from './pages-up-to.ts';
import { EMPTY_QUERY, requestFor, sameQuery, withPage, type Query, type StandingRequest } from './query.ts';
import { Recovery } from './recovery.ts';
import { Store } from './store.ts';
import type { AnswerOf } from './typed.ts';

/** What a search page shows at one moment. `R`: the type of its records. */
export interface SearchSnapshot<R extends object = RecordJson> {
  /** What the visitor asks for now. */
  query: Query;
  /** The last good answer; it stays on screen until the next one is there. */
  answer: AnswerOf<R> | null;
  /** What the collections beside it answered to the same text, in their order; null = that one did not answer. */
  beside: readonly (SearchAnswer | null)[];
  /** The query that `answer` answers. */
  answered: Query | null;
  status: 'idle' | 'loading' | 'failed';
  /** Why the last try failed; it stays until one works. */
  error: Error | null;
}

/** Another collection that is asked for the same text, on one page with the first. */
export interface Beside {
  collection: string;
  /** Facets, size, fields. */
  request?: StandingRequest;
  /** What it is asked for, of the query of the page; null = nothing now. Default: the same text. */
  ask?: (query: Query) => (StandingRequest & Pick<SearchRequest, 'q' | 'sort'>) | null;
}

/** What a search state asks, of whom, and what it knows at first. */
export interface SearchStateOptions {
  client: SearchClient & Partial<Pick<YuccaClient, 'multiSearch'>>;
  collection: string;
  /** What is asked for with every query: facets, size, fields. */
  request?: StandingRequest;
  /**
   * Pages are put below each other: the answer to page 3 holds the results of pages 1 to 3. For load-more and
   * scrolling.
   */
  grow?: boolean;
  /**
   * More collections, asked in the same request: "12 plants, 3 guides". Choices, pages and sorts are the first one's.
   */
  beside?: readonly Beside[];
  query?: Query;
  /** An answer to `query` that came with the page: nothing is asked again for it. */
  answer?: SearchAnswer | null;
  /** And what the collections beside it answered. */
  answersBeside?: SearchSnapshot['beside'] | undefined;
}

/**
 * The state of one search, without a framework. Every change of the query asks at once and cancels the request before
 * it; an answer is taken only if it belongs to the newest request. So a slow answer can never replace a newer one.
 * `R`: the type of the records.
 */
export class SearchState<R extends object = RecordJson> extends Store<SearchSnapshot<R>> {
  #newest = 0;
  readonly #recovery = new Recovery(() => void this.#ask());
  #abort: AbortController | null = null;
  readonly #options: SearchStateOptions;
  #request: SearchStateOptions['request'];

  constructor(options: SearchStateOptions) {
    const { query = EMPTY_QUERY, answer = null, answersBeside: beside = [] } = options;
    super({
      query,
      answer: answer as unknown as AnswerOf<R> | null,
      beside,
      answered: answer ? query : null,
      status: 'idle',
      error: null,
    });
    this.#options = options;
    this.#request = options.request;
  }

  /** Resolves as soon as nothing is being asked. */
  settled(): Promise<void> {
    if (this.snapshot().status !== 'loading') return Promise.resolve();
    return new Promise((resolve) => {
      const stop = this.subscribe(() => {
        if (this.snapshot().status === 'loading') return;
        stop();
        resolve();
      });
    });
  }

  /** Asks for something else. The old results stay until the new ones come. */
  ask(query: Query): void {
    if (sameQuery(query, this.snapshot().query)) return;
    this.set({ query });
    void this.refresh();
  }

  /**
   * Takes over a query from outside, and its answer if it came along: nothing is asked then. Without one it is asked
   * for.
   */
  take(query: Query, answer: SearchAnswer | null = null): void {
    if (answer === null) return this.ask(query);
    this.stop();
    this.set({ query, answer: answer as unknown as AnswerOf<R>, answered: query, error: null });
  }

  /** Changes what is asked for with every query, and asks anew; `query`: for something else at once. */
  change(request: StandingRequest, query = this.snapshot().query): void {
    this.#request = request;
    if (query !== this.snapshot().query) this.set({ query });
    void this.refresh();
  }

  /** Asks again for the same. After a failure that may pass, that happens by itself. */
  refresh(): Promise<void> {
    this.#recovery.stop();
    return this.#ask();
  }

  async #ask(): Promise<void> {
    const mine = ++this.#newest;
    this.#abort?.abort();
    const abort = new AbortController();
    this.#abort = abort;
    const { client, collection, beside = [], grow = false } = this.#options;
    const request = this.#request;
    let others: SearchSnapshot['beside'] = this.snapshot().beside;
    const { query, answer: before, answered } = this.snapshot();
    const search = async (page: Query): Promise<SearchAnswer> => {
      const asked = requestFor(page, request);
      // Further pages are the first collection's alone.
      if (page.page > 1) return client.search(collection, asked, abort.signal);
      const more = beside.map((one) => {
        const own = one.ask ? one.ask(page) : { q: page.q };
        return own && { collection: one.collection, ...one.request, ...own };
      });
      const wanted = more.filter((one) => one !== null);
      if (wanted.length === 0) {
        others = more as null[];
        return client.search(collection, asked, abort.signal);
      }
      const [first, ...rest] = await askAll(client, [{ collection, ...asked }, ...wanted], abort.signal);
      if (!('results' in first!)) throw new ProblemError(first!);
      others = more.map((one) => {
        const answer = one && rest[wanted.indexOf(one)]!;
        return answer && 'results' in answer ? answer : null;
      });
      return first;
    };
    this.set({ status: 'loading' });
    try {
      const known = before && answered ? { answer: before as unknown as SearchAnswer, answered } : null;
      const answer = grow ? await pagesUpTo(query, search, known) : await search(query);
      const reached = grow ? withPage(query, answer.page) : query;
      if (mine !== this.#newest) return;
      this.#recovery.stop();
      this.set({
        answer: answer as unknown as AnswerOf<R>,
        beside: others,
        answered: reached,
        status: 'idle',
        error: null,
      });
    } catch (error) {
      if (mine !== this.#newest) return;
      this.#recovery.failed(error as Error);
      this.set({ status: 'failed', error: error as Error });
    }
  }

  /** Stops what is in flight. */
  stop(): void {
    this.#newest++;
    this.#abort?.abort();
    this.#recovery.stop();
    if (this.snapshot().status === 'loading') this.set({ status: 'idle' });
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
