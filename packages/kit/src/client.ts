import { parsedJson } from '@yucca/contract';
import type {
  FacetValuesAnswer,
  InterfacePage,
  ProblemJson,
  SearchAnswer,
  SearchRequest,
  SuggestAnswer,
} from '@yucca/contract';
import { AnswerCache } from './answer-cache.ts';
import { ProblemError } from './problem-error.ts';
import { mayPass } from './recovery.ts';
import { together } from './together.ts';
import type { AnswerOf, Collections, RecordOf } from './typed.ts';

/** Where a client asks, with what, and how patiently. */
export interface ClientOptions {
  /** Where the API lives, without a slash at the end. Default: this page's own server. */
  base?: string;
  /** A search key. Only ever put one on a page that can do nothing but search. */
  key?: string;
  /** What sends the requests. Default: the fetch of this page. */
  fetch?: typeof fetch;
  /** How long an answer is waited for, in milliseconds. Default: 10 seconds. */
  timeoutMs?: number;
  /** Answers that may be used again for a while. Default: 50 of them, for 30 seconds; `most: 0` keeps none. */
  cache?: { most?: number; forMs?: number };
  /** Hears of every request as it goes on: for a network lens, or a log. */
  onRequest?: (event: RequestEvent) => void;
}

/** What becomes of a request. `at` is in milliseconds, as `performance.now()` counts them. */
export type RequestEvent =
  | { kind: 'start'; id: number; at: number; path: string; text: string }
  /** The first byte of the answer is there. */
  | { kind: 'head'; id: number; at: number; status: number; timing: string | null }
  | { kind: 'end'; id: number; at: number; outcome: 'done' | 'cancelled' | 'failed' | 'cached'; bytes: number };

/** Whoever can search a collection. */
export interface SearchClient {
  /**
   * Asks once. Rejects with a ProblemError, a TypeError when the line is down, a TimeoutError when no answer came in
   * time, or an AbortError when `signal` fires.
   */
  search: (collection: string, request: SearchRequest, signal?: AbortSignal) => Promise<SearchAnswer>;
}

/** All of the search routes. */
export interface YuccaClient extends SearchClient {
  /** Several searches in one request; what fails answers a problem in its place. */
  multiSearch: (
    queries: readonly (SearchRequest & { collection: string })[],
    signal?: AbortSignal,
  ) => Promise<(SearchAnswer | ProblemJson)[]>;
  /** Looks for a text inside the values of a facet, within the results of a request. */
  facetValues: (
    collection: string,
    facet: string,
    q: string,
    within: SearchRequest,
    signal?: AbortSignal,
  ) => Promise<FacetValuesAnswer>;
  /**
   * What a search page is made of: an interface's, or the plain one of a collection. `language` (BCP 47): what it is
   * wanted in, of those it may be had in.
   */
  page: (slug: string, signal?: AbortSignal, language?: string) => Promise<InterfacePage>;
  /** Completions of what is being typed; `filter` (CQL2-Text): of the records that fulfil it. */
  suggest: (
    collection: string,
    q: string,
    size: number,
    signal?: AbortSignal,
    filter?: string,
  ) => Promise<SuggestAnswer>;
}

/** All of the search routes, with records of the types that are known of collections. */
export interface TypedClient<C extends Collections> extends Omit<YuccaClient, 'search'> {
  /** As `YuccaClient` has it. */
  search: <N extends string>(
    collection: N,
    request: SearchRequest,
    signal?: AbortSignal,
  ) => Promise<AnswerOf<RecordOf<C, N>>>;
}

/** Waits before a request is sent again after the line was down, in milliseconds. */
const RETRY_AFTER_MS = [150, 600];

/** What a request says of the results that are shown, not of what is found. */
const OF_THE_PAGE = ['q', 'facets', 'conditions', 'page', 'size', 'fields', 'sort'];

/** The query string of a search as the API's GET takes it. */
export function searchParams(request: SearchRequest): URLSearchParams {
  const params = new URLSearchParams();
  const { q, select, page, near, ...others } = request;
  if (q) params.set('q', q);
  if (select && Object.keys(select).length > 0) params.set('select', JSON.stringify(select));
  if (page !== undefined && page !== 1) params.set('page', String(page));
  for (const [name, value] of Object.entries(others)) {
    // Commas may stand in conditions; to want no field is something to ask for.
    const text = name === 'conditions' && value ? JSON.stringify(value) : String(value ?? '');
    if (text !== '' || (name === 'fields' && value)) params.set(name, text);
  }
  if (near) params.set('near', `${near.lat},${near.lng}`);
  if (near?.withinM !== undefined) params.set('withinM', String(near.withinM));
  return params;
}

/** What can be asked for together with others: a search or completions, with its collection. */
interface Question {
  /** What is sent when it is asked with others. */
  query: object;
  /** What is asked for when it is alone: a path of the API. */
  path: string;
  /** As typed. */
  text: string;
}

/**
 * Makes a client for a server's search routes. What is asked for in one moment is one request. Requests are simple ones
 * (Fetch, 2.2.2) wherever they can be, so a browser sends no preflight. When the line is down a request is sent again
 * twice, a little later each time; what a server has answered, whatever it is, is not asked again here. Answers are
 * kept for a moment: Back, and a letter taken away, are answered from there. `C`: the types of the records of
 * collections, as in `createClient<{ plants: PlantsRecord }>()`.
 */
export function createClient<C extends Collections = Record<never, object>>({
  base = '',
  key,
  fetch: send = globalThis.fetch,
  timeoutMs = 10_000,
  cache: { most = 50, forMs = 30_000 } = {},
  onRequest,
}: ClientOptions = {}): TypedClient<C> {
  const cache = new AnswerCache(most, forMs);
  let requests = 0;

  /** Asks once. `keep` is what the answer is kept under; `text` is what was typed, for who listens. */
  const ask = async <T>(
    path: string,
    { text = '', keep, signal, ...init }: Omit<RequestInit, 'signal'> & Asking,
  ): Promise<T> => {
    const id = ++requests;
    const tell = (event: DistributiveOmit<RequestEvent, 'id' | 'at'>): void =>
      onRequest?.({ ...event, id, at: performance.now() });
    tell({ kind: 'start', path, text });
    const known = keep === undefined ? null : cache.get<T>(keep);
    if (known !== null) {
      tell({ kind: 'end', outcome: 'cached', bytes: 0 });
      return known;
    }
    let bytes = 0;
    // Of the whole answer: one that stops half-way is as little of use.
    const line = AbortSignal.any([AbortSignal.timeout(timeoutMs), ...(signal ? [signal] : [])]);
    try {
      const response = await sent(
        () => send.call(globalThis, `${base}/api/v1${path}`, { ...init, signal: line }),
        line,
      );
      tell({ kind: 'head', status: response.status, timing: response.headers?.get('Server-Timing') ?? null });
      if (!response.ok)
        throw new ProblemError(await readProblem(response), Number(response.headers?.get('Retry-After')) || null);
      const body = await response.text();
      // Letters, not bytes on the line: those are the browser's to know.
      bytes = body.length;
      const answer = JSON.parse(body) as T;
      if (keep !== undefined) cache.set(keep, answer);
      tell({ kind: 'end', outcome: 'done', bytes });
      return answer;
    } catch (error) {
      tell({ kind: 'end', outcome: signal?.aborted ? 'cancelled' : 'failed', bytes });
      throw line.aborted && !signal?.aborted ? line.reason : error;
    }
  };
  const of = (collection: string): string => `/collections/${encodeURIComponent(collection)}`;
  const withKey = (path: string, params = new URLSearchParams()): string => {
    if (key) params.set('key', key);
    const text = params.toString();
    return text === '' ? path : `${path}?${text}`;
  };
  const get = <T>(path: string, params: URLSearchParams, text: string, signal: AbortSignal | undefined): Promise<T> => {
    const whole = withKey(path, params);
    return ask<T>(whole, { text, keep: whole, ...(signal && { signal }) });
  };
  const askWithOthers = together<Question, unknown>(async (questions, signal) => {
    const [first] = questions as [Question];
    const { path, text } = first;
    if (questions.length === 1) return [await ask(path, { text, keep: path, signal })];
    // Called plain text, it needs no leave from another site's server.
    const headers = { 'Content-Type': 'text/plain' };
    const body = JSON.stringify({ queries: questions.map(({ query }) => query) });
    const { answers } = await ask<{ answers: object[] }>(withKey('/search'), {
      method: 'POST',
      headers,
      body,
      text,
      signal,
    });
    answers.forEach((answer, i) => isProblem(answer) || cache.set(questions[i]!.path, answer));
    return answers;
  });
  /** Answers a search, completions, or a problem. */
  const askTogether = <T>(
    [collection, route]: readonly [string, string],
    params: URLSearchParams,
    query: object,
    text: string,
    signal: AbortSignal | undefined,
  ): Promise<T> => {
    const path = withKey(`${of(collection)}${route}`, params);
    if (cache.get(path) !== null) return ask<T>(path, { text, keep: path });
    return askWithOthers({ query: { collection, ...query }, path, text }, signal) as Promise<T>;
  };
  const searchOrProblem = (collection: string, request: SearchRequest, signal?: AbortSignal) =>
    askTogether<SearchAnswer | ProblemJson>(
      [collection, '/search'],
      searchParams(request),
      request,
      request.q ?? '',
      signal,
    );
  const client: YuccaClient = {
    search: async (collection, request, signal) => answered(await searchOrProblem(collection, request, signal)),
    suggest: async (collection, q, size, signal, filter) => {
      const asked = { q, size, ...(filter && { filter }) };
      // It writes numbers as texts by itself.
      const params = new URLSearchParams(asked as unknown as Record<string, string>);
      const route = [collection, '/suggest'] as const;
      return answered(await askTogether<SuggestAnswer | ProblemJson>(route, params, { suggest: asked }, q, signal));
    },
    facetValues(collection, facet, q, within, signal) {
      const params = searchParams(within);
      for (const name of OF_THE_PAGE) params.delete(name);
      if (within.q) params.set('query', within.q);
      params.set('q', q);
      return get<FacetValuesAnswer>(`${of(collection)}/facets/${encodeURIComponent(facet)}`, params, q, signal);
    },
    page: (slug, signal, language) => {
      const params = new URLSearchParams(language ? { language } : {});
      return get<InterfacePage>(`/interfaces/${encodeURIComponent(slug)}/page`, params, '', signal);
    },
    multiSearch: (queries, signal) =>
      Promise.all(
        queries.map(({ collection, ...request }) =>
          searchOrProblem(collection, request, signal).catch((error: unknown) => {
            // One that was left to ask for alone fails in its place, as it does among others.
            if (error instanceof ProblemError && queries.length > 1 && !mayPass(error)) return error.problem;
            throw error;
          }),
        ),
      ),
  };
  return client as TypedClient<C>;
}

const isProblem = (answer: object): answer is ProblemJson => 'status' in answer && 'type' in answer;

function answered<T extends object>(answer: T | ProblemJson): T {
  if (isProblem(answer)) throw new ProblemError(answer);
  return answer;
}

interface Asking {
  text?: string;
  keep?: string;
  signal?: AbortSignal;
}

type DistributiveOmit<T, K extends PropertyKey> = T extends unknown ? Omit<T, K> : never;

/** Sends a request, and again when the line was down: fetch says so with a TypeError. */
async function sent(send: () => Promise<Response>, signal: AbortSignal | undefined): Promise<Response> {
  for (const wait of RETRY_AFTER_MS) {
    try {
      return await send();
    } catch (error) {
      if (!(error instanceof TypeError) || signal?.aborted) throw error;
      await new Promise((resolve) => setTimeout(resolve, wait));
      if (signal?.aborted) throw error;
    }
  }
  return send();
}

async function readProblem(response: Response): Promise<ProblemJson> {
  const fallback = {
    type: 'about:blank',
    title: 'The server did not answer as expected',
    status: response.status,
    detail: '',
  };
  return { ...fallback, ...(parsedJson(await response.text()) as Partial<ProblemJson> | undefined) };
}
