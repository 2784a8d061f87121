import type { PollSource, RecordJson } from '@yucca/contract';
import { readHtmlPage } from '@/formats/pages';
import { readXml } from '@/formats/xml';
import { asUtf8, charsetOf } from '@/text/charset';
import robotsParser from 'robots-parser';
import type { Readable } from 'node:stream';
import { checkedUrl, guardedGet, type GetOptions, type Got } from '../outside/guarded-get';
import { retryAfterS } from '../outside/retry-after';
import { SourceError } from '../outside/source-error';
import { emptyBatch, noted, type ReadOrder, type SourceBatch, type SourceEnd } from './source';

interface Place {
  url: string;
  /** When it changed last, in milliseconds since 1970; null when that is not said. */
  changedAt: number | null;
}

interface Position {
  /** When the run began, in milliseconds since 1970. */
  readAt: number;
}

/** Of a sitemap, and of a page (sitemaps.org: 50 MB, 50,000 addresses). */
const MAP_BYTES = 50 * 1024 ** 2;
const PAGE_BYTES = 8 * 1024 ** 2;
const MOST_PAGES = 50_000;
const MOST_MAPS = 500;
const PAGES_AT_ONCE = 20;
const AGENT = 'Yucca';

/**
 * The pages that a sitemap names, each as a record of its address, title, headings and text. What robots.txt does not
 * allow (RFC 9309) is left out; what has not changed since the last run is not fetched again.
 */
export async function* readSitemap(source: PollSource, order: ReadOrder): AsyncGenerator<SourceBatch, SourceEnd> {
  const readAt = Date.now();
  const key = source.key ?? 'url';
  const since = order.whole ? null : (noted<Position>(order.position)?.readAt ?? null);
  const allowed = robotsOf(source);
  const places = await placesOf(source);
  const from = Number(order.resume ?? 0);
  let batch = { ...emptyBatch(key), total: places.length, anew: from === 0 };
  for (let at = from; at < places.length; at++) {
    const { url, changedAt } = places[at]!;
    if (await allowed(checkedUrl(url))) {
      if (since !== null && changedAt !== null && changedAt < since) batch.seen.push(url);
      else batch.records.push(await pageAt(source, url, key, at + 1));
    }
    if ((at + 1) % PAGES_AT_ONCE !== 0) continue;
    yield { ...batch, resume: String(at + 1) };
    batch = { ...emptyBatch(key), total: places.length };
  }
  yield batch;
  return { whole: true, position: JSON.stringify({ readAt } satisfies Position), unchanged: false };
}

const getOptions = ({ allowPrivate, timeoutS }: PollSource, mostBytes: number): GetOptions => ({
  headers: {},
  allowPrivate: allowPrivate ?? [],
  timeoutMs: (timeoutS ?? 30) * 1_000,
  mostBytes,
});

async function pageAt(source: PollSource, url: string, key: string, line: number): Promise<SourceBatch['records'][0]> {
  try {
    const got = await guardedGet(checkedUrl(url), getOptions(source, PAGE_BYTES));
    // A page that is gone, or only for some, is not a reason to end the run.
    if (got.status !== 200) {
      got.body.destroy();
      return { error: `${url} answers ${got.status}`, line };
    }
    const bytes = await bytesOf(got.body);
    const [page] = (await readHtmlPage(asUtf8(bytes, charsetOf(bytes, charsetSaid(got))))) as [RecordJson];
    return { json: JSON.stringify({ [key]: url, ...page }) };
  } catch (error) {
    if (!(error instanceof SourceError)) throw error;
    return { error: error.message, line };
  }
}

const charsetSaid = (got: Got): string | null =>
  /charset="?([^";\s]+)/i.exec(got.header('content-type') ?? '')?.[1] ?? null;

async function bytesOf(body: Readable): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  for await (const chunk of body as AsyncIterable<Buffer>) chunks.push(chunk);
  return Buffer.concat(chunks);
}

/** The addresses of a sitemap and of those that it names. */
async function placesOf(source: PollSource): Promise<Place[]> {
  const waiting = [source.url];
  const known = new Set(waiting);
  const places: Place[] = [];
  for (let maps = 0; waiting.length > 0; maps++) {
    if (maps === MOST_MAPS) throw new SourceError(`The sitemap names more than ${MOST_MAPS} others.`);
    for (const entry of await entriesOf(source, waiting.shift()!)) {
      if (entry.isMap && !known.has(entry.url)) {
        known.add(entry.url);
        waiting.push(entry.url);
      }
      if (!entry.isMap) places.push({ url: entry.url, changedAt: entry.changedAt });
      if (places.length > MOST_PAGES) throw new SourceError(`The sitemap names more than ${MOST_PAGES} pages.`);
    }
  }
  return places;
}

interface Entry extends Place {
  isMap: boolean;
}

async function entriesOf(source: PollSource, address: string): Promise<Entry[]> {
  const got = await guardedGet(checkedUrl(address), getOptions(source, MAP_BYTES));
  if (got.status !== 200) {
    got.body.destroy();
    throw new SourceError(`${address} answers ${got.status}.`, { retryAfterS: retryAfterS(got.header('retry-after')) });
  }
  const bytes = await bytesOf(got.body);
  const text = Buffer.from(asUtf8(bytes, charsetOf(bytes, charsetSaid(got)))).toString();
  const isMap = /<(\w+:)?sitemapindex[\s>]/.test(text);
  if (!isMap && !/<(\w+:)?urlset[\s>]/.test(text)) throw new SourceError(`${got.url.host} answers with no sitemap.`);
  const { urlset, sitemapindex } = (await readXml(Buffer.from(text))) as {
    urlset?: { url?: RecordJson | RecordJson[] };
    sitemapindex?: { sitemap?: RecordJson | RecordJson[] };
  };
  const rows = [(isMap ? sitemapindex?.sitemap : urlset?.url) ?? []].flat();
  return rows.flatMap((row) => {
    const url = typeof row.loc === 'string' ? row.loc.trim() : '';
    const at = typeof row.lastmod === 'string' ? Date.parse(row.lastmod) : Number.NaN;
    return URL.canParse(url) ? [{ url, isMap, changedAt: Number.isNaN(at) ? null : at }] : [];
  });
}

/** Whether a page may be fetched, by the robots.txt of its site; one that is not there allows everything. */
function robotsOf(source: PollSource): (url: URL) => Promise<boolean> {
  const sites = new Map<string, Promise<(url: string) => boolean>>();
  const read = async (origin: string): Promise<(url: string) => boolean> => {
    const got = await guardedGet(new URL('/robots.txt', origin), getOptions(source, 512 * 1024));
    if (got.status >= 500) throw new SourceError(`The robots.txt of ${origin} answers ${got.status}.`);
    if (got.status !== 200) {
      got.body.destroy();
      return () => true;
    }
    const robots = robotsParser(`${origin}/robots.txt`, Buffer.from(await bytesOf(got.body)).toString());
    return (url) => robots.isAllowed(url, AGENT) ?? true;
  };
  return async (url) => {
    let site = sites.get(url.origin);
    if (!site) sites.set(url.origin, (site = read(url.origin)));
    return (await site)(url.href);
  };
}
