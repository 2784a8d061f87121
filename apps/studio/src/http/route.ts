import { Failure } from '@/server/failure';
import type { Right } from '@yucca/contract';
import { isLoopbackHost } from '@/server/config';
import { requireCollection, requireRight, unlimited, type Caller } from '@/server/keys/caller';
import { runtime, type Runtime } from '@/server/runtime';
import type { SearchOptions } from '@/server/search/search';
import { callerOf } from './caller';
import { drain } from './input';
import { problemResponse, rateHeaders } from './problem';

export interface RouteContext {
  request: Request;
  url: URL;
  /** Path parameters, percent-decoded. */
  params: Record<string, string>;
  /** Checked already: has the route's right, and reaches the collection in the path. */
  caller: Caller;
  /** What every question to the index is told of the caller. */
  asking: SearchOptions;
  yucca: Runtime;
}

type Handler = (request: Request, context: { params: Promise<Record<string, string | string[]>> }) => Promise<Response>;

const NOBODY: Caller = unlimited('nobody', null, []);

/** A route: checks the key for the right it needs, runs, and turns failures into problems. */
export function route(right: Right | 'none', run: (context: RouteContext) => Response | Promise<Response>): Handler {
  return async (request, { params }) => {
    const open = right === 'search';
    let caller = NOBODY;
    try {
      const yucca = runtime();
      const path = Object.fromEntries(
        Object.entries((await params) ?? {}).map(([name, value]) => [name, String(value)]),
      );
      if (right !== 'none') {
        caller = callerOf(request, yucca);
        requireRight(caller, right);
        if (path.collection !== undefined) requireCollection(caller, path.collection);
      }
      const { keyId, perMinute, filter } = caller;
      const rate = keyId === null || perMinute === null ? null : await yucca.rates.take(keyId, perMinute);
      const asking = { signal: request.signal, ...(filter === null ? {} : { forcedFilter: filter }) };
      const response = await run({ request, url: new URL(request.url), params: path, caller, asking, yucca });
      for (const [name, value] of Object.entries(rateHeaders(rate))) response.headers.set(name, value);
      if (open) openToOtherSites(response, caller, request);
      if (isLoopbackHost(request.headers.get('host'))) response.headers.append('Cache-Control', 'no-transform');
      return response;
    } catch (error) {
      await drain(request);
      const response = problemResponse(error);
      if (open) openToOtherSites(response, caller, request);
      return response;
    }
  };
}

const READABLE = 'Server-Timing, ETag, RateLimit, RateLimit-Policy, Retry-After';

/** Search answers may be read by pages of the sites a key is for: the key is what lets them in, never a cookie. */
function openToOtherSites({ headers }: Response, { origins }: Caller, request: Request): void {
  const origin = request.headers.get('origin');
  if (origins === null) headers.set('Access-Control-Allow-Origin', '*');
  else {
    headers.append('Vary', 'Origin');
    if (origin !== null) headers.set('Access-Control-Allow-Origin', origin);
  }
  headers.set('Access-Control-Expose-Headers', READABLE);
  headers.append('Vary', 'Authorization');
}

/** Answers the preflight of a browser (CORS) for the search routes; it carries no key, so it may be kept for a day. */
export function preflight(): Response {
  return new Response(null, {
    status: 204,
    headers: {
      'Access-Control-Allow-Origin': '*',
      'Access-Control-Allow-Methods': 'GET, POST',
      'Access-Control-Allow-Headers': 'Authorization, Content-Type, If-None-Match',
      'Access-Control-Max-Age': '86400',
    },
  });
}

const METHODS = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'] as const;
type Method = (typeof METHODS)[number];

/** Handlers for the methods a route does not take: they say which it does. */
export function refuseOthers<M extends Method>(...taken: M[]): Record<Exclude<Method, M>, Handler> {
  const refuse: Handler = async (request) => {
    const detail = `${new URL(request.url).pathname} takes ${taken.join(', ')}, not ${request.method}.`;
    const response = problemResponse(new Failure('wrong-method', detail));
    response.headers.set('Allow', taken.join(', '));
    return response;
  };
  const others = METHODS.filter((method) => !taken.some((one) => one === method));
  return Object.fromEntries(others.map((method) => [method, refuse])) as Record<Exclude<Method, M>, Handler>;
}
