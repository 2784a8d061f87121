import { Failure } from '@/server/failure';
import type { Right } from '@yucca/contract';
import { requireRight, type Caller } from '@/server/keys/keys';
import { runtime, type Runtime } from '@/server/runtime';
import { callerOf } from './caller';
import { drain } from './input';
import { problemResponse } from './problem';

export interface RouteContext {
  request: Request;
  url: URL;
  /** Path parameters, percent-decoded. */
  params: Record<string, string>;
  caller: Caller | null;
  yucca: Runtime;
}

type Handler = (request: Request, context: { params: Promise<Record<string, string | string[]>> }) => Promise<Response>;

/** A route: checks the key for the right it needs, runs, and turns failures into problems. */
export function route(right: Right | 'none', run: (context: RouteContext) => Response | Promise<Response>): Handler {
  return async (request, { params }) => {
    try {
      const yucca = runtime();
      const caller = right === 'none' ? null : callerOf(request, yucca);
      if (caller && right !== 'none') requireRight(caller, right);
      const decoded = Object.entries((await params) ?? {}).map(([name, value]) => [name, String(value)]);
      const context = {
        request,
        url: new URL(request.url),
        params: Object.fromEntries(decoded) as Record<string, string>,
        caller,
        yucca,
      };
      const response = await run(context);
      if (right === 'search') openToOtherSites(response);
      return response;
    } catch (error) {
      await drain(request);
      const response = problemResponse(error);
      if (right === 'search') openToOtherSites(response);
      return response;
    }
  };
}

/** Search answers may be read by pages of other sites: the key they carry is what lets them in, never a cookie. */
function openToOtherSites(response: Response): void {
  response.headers.set('Access-Control-Allow-Origin', '*');
  response.headers.set('Access-Control-Expose-Headers', 'Server-Timing, ETag');
}

/** Answers the preflight of a browser (CORS) for the search routes; it may be kept for a day. */
export function preflight(): Response {
  return new Response(null, {
    status: 204,
    headers: {
      'Access-Control-Allow-Origin': '*',
      'Access-Control-Allow-Methods': 'GET, POST',
      'Access-Control-Allow-Headers': 'Authorization, Content-Type',
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
