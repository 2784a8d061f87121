import type { ProblemJson, SearchAnswer, SearchRequest } from '@yucca/contract';

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

/** Makes a client for a server's search routes. Requests are simple GETs, so a browser sends no preflight. */
export function createClient({ base = '', key, fetch: send = globalThis.fetch }: ClientOptions = {}): SearchClient {
  return {
    async search(collection, request, signal) {
      const params = searchParams(request);
      if (key) params.set('key', key);
      const url = `${base}/api/v1/collections/${encodeURIComponent(collection)}/search?${params.toString()}`;
      const response = await send.call(globalThis, url, signal ? { signal } : {});
      if (!response.ok) throw new ProblemError(await readProblem(response));
      return (await response.json()) as SearchAnswer;
    },
  };
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
