import { Readable } from 'node:stream';

/** What a reply sends: nothing, a text, bytes, or pieces as they come. A stream is destroyed when nobody takes it. */
export type ReplyBody = string | Uint8Array | Readable | null;

/** An answer before it is sent; the front server writes it as it is, the framework gets a `Response` made of it. */
export class Reply {
  readonly status: number;
  readonly body: ReplyBody;
  /** By name in lower case. */
  readonly headers = new Map<string, string>();
  /** What the audit trail says of the change besides who made it: versions before and after, counts. */
  changed: Record<string, string | number | null> | null = null;

  constructor(
    body: ReplyBody,
    { status = 200, headers = {} }: { status?: number; headers?: Record<string, string> } = {},
  ) {
    this.status = status;
    this.body = body;
    for (const name in headers) this.headers.set(name.toLowerCase(), headers[name]!);
  }

  /** Adds what the audit trail should say of the change. */
  noting(changed: NonNullable<Reply['changed']>): this {
    this.changed = changed;
    return this;
  }

  set(name: string, value: string): void {
    this.headers.set(name.toLowerCase(), value);
  }

  /** Adds to a list, such as `Vary`. */
  append(name: string, value: string): void {
    const key = name.toLowerCase();
    const before = this.headers.get(key);
    this.headers.set(key, before === undefined ? value : `${before}, ${value}`);
  }
}

/** A value as JSON. */
export function json(value: unknown, options: { status?: number; headers?: Record<string, string> } = {}): Reply {
  const reply = new Reply(JSON.stringify(value), options);
  reply.set('Content-Type', 'application/json');
  return reply;
}

/** The reply as the framework wants it. */
export function toWeb(reply: Reply): Response {
  const { status, headers, body } = reply;
  const sent = body instanceof Readable ? (Readable.toWeb(body) as unknown as ReadableStream) : body;
  return new Response(sent as BodyInit | null, { status, headers: Object.fromEntries(headers) });
}

/** Gives up what a reply would have sent: nobody takes it. */
export function discard({ body }: Reply): void {
  if (body instanceof Readable) body.on('error', () => {}).destroy();
}
