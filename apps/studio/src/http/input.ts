import { LIMITS } from '@yucca/contract';
import { Failure } from '@/server/failure';

const MOST_BYTES = 4 * 1024 * 1024;

/** Reads a JSON body of bounded size. Throws a Failure when it is no JSON, too large or of another type. */
export async function readJson(request: Request, types = ['application/json']): Promise<unknown> {
  const type = mediaType(request);
  if (!types.includes(type))
    throw new Failure('unsupported-type', `Send ${types.join(' or ')}; this came as “${type || 'nothing'}”.`);
  const text = await readText(request);
  try {
    return JSON.parse(text) as unknown;
  } catch (error) {
    throw new Failure('unreadable', `The body is not JSON: ${(error as Error).message}`);
  }
}

/** Reads a body of bounded size as text. Throws a Failure when it is too large. */
export async function readText(request: Request): Promise<string> {
  const chunks: Uint8Array[] = [];
  let bytes = 0;
  for await (const chunk of bodyOf(request)) {
    bytes += chunk.length;
    if (bytes > MOST_BYTES) throw new Failure('too-large', `The body is larger than ${MOST_BYTES / 1024 / 1024} MB.`);
    chunks.push(chunk);
  }
  return Buffer.concat(chunks).toString('utf8');
}

/** The media type of the body, without parameters, in lower case. */
export function mediaType(request: Request): string {
  return (request.headers.get('content-type') ?? '').split(';')[0]!.trim().toLowerCase();
}

/**
 * The body as it arrives; nothing when there is none. Whoever stops reading early leaves the rest to be read and thrown
 * away here: a sender that is cut off in the middle sees a broken line instead of the sentence that says why.
 */
export async function* bodyOf(request: Request): AsyncGenerator<Uint8Array> {
  if (request.body === null || request.body.locked) return;
  const reader = request.body.getReader();
  let done = false;
  try {
    for (;;) {
      const piece = await reader.read();
      done = piece.done;
      if (piece.done) return;
      yield piece.value;
    }
  } finally {
    while (!done)
      done = await reader.read().then(
        (piece) => piece.done,
        () => true,
      );
  }
}

/** Reads and throws away what is left of a body. */
export async function drain(request: Request): Promise<void> {
  for await (const piece of bodyOf(request)) void piece;
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
export function searchFromUrl(url: URL): unknown {
  const request: [string, unknown][] = [];
  for (const [name, text] of url.searchParams) {
    if (BESIDES.has(name)) continue;
    if (NUMBERS.has(name)) request.push([name, /^-?\d{1,9}$/.test(text) ? Number(text) : text]);
    else if (WORD_OR_NUMBER.has(name)) request.push([name, /^\d{1,9}$/.test(text) ? Number(text) : text]);
    else if (LISTS.has(name)) request.push([name, text === '' ? [] : text.split(',')]);
    else if (YES_OR_NO.has(name)) request.push([name, text === 'true' ? true : text === 'false' ? false : text]);
    else if (name === 'select') request.push([name, selectFrom(text)]);
    else if (name === 'near') request.push([name, nearFrom(text, url.searchParams.get('withinM'))]);
    else if (name === 'withinM') requireNear(url);
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

function requireNear(url: URL): void {
  if (url.searchParams.has('near')) return;
  throw new Failure('invalid', 'withinM needs near.', [{ pointer: '/withinM', detail: 'needs near' }]);
}

function selectFrom(text: string): unknown {
  if (text.length > LIMITS.queryLength * 64)
    throw new Failure('invalid', 'select is too long.', [{ pointer: '/select', detail: 'is too long' }]);
  try {
    return JSON.parse(text) as unknown;
  } catch {
    throw new Failure('invalid', 'select is not JSON. Write it like {"colour":["red"]}, URL-encoded.', [
      { pointer: '/select', detail: 'is not JSON' },
    ]);
  }
}
