import type { IncomingMessage, ServerResponse } from 'node:http';
import { pipeline, Readable } from 'node:stream';
import { createGzip, gzip } from 'node:zlib';
import { discard, type Reply } from '@/http/reply';
import { FRONT } from './limits';

/** What every answer carries that is no page: nobody may frame it, guess its type, or run anything in it. */
const ALWAYS: readonly (readonly [string, string])[] = [
  ['x-content-type-options', 'nosniff'],
  ['referrer-policy', 'no-referrer'],
  ['content-security-policy', "default-src 'none'; frame-ancestors 'none'"],
  ['cache-control', 'no-store'],
];

/** Half as good as the best, in a quarter of the time. */
const PACK_LEVEL = 4;

/** Texts worth packing. */
const PACKED = /^(text\/(?!event-stream)|application\/(json|problem\+json|x-ndjson|openmetrics-text)|image\/svg)/;

/** Sends a reply. `pack`: whether bytes are dearer than the time it takes to pack them. */
export function send(request: IncomingMessage, response: ServerResponse, reply: Reply, pack: boolean): void {
  if (response.destroyed || response.headersSent) return discard(reply);
  // Whoever asked has gone; there is nobody to tell.
  if (reply.status === 499) return void response.destroy();
  const { body, headers } = reply;
  for (const [name, value] of ALWAYS) if (!headers.has(name)) headers.set(name, value);
  if (request.method === 'HEAD') {
    discard(reply);
    response.writeHead(reply.status, flat(headers)).end();
  } else if (body instanceof Readable) sendStream(request, response, reply, body, pack && mayPack(request, reply));
  else if (body === null) response.writeHead(reply.status, flat(headers)).end();
  else {
    const size = typeof body === 'string' ? Buffer.byteLength(body) : body.length;
    if (pack && size >= FRONT.packFrom && mayPack(request, reply)) return sendPacked(response, reply, body);
    headers.set('content-length', String(size));
    // A text goes out together with the headers, in one piece.
    response.writeHead(reply.status, flat(headers)).end(body);
  }
}

/** Headers as Node takes them quickest. */
function flat(headers: ReadonlyMap<string, string>): string[] {
  const list: string[] = [];
  for (const [name, value] of headers) list.push(name, value);
  return list;
}

function mayPack(request: IncomingMessage, { headers }: Reply): boolean {
  return (
    PACKED.test(headers.get('content-type') ?? '') &&
    !(headers.get('cache-control') ?? '').includes('no-transform') &&
    /\bgzip\b(?!\s*;\s*q=0(\.0*)?\s*(,|$))/i.test(String(request.headers['accept-encoding'] ?? ''))
  );
}

function sendPacked(response: ServerResponse, reply: Reply, body: string | Uint8Array): void {
  gzip(body, { level: PACK_LEVEL }, (error, packed) => {
    if (response.destroyed) return;
    reply.append('Vary', 'Accept-Encoding');
    if (!error) reply.set('Content-Encoding', 'gzip');
    const sent = error ? Buffer.from(body) : packed;
    reply.set('Content-Length', String(sent.length));
    response.writeHead(reply.status, flat(reply.headers)).end(sent);
  });
}

function sendStream(
  request: IncomingMessage,
  response: ServerResponse,
  reply: Reply,
  body: Readable,
  pack: boolean,
): void {
  // Whoever takes nothing of an answer for long holds what makes it.
  if (!isEventStream(reply)) response.setTimeout(FRONT.answerStallMs, () => response.destroy());
  // An answer that breaks half-way must not look whole: the connection ends without the last piece.
  const done = (error: Error | null | undefined): void => void (error && response.destroy());
  if (!pack) {
    response.writeHead(reply.status, flat(reply.headers));
    return void pipeline(body, response, done);
  }
  reply.headers.delete('content-length');
  reply.set('Content-Encoding', 'gzip');
  reply.append('Vary', 'Accept-Encoding');
  response.writeHead(reply.status, flat(reply.headers));
  pipeline(body, createGzip(), response, done);
}

/** Events may be far apart. */
const isEventStream = ({ headers }: Reply): boolean => headers.get('content-type') === 'text/event-stream';
