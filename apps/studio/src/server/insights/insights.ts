import {
  withAdded,
  type InsightItem,
  type InsightListName,
  type InsightProposal,
  type InsightProposals,
  type Insights,
  type InsightSort,
  type Page,
  type PastSearch,
  type SearchRequest,
  type VisitorJudgements,
} from '@yucca/contract';
import { LRUCache } from 'lru-cache';
import type { Collections } from '../collections/collections';
import { Failure } from '../failure';
import type { SearchService } from '../search/search';
import type { Tunings } from '../tuning/tuning';
import type { RemoteThread } from '../workers/rpc';
import type { ScanMethods } from '../workers/scan-worker';
import type { WriterMethods } from '../workers/writer-worker';
import type { SearchesPart } from './export-searches';
import { csvOf } from './list-csv';
import { ideasFor } from './proposals';
import { dateOf, type DayRange } from './range';
import type { InsightInterval, InsightScope } from './read-insights';
import type { ListLine, ListOrder } from './read-list';
import { DAY_MS } from './count';

interface Parts {
  collections: Collections;
  tunings: Pick<Tunings, 'versions' | 'get'>;
  search: Pick<SearchService, 'search' | 'trial'>;
  writer: Pick<RemoteThread<WriterMethods>, 'call'>;
  scan: () => RemoteThread<ScanMethods>;
  /** Writes down what waits in memory, so that it is counted. */
  written: () => Promise<void>;
  secret: string;
  /** Visitors a query must have come from to be shown. */
  least: number;
}

/** Lines that are asked for at once by a file. */
const CSV_PAGE = 1_000;
/** Searches that are read at once by an export. */
const EXPORTED_AT_ONCE = 500;
/** Queries that are asked again at once: the searchers have other callers too. */
const AT_ONCE = 4;

/** Versions that are asked whether they have mended a query: the newest. */
const VERSIONS_TRIED = 6;

interface Published {
  version: number;
  at: number;
}

/** What visitors looked for, and what they missed. */
export class InsightsService {
  readonly #parts: Parts;
  /** A run asks for its judgements part by part; each would make the model anew. */
  readonly #judged = new LRUCache<string, VisitorJudgements>({ max: 20, ttl: 60_000 });

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /** Sums and curves. Throws a Failure for a collection that is not there. */
  async read(name: string, range: DayRange, tag: string, interval: InsightInterval): Promise<Insights> {
    const { tunings, scan, written } = this.#parts;
    const scope = this.#scope(name, range, tag);
    await written();
    const told = await scan().call('insights', [scope, interval]);
    const published = tunings
      .versions(name)
      .filter(({ savedAt }) => isWithin(savedAt, range))
      .map(({ savedAt, version, note }) => ({ at: savedAt, version, note: note ?? '' }));
    return { ...told, published };
  }

  /** A page of a list; queries that failed are asked again, so that it shows when they are mended. */
  async list(name: string, range: DayRange, tag: string, order: Omit<ListOrder, 'least'>): Promise<Page<InsightItem>> {
    const { scan, written, least } = this.#parts;
    const scope = this.#scope(name, range, tag);
    await written();
    const { items, ...page } = await scan().call('insightList', [scope, { ...order, least }]);
    const published = this.#parts.tunings
      .versions(name)
      .map(({ version, savedAt }): Published => ({ version, at: Date.parse(savedAt) }))
      .sort((a, b) => a.at - b.at);
    const told: InsightItem[] = [];
    for (let at = 0; at < items.length; at += AT_ONCE) {
      const some = items.slice(at, at + AT_ONCE).map((line) => this.#now(name, order.list, line, published));
      told.push(...(await Promise.all(some)));
    }
    return { ...page, items: told };
  }

  /** All of a list, as lines of a CSV file in pieces. */
  async *csv(
    name: string,
    range: DayRange,
    tag: string,
    list: InsightListName,
    sort: InsightSort | null,
    q: string,
  ): AsyncGenerator<string> {
    for (let page = 1, pages = 1; page <= pages; page++) {
      const part = await this.list(name, range, tag, { list, sort, q, page, size: CSV_PAGE });
      pages = part.pages;
      yield csvOf(list, part.items, page === 1);
    }
  }

  /** The single searches that are kept of some days, one JSON object a line, in pieces. */
  async *export(name: string, range: DayRange): AsyncGenerator<string> {
    const { scan, written } = this.#parts;
    const scope = this.#scope(name, range, '');
    await written();
    for (let after: number | null = 0; after !== null;) {
      const { searches, next }: SearchesPart = await scan().call('exportSearches', [scope, after, EXPORTED_AT_ONCE]);
      yield searches.map((search) => `${JSON.stringify(search)}\n`).join('');
      after = next;
    }
  }

  /** How a query may be mended, each with what it would do to the draft; what would do nothing is left out. */
  async proposals(name: string, query: string, range: DayRange): Promise<InsightProposals> {
    const { search, tunings, scan, written } = this.#parts;
    const scope = this.#scope(name, range, '');
    await written();
    const tuning = tunings.get(name, 'draft');
    const ask = (version: 'live' | 'draft') => search.search(name, { q: query, size: 0, version, record: false });
    const [after, live, answer] = await Promise.all([
      scan().call('insightAfter', [scope, query]),
      ask('live'),
      ask('draft'),
    ]);
    const proposals: InsightProposal[] = [];
    for (const { effect, first, ...idea } of ideasFor({ query, answer, ...after }, tuning)) {
      if (effect !== undefined) {
        proposals.push({ ...idea, effect, first: first ?? [] });
        continue;
      }
      const [tried] = await search.trial(name, withAdded(tuning, idea.add), [query]);
      const { before, after } = tried!;
      if (after.total > before.total)
        proposals.push({ ...idea, effect: `${before.total} → ${after.total} records`, first: after.ids.slice(0, 5) });
    }
    return { finds: { live: live.total, draft: answer.total }, proposals };
  }

  /** Judgements that visitors' clicks make; nothing of them is stored. */
  async judgements(name: string, range: DayRange): Promise<VisitorJudgements> {
    const scope = this.#scope(name, range, '');
    const asked = JSON.stringify(scope);
    const known = this.#judged.get(asked);
    if (known) return known;
    await this.#parts.written();
    const judged = await this.#parts.scan().call('visitorJudgements', [scope]);
    this.#judged.set(asked, judged);
    return judged;
  }

  /** Counts searches that were meant, of another time or another system. */
  async import(name: string, searches: readonly PastSearch[]): Promise<void> {
    const id = this.#parts.collections.idOf(name);
    this.#judged.clear();
    await this.#parts.writer.call('importSearches', [id, this.#parts.secret, [...searches]]);
  }

  /** Erases what is kept of a visit, a viewer or a query; returns how many searches that were. */
  async erase(name: string, what: { session?: string; viewer?: string; query?: string }): Promise<number> {
    const id = this.#parts.collections.idOf(name);
    await this.#parts.written();
    this.#judged.clear();
    return this.#parts.writer.call('eraseInsights', [id, this.#parts.secret, what]);
  }

  #scope(name: string, range: DayRange, tag: string): InsightScope {
    return { collectionId: this.#parts.collections.idOf(name), tag, range };
  }

  /** How a query does now that it failed then. */
  async #now(
    name: string,
    list: InsightListName,
    { item, lastMissedAt, lastFoundAt }: ListLine,
    published: readonly Published[],
  ): Promise<InsightItem> {
    if (item.query === undefined) return item;
    const told: InsightItem = { ...item };
    if (list === 'nothing' || list === 'unclicked' || list === 'refined')
      told.finds = await this.#finds(name, item.query);
    if (list === 'nothing' && (told.finds ?? 0) > 0) {
      const later = published.filter(({ at }) => at > lastMissedAt);
      // By a version since its last failure, or by records that came: then visitors have found it.
      const fixed = (await this.#mender(name, item.query, later)) ?? (lastFoundAt > lastMissedAt ? lastFoundAt : null);
      if (fixed !== null) told.fixedSince = new Date(fixed).toISOString();
    }
    return told;
  }

  /** When the first of some versions came by which a query finds something; the last of them is live and does. */
  async #mender(name: string, query: string, versions: readonly Published[]): Promise<number | null> {
    for (const { version, at } of versions.slice(-VERSIONS_TRIED, -1))
      if ((await this.#finds(name, query, version)) > 0) return at;
    return versions.at(-1)?.at ?? null;
  }

  async #finds(name: string, q: string, version: SearchRequest['version'] = 'live'): Promise<number> {
    try {
      return (await this.#parts.search.search(name, { q, size: 0, version, record: false })).total;
    } catch (error) {
      // Too long for the words of today, a version that the index cannot answer any more, or nothing can be searched
      // just now: it is no worse a line for that.
      if (error instanceof Failure) return 0;
      throw error;
    }
  }
}

function isWithin(at: string, { from, to }: DayRange): boolean {
  const date = at.slice(0, 10);
  return date >= dateOf(from) && date <= dateOf(to);
}

/** The last so many days up to now. */
export const lastDays = (days: number, now = Date.now()): DayRange => {
  const to = Math.floor(now / DAY_MS);
  return { from: to - days + 1, to };
};
