import type { ProblemJson, SearchAnswer, SearchRequest, SuggestAnswer } from '@yucca/contract';

export interface ClientOptions {
  /** Where the API lives, without a slash at the end. Default: this page's own server. */
  base?: string;
  /** A search key. Only ever put one on a page that can do nothing but search. */
  key?: string;
  fetch?: typeof fetch;
}

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
  /** Completions of what is being typed. */
  suggest: (collection: string, q: string, size: number, signal?: AbortSignal) => Promise<SuggestAnswer>;
}

/** Waits before a request is sent again after the line was down, in milliseconds. */
const RETRY_AFTER_MS = [150, 600];

/** The query string of a search as the API's GET takes it. */
export function searchParams(request: SearchRequest): URLSearchParams {
  const params = new URLSearchParams();
  const { q, select, facets, page, size, fields, version, filter, sort, near, explain, session, viewer, tags, record } =
    request;
  if (q) params.set('q', q);
  if (select && Object.keys(select).length > 0) params.set('select', JSON.stringify(select));
  if (facets && facets.length > 0) params.set('facets', facets.join(','));
  if (page !== undefined && page !== 1) params.set('page', String(page));
  if (size !== undefined) params.set('size', String(size));
  if (fields) params.set('fields', fields.join(','));
  if (version) params.set('version', version);
  if (filter) params.set('filter', filter);
  if (sort) params.set('sort', sort);
  if (near) params.set('near', `${near.lat},${near.lng}`);
  if (near?.withinM !== undefined) params.set('withinM', String(near.withinM));
  if (explain !== undefined) params.set('explain', String(explain));
  if (session) params.set('session', session);
  if (viewer) params.set('viewer', viewer);
  if (tags && tags.length > 0) params.set('tags', tags.join(','));
  if (record !== undefined) params.set('record', String(record));
  return params;
}

/**
 * Makes a client for a server's search routes. Requests are simple GETs wherever they can be, so a browser sends no
 * preflight. When the line is down a request is sent again twice, a little later each time; what a server has answered,
 * whatever it is, is never asked again by itself.
 */
export function createClient({ base = '', key, fetch: send = globalThis.fetch }: ClientOptions = {}): YuccaClient {
  const ask = async <T>(path: string, signal?: AbortSignal, init: RequestInit = {}): Promise<T> => {
    const response = await sent(
      () => send.call(globalThis, `${base}/api/v1${path}`, signal ? { ...init, signal } : init),
      signal,
    );
    if (!response.ok) throw new ProblemError(await readProblem(response));
    return (await response.json()) as T;
  };
  const withKey = (params: URLSearchParams): string => {
    if (key) params.set('key', key);
    return params.toString();
  };
  const of = (collection: string): string => `/collections/${encodeURIComponent(collection)}`;
  return {
    search: (collection, request, signal) =>
      ask<SearchAnswer>(`${of(collection)}/search?${withKey(searchParams(request))}`, signal),
    suggest: (collection, q, size, signal) =>
      ask<SuggestAnswer>(
        `${of(collection)}/suggest?${withKey(new URLSearchParams({ q, size: String(size) }))}`,
        signal,
      ),
    async multiSearch(queries, signal) {
      const headers = { 'Content-Type': 'application/json', ...(key ? { Authorization: `Bearer ${key}` } : {}) };
      const init = { method: 'POST', headers, body: JSON.stringify({ queries }) };
      const { answers } = await ask<{ answers: (SearchAnswer | ProblemJson)[] }>('/search', signal, init);
      return answers;
    },
  };
}

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
  try {
    return { ...fallback, ...((await response.json()) as Partial<ProblemJson>) };
  } catch {
    return fallback;
  }
}
