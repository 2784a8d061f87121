import type { Right } from '@yucca/contract';
import { Failure } from '@/server/failure';
import { requireCollection, requireRight, unlimited, type Caller } from '@/server/keys/caller';
import { runtime, type Runtime } from '@/server/runtime';
import type { Asking } from '@/server/search/search';
import { callerOf } from './caller';
import { fromWeb, type Incoming } from './incoming';
import { problemReply, rateHeaders } from './problem';
import { noteInAudit } from './audit-note';
import { Reply, toWeb } from './reply';
import { asksNotToBeNoted } from './unnoted';

export interface RouteContext {
  request: Incoming;
  url: URL;
  /** Path parameters, percent-decoded. */
  params: Record<string, string>;
  /** Checked already: has the route's right, and reaches the collection in the path. */
  caller: Caller;
  /** What every question to the index is told of the caller. */
  asking: Asking;
  yucca: Runtime;
}

type Params = Record<string, string>;

/**
 * A handler as the framework calls it; `answer` is the same thing for the front server, without the framework's cost.
 */
export interface Handler {
  (request: Request, context: { params: Promise<Record<string, string | string[]>> }): Promise<Response>;
  answer: (request: Incoming, params: Params) => Promise<Reply>;
}

/** What few routes ask for is made when it is asked for. */
class Context implements RouteContext {
  readonly request: Incoming;
  readonly params: Params;
  readonly caller: Caller;
  readonly yucca: Runtime;

  constructor(request: Incoming, params: Params, caller: Caller, yucca: Runtime) {
    this.request = request;
    this.params = params;
    this.caller = caller;
    this.yucca = yucca;
  }

  get url(): URL {
    return this.request.url;
  }

  get asking(): Asking {
    const { filter } = this.caller;
    const { signal, headers } = this.request;
    return { signal, unnoted: () => asksNotToBeNoted(headers), ...(filter === null ? {} : { forcedFilter: filter }) };
  }
}

const READS = new Set(['GET', 'HEAD']);
const NOBODY: Caller = unlimited('nobody', null, []);

/** Makes a handler of what answers a request. */
export function handler(answer: Handler['answer']): Handler {
  const forFramework = async (
    request: Request,
    { params }: { params: Promise<Record<string, string | string[]>> },
  ): Promise<Response> => {
    const given = Object.entries((await params) ?? {});
    const path = Object.fromEntries(
      given.map(([name, value]) => [name, Array.isArray(value) ? value.join('/') : String(value)]),
    );
    return toWeb(await answer(fromWeb(request), path));
  };
  return Object.assign(forFramework, { answer });
}

/** A route: checks the key for the right it needs, runs, and turns failures into problems. */
export function route(right: Right | 'none', run: (context: RouteContext) => Reply | Promise<Reply>): Handler {
  return handler(async (request, params) => {
    const open = right === 'search';
    let caller = NOBODY;
    try {
      const yucca = runtime();
      if (request.method !== 'GET' && request.rawPath.endsWith('/'))
        throw new Failure('not-found', 'There is nothing here: addresses have no slash at their end.');
      if (right !== 'none') {
        caller = callerOf(request, yucca);
        requireRight(caller, right);
        if (params.collection !== undefined) requireCollection(caller, params.collection);
      }
      const rate = yucca.rates.takeAll(caller.rates);
      const reply = await run(new Context(request, params, caller, yucca));
      // A search writes nothing: it must not wait for the disk because of what others write.
      if (!READS.has(request.method) && !open) await yucca.flushed();
      if (rate !== null) for (const [name, value] of Object.entries(rateHeaders(rate))) reply.set(name, value);
      if (open) openToOtherSites(reply, caller, request);
      if (!READS.has(request.method) && right !== 'search' && right !== 'none')
        noteInAudit(request, params, caller, yucca, reply.changed);
      return reply;
    } catch (error) {
      runtime().storage.heard(error);
      const reply = problemReply(error);
      if (open) openToOtherSites(reply, caller, request);
      return reply;
    }
  });
}

const READABLE = 'Server-Timing, ETag, RateLimit, RateLimit-Policy, Retry-After';

/** Search answers may be read by pages of the sites a key is for: the key is what lets them in, never a cookie. */
function openToOtherSites(reply: Reply, { origins }: Caller, request: Incoming): void {
  const origin = request.headers.get('origin');
  if (origins === null) reply.set('Access-Control-Allow-Origin', '*');
  else {
    reply.append('Vary', 'Origin');
    if (origin !== null) reply.set('Access-Control-Allow-Origin', origin);
  }
  reply.set('Access-Control-Expose-Headers', READABLE);
  reply.append('Vary', 'Authorization');
}

/** Answers the preflight of a browser (CORS) for the search routes; it carries no key, so it may be kept for a day. */
export const preflight: Handler = handler(() =>
  Promise.resolve(
    new Reply(null, {
      status: 204,
      headers: {
        'Access-Control-Allow-Origin': '*',
        'Access-Control-Allow-Methods': 'GET, POST',
        'Access-Control-Allow-Headers': 'Authorization, Content-Type, If-None-Match',
        'Access-Control-Max-Age': '86400',
      },
    }),
  ),
);

const METHODS = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'] as const;
type Method = (typeof METHODS)[number];

/** Handlers for the methods a route does not take: they say which it does. */
export function refuseOthers<M extends Method>(...taken: M[]): Record<Exclude<Method, M>, Handler> {
  const refuse = handler(({ url, method }) => {
    const reply = problemReply(
      new Failure('wrong-method', `${url.pathname} takes ${taken.join(', ')}, not ${method}.`),
    );
    reply.set('Allow', taken.join(', '));
    return Promise.resolve(reply);
  });
  const others = METHODS.filter((method) => !taken.some((one) => one === method));
  return Object.fromEntries(others.map((method) => [method, refuse])) as Record<Exclude<Method, M>, Handler>;
}
