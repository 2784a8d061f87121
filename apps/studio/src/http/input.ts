import { LIMITS, parsedJson } from '@yucca/contract';
import { pipeline, Readable } from 'node:stream';
import { createGunzip } from 'node:zlib';
import { Failure } from '@/server/failure';
import { jsonDepth } from '@/server/json-depth';
import { isUnpackError } from '@/server/unpack-error';
import { knownCharset } from '@/text/charset';
import type { Incoming } from './incoming';

const MOST_BYTES = LIMITS.bodyBytes;

/** Reads a JSON body of bounded size and depth. Throws a Failure when it is no JSON, too large or of another type. */
export async function readJson(request: Incoming, types = ['application/json'], most = MOST_BYTES): Promise<unknown> {
  const type = mediaType(request);
  if (!types.includes(type))
    throw new Failure(
      'unsupported-type',
      `Send ${types.join(' or ')}; this came as “${type.slice(0, 80) || 'nothing'}”.`,
    );
  return parseJson(await readText(request, most));
}

/** Reads the JSON of a search and the like: whoever may only search sends no more than a search can hold. */
export function readAsked(request: Incoming): Promise<unknown> {
  return readJson(request, ['application/json'], LIMITS.askBytes);
}

/** The same; a browser may also call it plain text, for which it asks no leave on another site (Fetch, 2.2.2). */
export function readAskedSimply(request: Incoming): Promise<unknown> {
  return readJson(request, ['application/json', 'text/plain'], LIMITS.askBytes);
}

/** Reads JSON of bounded depth. Throws a Failure. */
export function parseJson(text: string): unknown {
  if (jsonDepth(text, LIMITS.jsonDepth) > LIMITS.jsonDepth)
    throw new Failure('unreadable', `The JSON is nested more than ${LIMITS.jsonDepth} levels deep.`);
  try {
    return JSON.parse(text) as unknown;
  } catch (error) {
    throw new Failure('unreadable', `The body is not JSON: ${(error as Error).message}`);
  }
}

/** Reads a body of bounded size as text. Throws a Failure when it is too large, unpacked or as it came. */
export async function readText(request: Incoming, most = MOST_BYTES): Promise<string> {
  return (await readBytes(request, most)).toString('utf8');
}

/** The same as it came. */
export async function readBytes(request: Incoming, most = MOST_BYTES): Promise<Buffer> {
  const chunks: Uint8Array[] = [];
  let bytes = 0;
  for await (const chunk of unpacked(request)) {
    bytes += chunk.length;
    if (bytes > most) throw new Failure('too-large', `The body is larger than ${most / 1024} kB.`);
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

/** A body of any size as it comes, unpacked. Throws a Failure when it is of another type. */
export function unpackedBody(request: Incoming, type: string): AsyncIterable<Uint8Array> {
  const sent = mediaType(request);
  if (sent !== type)
    throw new Failure('unsupported-type', `Send ${type}; this came as “${sent.slice(0, 80) || 'nothing'}”.`);
  return unpacked(request);
}

/** Records sent one JSON object a line; null when nothing is sent. */
export function recordsSent(request: Incoming): AsyncIterable<Uint8Array> | null {
  return mediaType(request) === '' ? null : unpackedBody(request, 'application/x-ndjson');
}

async function* unpacked(request: Incoming): AsyncIterable<Uint8Array> {
  if (packing(request) === 'identity') return yield* request.body();
  const gunzip = createGunzip();
  // Ends both ends, whichever of them breaks first; what broke is thrown by whoever reads.
  pipeline(Readable.from(request.body()), gunzip, () => {});
  try {
    yield* gunzip as AsyncIterable<Uint8Array>;
  } catch (error) {
    if (isUnpackError(error)) throw new Failure('unreadable', 'The body says it is gzip and cannot be unpacked.');
    throw error;
  }
}

/** The longest form: a password, a code, an address to go on to. */
const FORM_BYTES = 16 * 1024;

/** The fields of a form. Throws a Failure when the body is none, or too large for one. */
export async function readForm(request: Incoming): Promise<URLSearchParams> {
  if (mediaType(request) !== 'application/x-www-form-urlencoded')
    throw new Failure('unsupported-type', 'Send a form (application/x-www-form-urlencoded).');
  return new URLSearchParams(await readText(request, FORM_BYTES));
}

/** How a body is packed. Throws a Failure for what is not known here. */
export function packing(request: Incoming): 'gzip' | 'identity' {
  const encoding = (request.headers.get('content-encoding') ?? 'identity').trim().toLowerCase();
  if (encoding === 'gzip' || encoding === 'identity') return encoding;
  throw new Failure('unsupported-type', `The body may be packed with gzip, not with ${encoding.slice(0, 40)}.`);
}

/** The media type of the body, without parameters, in lower case. */
export function mediaType(request: Incoming): string {
  return (request.headers.get('content-type') ?? '').split(';')[0]!.trim().toLowerCase();
}

/** The charset that the body's media type names; null when it names none. Throws a Failure for an unknown one. */
export function charsetSaid(request: Incoming): string | null {
  const name = /;\s*charset\s*=\s*"?([^\s";]+)/i.exec(request.headers.get('content-type') ?? '')?.[1];
  if (name === undefined) return null;
  const known = knownCharset(name);
  if (known === null)
    throw new Failure('unsupported-type', `There is no charset “${name.slice(0, 40)}” here; utf-8 is understood best.`);
  return known;
}

/** A whole number in the query string between two bounds. Throws a Failure with the pointer of the parameter. */
export function wholeNumber(url: URL, name: string, fallback: number, least: number, most: number): number {
  const text = url.searchParams.get(name);
  if (text === null) return fallback;
  const value = /^-?\d{1,15}$/.test(text) ? Number(text) : Number.NaN;
  if (value >= least && value <= most) return value;
  const detail = `must be a whole number from ${least} to ${most}`;
  throw new Failure('invalid', `${name} ${detail}, not “${text.slice(0, 40)}”.`, [{ pointer: `/${name}`, detail }]);
}

/** One of some words in the query string. Throws a Failure otherwise. */
export function oneOf<T extends string>(url: URL, name: string, words: readonly T[], fallback: T): T {
  const text = url.searchParams.get(name);
  if (text === null) return fallback;
  const found = words.find((word) => word === text);
  if (found !== undefined) return found;
  const detail = `must be one of ${words.join(', ')}`;
  throw new Failure('invalid', `${name} ${detail}.`, [{ pointer: `/${name}`, detail }]);
}

/** `?wait=true` and the like. */
export function isTrue(url: URL, name: string): boolean {
  return oneOf(url, name, ['true', 'false'], 'false') === 'true';
}

/** Parameters a search URL may hold besides the request itself. */
const BESIDES = new Set(['key']);
const NUMBERS = new Set(['page', 'size']);
/** `live`, `draft` or the number of a version. */
const WORD_OR_NUMBER = new Set(['version']);
const LISTS = new Set(['facets', 'fields', 'tags']);
const YES_OR_NO = new Set(['explain', 'record']);

/** Reads a search request from a query string; the schema checks it afterwards. */
export function searchFrom(params: URLSearchParams): unknown {
  const request: [string, unknown][] = [];
  for (const [name, text] of params) {
    if (BESIDES.has(name)) continue;
    if (NUMBERS.has(name)) request.push([name, /^-?\d{1,9}$/.test(text) ? Number(text) : text]);
    else if (WORD_OR_NUMBER.has(name)) request.push([name, /^\d{1,9}$/.test(text) ? Number(text) : text]);
    else if (LISTS.has(name)) request.push([name, text === '' ? [] : text.split(',')]);
    else if (YES_OR_NO.has(name)) request.push([name, text === 'true' ? true : text === 'false' ? false : text]);
    else if (name === 'select') request.push([name, selectFrom(text)]);
    else if (name === 'conditions') request.push([name, parsedJson(text) ?? text]);
    else if (name === 'near') request.push([name, nearFrom(text, params.get('withinM'))]);
    else if (name === 'withinM') requireNear(params);
    else request.push([name, text]);
  }
  return Object.fromEntries(request);
}

/** `near=51.5,-0.12` with `withinM=2000` beside it. */
function nearFrom(text: string, withinM: string | null): unknown {
  const parts = text.split(',').map((part) => (part.trim() === '' ? Number.NaN : Number(part)));
  if (parts.length !== 2 || parts.some(Number.isNaN)) {
    const detail = 'must be a latitude and a longitude, such as 51.5,-0.12';
    throw new Failure('invalid', `near ${detail}.`, [{ pointer: '/near', detail }]);
  }
  const within = withinM === null ? {} : { withinM: Number.isNaN(Number(withinM)) ? withinM : Number(withinM) };
  return { lat: parts[0], lng: parts[1], ...within };
}

function requireNear(params: URLSearchParams): void {
  if (params.has('near')) return;
  throw new Failure('invalid', 'withinM needs near.', [{ pointer: '/withinM', detail: 'needs near' }]);
}

function selectFrom(text: string): unknown {
  if (text.length > LIMITS.queryLength * 64)
    throw new Failure('invalid', 'select is too long.', [{ pointer: '/select', detail: 'is too long' }]);
  const select = parsedJson(text);
  if (select !== undefined) return select;
  throw new Failure('invalid', 'select is not JSON. Write it like {"colour":["red"]}, URL-encoded.', [
    { pointer: '/select', detail: 'is not JSON' },
  ]);
}
