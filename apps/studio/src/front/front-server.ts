import { randomBytes } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { Socket } from 'node:net';
import proxyAddr from 'proxy-addr';
import { sessionOf, WAY_HEADER } from '@/http/caller';
import { problemOf, problemReply } from '@/http/problem';
import { Reply } from '@/http/reply';
import { Failure } from '@/server/failure';
import { TooMany } from '@/server/keys/rates';
import type { Runtime } from '@/server/runtime';
import { checkTarget, MethodUnknown, type Target } from './gate';
import { FRONT } from './limits';
import { NodeIncoming } from './node-incoming';
import { setPageHeaders } from './page-headers';
import { plainPage } from './plain-page';
import { discardBody } from './refused-body';
import { Router, type Found, type RouteTable } from './router';
import { send } from './send';

export interface FrontParts {
  yucca: Runtime;
  routes: RouteTable;
  /** Answers what is no route: the framework's pages and files. */
  pages: (request: IncomingMessage, response: ServerResponse) => Promise<void>;
  /** Write a line a request into the log. */
  accessLog: boolean;
}

const PROXY_HEADERS = ['forwarded', 'via', 'x-forwarded-for', 'x-forwarded-host', 'x-forwarded-proto', 'x-real-ip'];
/** A load takes as long as it takes. */
const LOAD = '/api/v1/collections/[collection]/records';
/** What takes a body of any size takes any time. */
const STREAMED = new Set([LOAD, '/api/v1/feeds/[feed]/compare', '/api/v1/feeds/[feed]/repair']);
const FEED_EVENTS = '/api/v1/feeds/[feed]/events';

/**
 * The one way in. Every request comes through here: it is looked at before it is read, the routes are answered by the
 * very functions that the framework's route handlers call, and whatever else there is goes on to the framework. Every
 * request has one end: an answer, a problem (RFC 9457), or a connection that is closed.
 */
export class FrontServer {
  readonly server: Server;
  readonly #parts: FrontParts;
  readonly #router: Router;
  readonly #trusted: (address: string, hop: number) => boolean;
  readonly #ownSockets = new WeakMap<Socket, boolean>();
  /** Answers that run. */
  #running = 0;
  #stopping = false;
  #whenQuiet: (() => void) | null = null;

  constructor(parts: FrontParts) {
    this.#parts = parts;
    this.#router = new Router(parts.routes);
    this.#trusted = proxyAddr.compile(['loopback', ...parts.yucca.config.proxies]);
    parts.yucca.front = { directWay: randomBytes(16).toString('hex') };
    this.server = createServer(
      {
        maxHeaderSize: FRONT.headerBytes,
        headersTimeout: FRONT.headersMs,
        // Bodies have clocks of their own: a load takes as long as it takes.
        requestTimeout: 0,
        keepAliveTimeout: FRONT.idleMs,
        connectionsCheckingInterval: 2_000,
        // Told by us, as a problem like any other (see gate.ts).
        requireHostHeader: false,
      },
      (request, response) => void this.#take(request, response),
    );
    this.server.maxConnections = FRONT.connections;
    // Node would leave out headers past its own limit without a word; ours refuses them.
    this.server.maxHeadersCount = 0;
    this.server.on('clientError', refuseUnread);
    this.server.on('connect', (_, socket) => refuseMethod(socket as Socket));
    this.server.on('checkExpectation', (request: IncomingMessage, response: ServerResponse) =>
      this.#send(request, response, problemReply(new Failure('not-expected', 'Only “100-continue” can be expected.'))),
    );
  }

  async #take(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const start = performance.now();
    this.#running++;
    let pattern = 'none';
    response.once('close', () => {
      this.#running--;
      if (this.#running === 0) this.#whenQuiet?.();
      this.#note(request, response, pattern, performance.now() - start);
    });
    response.on('error', () => {});
    try {
      const target = checkTarget(request);
      const remote = this.#markWay(request);
      const found = this.#router.find(target.parts);
      pattern = found?.pattern ?? (target.parts[0] === '_next' ? 'files of pages' : 'pages');
      if (this.#stopping) throw new Failure('unavailable', 'The server is being stopped.');
      if (found === null) await this.#page(request, response, target, remote);
      else this.#send(request, response, await this.#answer(request, response, target, found, remote));
    } catch (error) {
      this.#refuse(request, response, error);
    }
  }

  /** Notes how a request came, for whoever decides whether the studio is open. Returns the address it came from. */
  #markWay(request: IncomingMessage): string {
    const { headers, socket } = request;
    const peer = socket.remoteAddress ?? '';
    const proxied = PROXY_HEADERS.some((name) => headers[name] !== undefined);
    const direct = !proxied && this.#isOwn(socket, peer);
    delete headers[WAY_HEADER];
    if (direct) headers[WAY_HEADER] = this.#parts.yucca.front!.directWay;
    return proxied ? proxyAddr(request, this.#trusted) : peer;
  }

  /** Whether a connection comes from this machine, or a proxy that is believed; looked at once a connection. */
  #isOwn(socket: Socket, peer: string): boolean {
    let own = this.#ownSockets.get(socket);
    if (own === undefined) this.#ownSockets.set(socket, (own = this.#trusted(peer, 0)));
    return own;
  }

  async #answer(
    request: IncomingMessage,
    response: ServerResponse,
    { trailing }: Target,
    { pattern, handlers, params }: Found,
    remote: string,
  ): Promise<Reply> {
    const { method = 'GET' } = request;
    if (trailing) return this.#withoutSlash(request);
    if (method === 'OPTIONS' && !handlers.OPTIONS) return optionsOf(Object.keys(handlers));
    const handler = handlers[method === 'HEAD' ? 'GET' : method];
    if (!handler) {
      const reply = problemReply(new Failure('wrong-method', `${request.url} does not take ${method}.`));
      reply.set('Allow', Object.keys(handlers).join(', '));
      return reply;
    }
    // A source shows its signature instead of a key; one that does not hold is counted below.
    if (pattern !== FEED_EVENTS) this.#countAnonymous(request, remote);
    const most = STREAMED.has(pattern) ? Number.MAX_SAFE_INTEGER : FRONT.bodyMs;
    const reply = await handler.answer(new NodeIncoming(request, response, remote, most), params);
    // Keys that are guessed are counted like requests without one.
    if (reply.status === 401 && !this.#isDirect(request)) this.#count(remote);
    return reply;
  }

  /**
   * Paths have no trailing slash. Whoever reads is sent on; nothing that writes is ever turned into another request.
   */
  #withoutSlash(request: IncomingMessage): Reply {
    const { method, url = '/' } = request;
    if (method !== 'GET' && method !== 'HEAD')
      return problemReply(new Failure('not-found', 'There is nothing here: addresses have no slash at their end.'));
    const location = url.replace(/^\/+/, '/').replace(/\/+(?=$|[?#])/, '');
    return new Reply(null, { status: 308, headers: { Location: location } });
  }

  async #page(request: IncomingMessage, response: ServerResponse, { parts }: Target, remote: string): Promise<void> {
    const { method, url = '/' } = request;
    if (method !== 'GET' && method !== 'HEAD') throw new Failure('wrong-method', 'Pages are only read.');
    // The framework would resolve such paths, and send whoever asks to what is left of them.
    if (parts.some((part) => part === '.' || part === '..') || url.startsWith('//'))
      throw new Failure('not-found', 'There is nothing at this address.');
    // It packs pictures anew for whoever asks, which no page of ours does.
    if (parts[0] === '_next' && parts[1] === 'image')
      throw new Failure('not-found', 'There is nothing at this address.');
    if (parts[0] !== '_next') {
      this.#countAnonymous(request, remote);
      setPageHeaders(request, response, parts[0] === 's');
    }
    const timer = setTimeout(() => this.#refuse(request, response, new Failure('unavailable', 'The page takes too long. Try again in a moment.')), FRONT.pageMs); // prettier-ignore
    response.once('close', () => clearTimeout(timer));
    await this.#parts.pages(request, response);
  }

  /** Whoever shows neither a key nor a session has a rate, by address. Not on this machine itself. */
  #countAnonymous(request: IncomingMessage, remote: string): void {
    const { headers, url = '' } = request;
    if (headers.authorization !== undefined || /[?&]key=/.test(url) || this.#isDirect(request)) return;
    const session = sessionOf({ get: (name) => (headers[name] as string | undefined) ?? null, has: () => false });
    if (session !== undefined && this.#parts.yucca.sessions.isSignedIn(session)) return;
    this.#count(remote);
  }

  #isDirect({ headers }: IncomingMessage): boolean {
    return headers[WAY_HEADER] === this.#parts.yucca.front!.directWay;
  }

  #count(remote: string): void {
    const { rates, config } = this.#parts.yucca;
    try {
      rates.take(`anonymous/${remote}`, config.anonymousPerMinute);
    } catch (error) {
      throw error instanceof TooMany ? new TooMany(error.rate, 'Without a key, an address') : error;
    }
  }

  #send(request: IncomingMessage, response: ServerResponse, reply: Reply): void {
    discardBody(request, reply.status);
    if (this.#stopping) response.shouldKeepAlive = false;
    send(request, response, reply, !this.#isDirect(request));
  }

  /** The one way out for what could not be answered. */
  #refuse(request: IncomingMessage, response: ServerResponse, error: unknown): void {
    if (response.headersSent) return void response.destroy();
    const asPage = /\btext\/html\b/.test(request.headers.accept ?? '') && !request.url?.startsWith('/api/');
    const reply = problemReply(error);
    if (error instanceof MethodUnknown) reply.set('Allow', error.allow);
    if (!asPage) return this.#send(request, response, reply);
    const { status, title, detail } = problemOf(error);
    for (const name of response.getHeaderNames()) if (name !== 'connection') response.removeHeader(name);
    this.#send(request, response, plainPage(status, title, detail));
  }

  #note(request: IncomingMessage, response: ServerResponse, pattern: string, ms: number): void {
    const { yucca, accessLog } = this.#parts;
    const { method = 'GET', url = '' } = request;
    yucca.metrics.answered(pattern, method, response.statusCode, ms / 1000);
    if (!accessLog) return;
    // Without the query: it holds what people look for, and sometimes keys.
    const path = url.split('?', 1)[0]!.slice(0, 500);
    const remote = request.socket.remoteAddress;
    yucca.log.info({ remote, method, path, status: response.statusCode, ms: Math.round(ms * 10) / 10 }, 'request');
  }

  listen(port: number, host: string): Promise<void> {
    return new Promise((resolve, reject) => {
      this.server.once('error', reject);
      this.server.listen(port, host, () => {
        this.server.off('error', reject);
        resolve();
      });
    });
  }

  /** Takes no more work, lets the answers that run come to their end, and cuts off what has not by then. */
  async stop(): Promise<void> {
    this.#stopping = true;
    const closed = new Promise((resolve) => this.server.close(resolve));
    this.server.closeIdleConnections();
    if (this.#running > 0) {
      await new Promise<void>((resolve) => {
        this.#whenQuiet = resolve;
        setTimeout(resolve, FRONT.stopMs).unref();
      });
    }
    this.server.closeAllConnections();
    await closed;
  }
}

function optionsOf(methods: string[]): Reply {
  return new Reply(null, { status: 204, headers: { Allow: [...methods, 'OPTIONS'].join(', ') } });
}

/** What Node's parser says of a request that it could not read, and what that is in HTTP. */
const UNREAD = new Map<string, [code: 431 | 408 | 400, title: string, detail: string]>([
  [
    'HPE_HEADER_OVERFLOW',
    [431, 'The headers are too large', `All headers together may have ${FRONT.headerBytes} bytes.`],
  ],
  ['ERR_HTTP_REQUEST_TIMEOUT', [408, 'The request came too slowly', 'The headers did not come in time.']],
]);

/** Answers a request that could not even be read, on the bare connection. */
function refuseUnread(error: NodeJS.ErrnoException, socket: Socket): void {
  if (error.code === 'ECONNRESET' || !socket.writable) return void socket.destroy();
  const [status, title, detail] = UNREAD.get(error.code ?? '') ?? [
    400,
    'The request cannot be read',
    'What came is no HTTP/1.1 request.',
  ];
  endWith(socket, status, title, detail);
}

function refuseMethod(socket: Socket): void {
  endWith(socket, 405, 'Method not allowed', 'Nothing here takes CONNECT.');
}

function endWith(socket: Socket, status: number, title: string, detail: string): void {
  const body = JSON.stringify({ type: 'urn:yucca:problem:unreadable', title, status, detail });
  socket.end(
    `HTTP/1.1 ${status} ${title}\r\nContent-Type: application/problem+json\r\nContent-Length: ${Buffer.byteLength(body)}\r\n` +
      `Connection: close\r\n\r\n${body}`,
  );
}
