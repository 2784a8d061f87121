import { connect, type Socket } from 'node:net';

/** What came back over a bare connection, and how long that took. */
export interface RawAnswer {
  /** 0 = the connection ended without an answer. */
  status: number;
  headers: Map<string, string>;
  body: string;
  ms: number;
  /** Bytes that the system took of what was sent. */
  sent: number;
  /** Whether it was the server that ended the connection. */
  ended: boolean;
}

export interface RawOptions {
  /** Waits no longer than this for the end. */
  waitMs?: number;
  /** Goes on sending after the answer has come, until the server has had enough. */
  untilEnded?: boolean;
  /** Sends this when the first piece is out, slowly or whole. */
  feed?: (socket: Socket) => void;
}

/**
 * Sends bytes as they are and reads until a whole answer is there. Clients that know HTTP would mend, refuse or encode
 * what is sent here.
 */
export function sendRaw(
  base: string,
  request: string | Buffer,
  { waitMs = 6_000, untilEnded = false, feed }: RawOptions = {},
): Promise<RawAnswer> {
  const { hostname, port } = new URL(base);
  const start = performance.now();
  return new Promise((resolve) => {
    const socket = connect(Number(port), hostname);
    let text = '';
    const done = (ended: boolean): void => {
      clearTimeout(timer);
      socket.destroy();
      resolve({ ...parse(text), ms: performance.now() - start, sent: socket.bytesWritten, ended });
    };
    const timer = setTimeout(() => done(false), waitMs);
    socket.on('connect', () => {
      socket.write(request);
      feed?.(socket);
    });
    socket.on('data', (chunk: Buffer) => {
      text += chunk.toString('latin1');
      if (!untilEnded && isWhole(text)) done(false);
    });
    socket.on('error', () => done(true));
    socket.on('close', () => done(true));
  });
}

function parse(text: string): Pick<RawAnswer, 'status' | 'headers' | 'body'> {
  const end = text.indexOf('\r\n\r\n');
  const [line = '', ...lines] = text.slice(0, end === -1 ? undefined : end).split('\r\n');
  const headers = new Map(
    lines.map((one): [string, string] => {
      const colon = one.indexOf(':');
      return [one.slice(0, colon).toLowerCase(), one.slice(colon + 1).trim()];
    }),
  );
  return {
    status: Number(/^HTTP\/1\.1 (\d{3})/.exec(line)?.[1] ?? 0),
    headers,
    body: end === -1 ? '' : text.slice(end + 4),
  };
}

function isWhole(text: string): boolean {
  const { status, headers, body } = parse(text);
  if (status === 0 || !text.includes('\r\n\r\n') || status === 100) return false;
  const length = headers.get('content-length');
  if (length !== undefined) return body.length >= Number(length);
  if (headers.get('transfer-encoding') === 'chunked') return body.endsWith('0\r\n\r\n');
  return status === 204 || status === 304 || status === 308 || status === 303 || status === 307;
}

/** A request written out, with a host and whatever else is given. */
export function written(
  method: string,
  target: string,
  headers: Record<string, string> = {},
  body: string | Buffer = '',
): Buffer {
  const length: Record<string, string> = body.length > 0 ? { 'Content-Length': String(Buffer.byteLength(body)) } : {};
  const lines = Object.entries({ Host: '127.0.0.1', ...length, ...headers }).map(
    ([name, value]) => `${name}: ${value}`,
  );
  return Buffer.concat([
    Buffer.from(`${method} ${target} HTTP/1.1\r\n${lines.join('\r\n')}\r\n\r\n`, 'latin1'),
    Buffer.from(body),
  ]);
}
