import type { PollSource } from '@yucca/contract';
import { valueAtPointer } from '@yucca/contract';
import { guessKey } from '@yucca/engine/understand';
import { checkedUrl, guardedGet, type Got } from '../outside/guarded-get';
import { retryAfterS } from '../outside/retry-after';
import { SourceError } from '../outside/source-error';
import { rowsOf } from './rows-of';
import { readSitemap } from './sitemap';
import { emptyBatch, noted, type SourceLine, type SourceReader } from './source'; // prettier-ignore

/** What the answers of the last run said of themselves. */
interface Position {
  etag?: string;
  lastModified?: string;
  /** The largest value of the field of the cursor. */
  cursor?: string;
  /** The field that tells the records apart. */
  key?: string;
}

interface Resume extends Position {
  url: string;
  total: number;
}

const MOST_PAGES = 100_000;

const MEDIA_TYPES: Readonly<Record<string, string>> = {
  json: 'application/json',
  'json-lines': 'application/x-ndjson',
  csv: 'text/csv',
  xml: 'application/xml',
};

/**
 * Asks an address for its records: only if they changed (ETag and Last-Modified, RFC 9110, 13.1), page after page
 * (`Link: rel="next"`, RFC 8288), or from a cursor on.
 */
export const poll: SourceReader<PollSource> = {
  async *read(source, order) {
    if (source.format === 'sitemap') return yield* readSitemap(source, order);
    const before = noted<Position>(order.position) ?? {};
    const broken = noted<Resume>(order.resume);
    const from = order.whole ? undefined : before.cursor;
    let url = broken === null ? withCursor(source, from) : checkedUrl(broken.url);
    let next: Position = broken ?? { ...(from !== undefined && { cursor: from }) };
    let total = broken?.total ?? 0;
    let anew = broken === null;
    for (let page = 0; page < MOST_PAGES; page++) {
      const isFirst = page === 0 && broken === null;
      const got = await get(source, url, isFirst && !order.whole ? before : {});
      if (got.status === 304) {
        got.body.destroy();
        return { whole: false, position: order.position, unchanged: true };
      }
      if (isFirst) next = { ...next, ...stateOf(got) };
      const following = nextPage(got);
      for await (const records of rowsOf(textOf(got), readingOf(source))) {
        next = { ...next, key: source.key ?? next.key ?? keyOf(records, order.keyField) };
        const cursor = source.cursor && largest(records, source.cursor.field, next.cursor);
        if (cursor !== undefined) next.cursor = cursor;
        total += records.length;
        // Within a page it cannot be gone on: it would be asked for from its beginning anyway.
        const resume = page === 0 ? null : JSON.stringify({ ...next, url: url.href, total: total - records.length });
        yield { ...emptyBatch(next.key!), records, resume, total: following === null ? null : total, anew };
        anew = false;
      }
      if (following === null || following.href === url.href)
        return { whole: from === undefined, position: JSON.stringify(next), unchanged: false };
      url = following;
      yield { ...emptyBatch(next.key ?? order.keyField), resume: JSON.stringify({ ...next, url: url.href, total }) };
    }
    throw new SourceError(`${url.host} has more than ${MOST_PAGES} pages.`);
  },
};

export const secretsOf = (headers: PollSource['headers']): Record<string, string> =>
  Object.fromEntries(Object.entries(headers ?? {}).flatMap(([name, value]) => (value === null ? [] : [[name, String(value)]]))); // prettier-ignore

async function get(source: PollSource, url: URL, { etag, lastModified }: Position): Promise<Got> {
  // A next page may be anywhere; the secrets are for the address that was named.
  const isOwn = url.origin === new URL(source.url).origin;
  const got = await guardedGet(url, {
    headers: {
      ...(isOwn && secretsOf(source.headers)),
      ...(etag !== undefined && { 'If-None-Match': etag }),
      ...(lastModified !== undefined && { 'If-Modified-Since': lastModified }),
    },
    allowPrivate: source.allowPrivate ?? [],
    timeoutMs: (source.timeoutS ?? 30) * 1_000,
  });
  if (got.status === 304 || (got.status >= 200 && got.status < 300)) return got;
  got.body.destroy();
  throw new SourceError(`${got.url.host} answers ${got.status}.`, {
    retryAfterS: retryAfterS(got.header('retry-after')),
  });
}

function stateOf(got: Got): Position {
  const [etag, lastModified] = [got.header('etag'), got.header('last-modified')];
  return { ...(etag !== null && { etag }), ...(lastModified !== null && { lastModified }) };
}

export function textOf(got: Got): Parameters<typeof rowsOf>[0] {
  const [type = '', ...parameters] = (got.header('content-type') ?? '').split(';');
  const charset = parameters.map((one) => /^\s*charset="?([^";]+)"?\s*$/i.exec(one)?.[1]).find(Boolean) ?? null;
  const file = got.url.pathname.split('/').at(-1) ?? '';
  return {
    name: file === '' ? got.url.host : `${got.url.host}/…/${file}`,
    mediaType: type.trim().toLowerCase() || null,
    charset,
    body: got.body,
  };
}

const readingOf = ({ format = 'auto', at }: PollSource): Parameters<typeof rowsOf>[1] => ({
  mediaType: MEDIA_TYPES[format],
  at,
});

/** The page after one, by its header `Link`. */
function nextPage(got: Got): URL | null {
  for (const [, target, parameters] of (got.header('link') ?? '').matchAll(/<([^>]*)>((?:\s*;[^,;"]*(?:"[^"]*")?)*)/g))
    if (/;\s*rel="?(?:[^"]*\s)?next(?:\s[^"]*)?"?\s*(;|$)/i.test(parameters!)) return checkedUrl(target!, got.url);
  return null;
}

function withCursor({ url, cursor }: PollSource, from: string | undefined): URL {
  const address = checkedUrl(url);
  if (cursor && from !== undefined) address.searchParams.set(cursor.parameter, from);
  return address;
}

/** The largest of the values of a field and one that was found before. Numbers are compared as such. */
function largest(lines: readonly SourceLine[], field: string, before: string | undefined): string | undefined {
  let most = before;
  for (const line of lines) {
    if ('error' in line) continue;
    const value = valueAtPointer(
      JSON.parse(line.json),
      field.startsWith('/') ? field : `/${field.replaceAll('.', '/')}`,
    );
    if (typeof value !== 'string' && typeof value !== 'number') continue;
    const text = String(value);
    if (most === undefined || isAfter(text, most)) most = text;
  }
  return most;
}

const isAfter = (a: string, b: string): boolean => {
  const [x, y] = [Number(a), Number(b)];
  return Number.isNaN(x) || Number.isNaN(y) ? a > b : x > y;
};

/** The field that tells records apart: as in the collection, or the likeliest one. */
export function keyOf(lines: readonly SourceLine[], keyField: string): string {
  const records = lines.flatMap((line) => ('error' in line ? [] : [JSON.parse(line.json) as unknown]));
  const objects = records.filter((one): one is Record<string, unknown> => one !== null && typeof one === 'object' && !Array.isArray(one)); // prettier-ignore
  if (objects.some((one) => Object.hasOwn(one, keyField))) return keyField;
  return guessKey(objects, false).field ?? keyField;
}
