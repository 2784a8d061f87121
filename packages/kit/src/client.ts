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

export interface ClientOptions {
  /** Where the API lives, without a slash at the end. Default: this page's own server. */
  base?: string;
  /** A search key. Only ever put one on a page that can do nothing but search. */
  key?: string;
  fetch?: typeof fetch;
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

/** The server answered with Problem Details (RFC 9457). */
export class ProblemError extends Error {
  override name = 'ProblemError';
  readonly problem: ProblemJson;

  constructor(problem: ProblemJson) {
    super(problem.detail || problem.title);
    this.problem = problem;
  }
}

export interface SearchClient {
  /** Asks once. Rejects with a ProblemError, a TypeError when the line is down, or an AbortError when `signal` fires. */
  search: (collection: string, request: SearchRequest, signal?: AbortSignal) => Promise<SearchAnswer>;
}

/** All of the search routes. */
export interface YuccaClient extends SearchClient {
  /** Several searches in one request, at most ten; what fails answers a problem in its place. */
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
  /** What a search page is made of: an interface's, or the plain one of a collection. */
  page: (slug: string, signal?: AbortSignal) => Promise<InterfacePage>;
  /** Completions of what is being typed. */
  suggest: (collection: string, q: string, size: number, signal?: AbortSignal) => Promise<SuggestAnswer>;
}

/** Waits before a request is sent again after the line was down, in milliseconds. */
const RETRY_AFTER_MS = [150, 600];

/** What a request says of the results that are shown, not of what is found. */
const OF_THE_PAGE = ['q', 'facets', 'page', 'size', 'fields', 'sort'];

/** The query string of a search as the API's GET takes it. */
export function searchParams(request: SearchRequest): URLSearchParams {
  const params = new URLSearchParams();
  const { q, select, page, near } = request;
  if (q) params.set('q', q);
  if (select && Object.keys(select).length > 0) params.set('select', JSON.stringify(select));
  if (page !== undefined && page !== 1) params.set('page', String(page));
  for (const name of ['facets', 'fields', 'tags'] as const) {
    const list = request[name];
    if (list && (list.length > 0 || name === 'fields')) params.set(name, list.join(','));
  }
  for (const name of ['size', 'version', 'on', 'filter', 'sort', 'explain', 'session', 'viewer', 'record'] as const) {
    const value = request[name];
    if (value !== undefined && value !== '') params.set(name, String(value));
  }
  if (near) params.set('near', `${near.lat},${near.lng}`);
  if (near?.withinM !== undefined) params.set('withinM', String(near.withinM));
  return params;
}

/**
 * Makes a client for a server's search routes. Requests are simple GETs wherever they can be, so a browser sends no
 * preflight. When the line is down a request is sent again twice, a little later each time; what a server has answered,
 * whatever it is, is never asked again by itself. Answers are kept for a moment: Back, and a letter taken away, are
 * answered from there.
 */
export function createClient({
  base = '',
  key,
  fetch: send = globalThis.fetch,
  cache: { most = 50, forMs = 30_000 } = {},
  onRequest,
}: ClientOptions = {}): YuccaClient {
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
    try {
      const response = await sent(
        () => send.call(globalThis, `${base}/api/v1${path}`, signal ? { ...init, signal } : init),
        signal,
      );
      tell({ kind: 'head', status: response.status, timing: response.headers?.get('Server-Timing') ?? null });
      if (!response.ok) throw new ProblemError(await readProblem(response));
      const body = await response.text();
      // Letters, not bytes on the line: those are the browser's to know.
      bytes = body.length;
      const answer = JSON.parse(body) as T;
      if (keep !== undefined) cache.set(keep, answer);
      tell({ kind: 'end', outcome: 'done', bytes });
      return answer;
    } catch (error) {
      tell({ kind: 'end', outcome: signal?.aborted ? 'cancelled' : 'failed', bytes });
      throw error;
    }
  };
  const get = <T>(path: string, params: URLSearchParams, text: string, signal: AbortSignal | undefined): Promise<T> => {
    if (key) params.set('key', key);
    const whole = `${path}?${params.toString()}`;
    return ask<T>(whole, { text, keep: whole, ...(signal && { signal }) });
  };
  const of = (collection: string): string => `/collections/${encodeURIComponent(collection)}`;
  return {
    search: (collection, request, signal) =>
      get<SearchAnswer>(`${of(collection)}/search`, searchParams(request), request.q ?? '', signal),
    suggest: (collection, q, size, signal) =>
      get<SuggestAnswer>(`${of(collection)}/suggest`, new URLSearchParams({ q, size: String(size) }), q, signal),
    facetValues(collection, facet, q, within, signal) {
      const params = searchParams(within);
      for (const name of OF_THE_PAGE) params.delete(name);
      if (within.q) params.set('query', within.q);
      params.set('q', q);
      return get<FacetValuesAnswer>(`${of(collection)}/facets/${encodeURIComponent(facet)}`, params, q, signal);
    },
    page: (slug, signal) =>
      get<InterfacePage>(`/interfaces/${encodeURIComponent(slug)}/page`, new URLSearchParams(), '', signal),
    async multiSearch(queries, signal) {
      const headers = { 'Content-Type': 'application/json', ...(key ? { Authorization: `Bearer ${key}` } : {}) };
      const body = JSON.stringify({ queries });
      const { answers } = await ask<{ answers: (SearchAnswer | ProblemJson)[] }>('/search', {
        method: 'POST',
        headers,
        body,
        text: queries[0]?.q ?? '',
        keep: `/search ${body}`,
        ...(signal && { signal }),
      });
      return answers;
    },
  };
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
