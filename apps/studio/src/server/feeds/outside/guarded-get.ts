import http, { type IncomingMessage, type RequestOptions } from 'node:http';
import https from 'node:https';
import { PassThrough, Transform, pipeline, type Readable } from 'node:stream';
import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';
import { checkHost, guardedLookup } from './allowed-hosts';
import { SourceError } from './source-error';

export interface GetOptions {
  headers: Readonly<Record<string, string>>;
  allowPrivate: readonly string[];
  /** For the headers to come, and between two pieces of the body, in milliseconds. */
  timeoutMs: number;
  /** Bytes of the body, unpacked; more end it with a SourceError. */
  mostBytes?: number;
}

export interface Got {
  /** The address that answered, after redirects. */
  url: URL;
  status: number;
  header: (name: string) => string | null;
  /** Unpacked. Errors of it are SourceErrors. */
  body: Readable;
}

export const MOST_BYTES = 4 * 1024 ** 3;
const MOST_REDIRECTS = 5;
/** All of a body has to be there in this time, whatever trickles. */
const MOST_MS = 60 * 60_000;
/** Unpacked bytes from which on it is looked how much was packed, and how much is too much. */
const RATIO_FROM = 64 * 1024 * 1024;
const MOST_RATIO = 200;
const REDIRECTS = new Set([301, 302, 303, 307, 308]);
const CODINGS: Readonly<Record<string, (() => Transform) | null>> = {
  '': null,
  identity: null,
  gzip: createGunzip,
  'x-gzip': createGunzip,
  deflate: createInflate,
  br: createBrotliDecompress,
};

/** Reads an address and checks that it may be asked. Throws a SourceError. */
export function checkedUrl(text: string, base?: URL): URL {
  if (!URL.canParse(text, base)) throw new SourceError(`“${text.slice(0, 200)}” is no address.`, { isLasting: true });
  const url = new URL(text, base);
  if (url.protocol !== 'http:' && url.protocol !== 'https:')
    throw new SourceError(`Addresses begin with https: or http:, not with ${url.protocol}`, { isLasting: true });
  if (url.username !== '' || url.password !== '')
    throw new SourceError('A name and password in the address would be seen in logs. Send them in a header.', {
      isLasting: true,
    });
  return url;
}

/**
 * Asks an address of the outside, following redirects. Every hop is checked anew: its scheme, and the address that its
 * name leads to. Headers with secrets go to the first origin alone. Throws a SourceError.
 */
export async function guardedGet(address: URL, options: GetOptions): Promise<Got> {
  let url = address;
  for (let hops = 0; ; hops++) {
    const headers = url.origin === address.origin ? options.headers : {};
    const response = await ask(url, { ...options, headers });
    const location = response.headers.location;
    const status = response.statusCode ?? 0;
    if (!REDIRECTS.has(status) || location === undefined) return gotOf(url, response, options);
    response.destroy();
    if (hops === MOST_REDIRECTS) throw new SourceError(`${address.host} redirects more than ${MOST_REDIRECTS} times.`);
    url = checkedUrl(location, url);
  }
}

const portOf = ({ port, protocol }: URL): number => (port === '' ? (protocol === 'https:' ? 443 : 80) : Number(port));

function ask(url: URL, { headers, allowPrivate, timeoutMs }: GetOptions): Promise<IncomingMessage> {
  const port = portOf(url);
  checkHost(url.hostname, port, allowPrivate);
  const order: RequestOptions = {
    headers: { Accept: '*/*', 'Accept-Encoding': 'gzip, br, deflate', 'User-Agent': 'Yucca feeds', ...headers },
    lookup: guardedLookup(port, allowPrivate) as NonNullable<RequestOptions['lookup']>,
    // A connection of its own each: one that is kept open was looked up by another feed, with other allowances.
    agent: false,
    // Proxies and tunnels of the environment are not used: what is connected to is what was checked.
    maxHeaderSize: 64 * 1024,
  };
  return new Promise((resolve, reject) => {
    const request = (url.protocol === 'https:' ? https : http).get(url, order, resolve);
    const timer = setTimeout(
      () => request.destroy(new SourceError(`${url.host} did not answer within ${timeoutMs / 1_000} s.`)),
      timeoutMs,
    );
    request.once('response', () => clearTimeout(timer));
    request.on('error', (error: NodeJS.ErrnoException) => {
      clearTimeout(timer);
      reject(asSourceError(error, url));
    });
  });
}

function gotOf(url: URL, response: IncomingMessage, { timeoutMs, mostBytes = MOST_BYTES }: GetOptions): Got {
  const header = (name: string): string | null => {
    const value = response.headers[name];
    return value === undefined ? null : Array.isArray(value) ? value.join(', ') : value;
  };
  const coding = (header('content-encoding') ?? '').trim().toLowerCase();
  const unpack = Object.hasOwn(CODINGS, coding) ? CODINGS[coding]! : undefined;
  if (unpack === undefined) {
    response.destroy();
    throw new SourceError(`${url.host} answers in the coding “${coding.slice(0, 40)}”, which is not known here.`);
  }
  let packed = 0;
  response.on('data', (chunk: Buffer) => (packed += chunk.length)).pause();
  response.setTimeout(timeoutMs, () =>
    response.destroy(
      new SourceError(`${url.host} sent nothing for ${timeoutMs / 1_000} s in the middle of its answer.`),
    ),
  );
  const whole = setTimeout(
    () => response.destroy(new SourceError(`${url.host} took more than an hour for its answer.`)),
    MOST_MS,
  ).unref();
  response.once('close', () => clearTimeout(whole));
  let bytes = 0;
  const guard = new Transform({
    transform(chunk: Buffer, _, done) {
      bytes += chunk.length;
      if (bytes > mostBytes)
        return done(new SourceError(`${url.host} answers with more than ${mostBytes / 1024 ** 2} MB.`));
      if (unpack !== null && bytes > RATIO_FROM && bytes > packed * MOST_RATIO)
        return done(new SourceError(`What ${url.host} sends unpacks to more than ${MOST_RATIO} times its size.`));
      done(null, chunk);
    },
  });
  const streams: [NodeJS.ReadableStream, ...NodeJS.ReadWriteStream[]] =
    unpack === null ? [response, guard] : [response, unpack(), guard];
  // Apart from the others, so that it ends with a sentence of ours, whichever of them broke.
  const body = new PassThrough();
  pipeline(streams, (error) => {
    if (error) body.destroy(asSourceError(error, url));
  });
  guard.pipe(body);
  body.once('close', () => response.destroy());
  return { url, status: response.statusCode ?? 0, header, body };
}

function asSourceError(error: NodeJS.ErrnoException, url: URL): SourceError {
  if (error.name === 'SourceError') return error as unknown as SourceError;
  if (error.code === 'ECONNRESET' || error.code === 'ERR_STREAM_PREMATURE_CLOSE')
    return new SourceError(`${url.host} ended its answer before all that it had announced had come.`);
  return new SourceError(`${url.host} could not be read: ${error.code ?? error.message}.`);
}
