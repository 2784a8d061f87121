import { Readable } from 'node:stream';
import type { HangUp } from '@/server/search/hang-up';

/**
 * A request as the routes see it, whichever way it came in: through the front server or through the framework. As much
 * of the web's `Request` as they need, without what makes one expensive.
 */
export interface Incoming {
  readonly method: string;
  /** The address, absolute; of its origin only what the request itself says. */
  readonly url: URL;
  /** What stands behind the question mark. */
  readonly query: URLSearchParams;
  /** The path as it was sent, before anything was decoded or resolved: `/records/..` is not `/`. */
  readonly rawPath: string;
  readonly headers: IncomingHeaders;
  /** Fires when whoever asked has gone. */
  readonly signal: HangUp;
  /** The address of whoever asks, as far as it can be trusted; null when the way in does not tell. */
  readonly remote: string | null;
  /** The bytes of the body as they arrive, once. Whoever stops early leaves the rest to the way in. */
  body(): AsyncIterable<Uint8Array>;
}

export interface IncomingHeaders {
  get(name: string): string | null;
  has(name: string): boolean;
}

/** The framework's request. */
export function fromWeb(request: Request): Incoming {
  const url = new URL(request.url);
  return {
    method: request.method,
    url,
    query: url.searchParams,
    rawPath: url.pathname,
    headers: request.headers,
    signal: request.signal,
    remote: null,
    body: () => bytesOf(request),
  };
}

/**
 * Whoever stops reading early leaves the rest to be read and thrown away here: a sender that is cut off in the middle
 * sees a broken line instead of the sentence that says why.
 */
async function* bytesOf(request: Request): AsyncGenerator<Uint8Array> {
  if (request.body === null || request.body.locked) return;
  const source = Readable.fromWeb(request.body as Parameters<typeof Readable.fromWeb>[0]);
  try {
    for await (const piece of source.iterator({ destroyOnReturn: false })) yield piece as Uint8Array;
  } finally {
    source.on('error', () => {}).resume();
  }
}
