import type { IncomingHttpHeaders, IncomingMessage, ServerResponse } from 'node:http';
import { OwnHangUp, type HangUp } from '@/server/search/hang-up';
import { Failure } from '@/server/failure';
import type { Incoming, IncomingHeaders } from '@/http/incoming';
import { FRONT } from './limits';

class NodeHeaders implements IncomingHeaders {
  readonly #headers: IncomingHttpHeaders;

  constructor(headers: IncomingHttpHeaders) {
    this.#headers = headers;
  }

  get(name: string): string | null {
    const value = this.#headers[name.toLowerCase()];
    return value === undefined ? null : Array.isArray(value) ? value.join(', ') : value;
  }

  has(name: string): boolean {
    return this.#headers[name.toLowerCase()] !== undefined;
  }
}

/** A request of Node's own server as the routes see it; what few routes ask for is made when it is asked for. */
export class NodeIncoming implements Incoming {
  readonly method: string;
  readonly rawPath: string;
  readonly headers: IncomingHeaders;
  readonly remote: string | null;
  readonly #request: IncomingMessage;
  readonly #response: ServerResponse;
  readonly #mostMs: number;
  #url: URL | null = null;
  #gone: OwnHangUp | null = null;

  /** `mostMs`: until the whole body must have come. */
  constructor(request: IncomingMessage, response: ServerResponse, remote: string | null, mostMs: number) {
    this.#request = request;
    this.#response = response;
    this.#mostMs = mostMs;
    this.method = request.method ?? 'GET';
    const address = request.url ?? '/';
    const query = address.indexOf('?');
    this.rawPath = query === -1 ? address : address.slice(0, query);
    this.remote = remote;
    this.headers = new NodeHeaders(request.headers);
  }

  get url(): URL {
    return (this.#url ??= new URL(this.#request.url ?? '/', 'http://localhost'));
  }

  /** Without the address around it, which costs more than all it holds. */
  get query(): URLSearchParams {
    const address = this.#request.url ?? '/';
    const mark = address.indexOf('?');
    const hash = address.indexOf('#', mark + 1);
    return new URLSearchParams(mark === -1 ? '' : address.slice(mark + 1, hash === -1 ? undefined : hash));
  }

  get signal(): HangUp {
    if (this.#gone === null) {
      const gone = (this.#gone = new OwnHangUp());
      this.#response.once('close', () => {
        if (!this.#response.writableFinished) gone.tell();
      });
    }
    return this.#gone;
  }

  /** Throws a Failure when the body comes too slowly; whatever ends the connection when it breaks. */
  async *body(): AsyncGenerator<Uint8Array> {
    const request = this.#request;
    const end = Date.now() + this.#mostMs;
    let timer: NodeJS.Timeout | undefined;
    const late = (): void => {
      request.destroy(new Failure('too-slow', 'The body came too slowly.'));
    };
    const wait = (): void => {
      clearTimeout(timer);
      timer = setTimeout(late, Math.max(1, Math.min(FRONT.bodyStallMs, end - Date.now())));
    };
    try {
      wait();
      for await (const piece of request.iterator({ destroyOnReturn: false })) {
        clearTimeout(timer);
        yield piece as Uint8Array;
        wait();
      }
    } finally {
      clearTimeout(timer);
    }
  }
}
