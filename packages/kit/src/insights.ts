import { unless } from '@yucca/contract';
import type { SearchRequest, VisitorEvent } from '@yucca/contract';
import type { YuccaClient } from './client.ts';

/** Whom to tell, and how often. */
export interface InsightsOptions {
  /** Where the API lives, without a slash at the end. Default: this page's own server. */
  base?: string;
  /** The search key of the page. */
  key?: string;
  /** Events are sent together when none has come for this long. Milliseconds; default 1,000. */
  waitMs?: number;
  /** The page they happen on. Default: the one this runs in; null: nothing is made or sent. */
  page?: InsightsPage | null;
}

/** What of a browser's window is needed. */
export type InsightsPage = Pick<Window, 'sessionStorage' | 'localStorage' | 'addEventListener' | 'innerWidth'> & {
  navigator: Pick<Navigator, 'sendBeacon' | 'doNotTrack'> & { globalPrivacyControl?: boolean };
};

/** Tells the server what visitors do with results, so that somebody can learn from it. */
export interface Insights {
  /**
   * False when the visitor's browser asks not to be followed (Do Not Track, Global Privacy Control): nothing is made or
   * sent then.
   */
  readonly active: boolean;
  /** Made by the page: of this visit, and of this browser. Undefined when not active. */
  readonly session: string | undefined;
  readonly viewer: string | undefined;
  /**
   * The client that a page searches with, so that its searches say whose they are, which page asks (`slug`), how wide
   * it is, and whether they are the completion that was chosen last.
   */
  noting: (client: YuccaClient, slug: string, chosen?: () => string | null) => YuccaClient;
  /** An answer that came with the page was asked for by this visit. */
  search: (queryId: string, slug: string) => void;
  /** A result came into sight; said once for each answer and record. `position` counts from 1. */
  view: (queryId: string, recordId: string, position: number) => void;
  /** A result was opened. */
  click: (queryId: string, recordId: string, position: number) => void;
  /** What the page is for was done: bought, read to its end. `queryId`: of the answer it was found in. */
  convert: (queryId: string, recordId: string) => void;
  /** Sends what waits, now. */
  flush: () => void;
}

/** The server takes no more at once. */
const MOST_AT_ONCE = 100;

const SILENT: Insights = {
  active: false,
  session: undefined,
  viewer: undefined,
  noting: (client) => client,
  search: () => {},
  view: () => {},
  click: () => {},
  convert: () => {},
  flush: () => {},
};

/** 128 random bits. `randomUUID` is there on pages over TLS alone. */
const newId = (): string => crypto.getRandomValues(new Uint32Array(4)).join('-');

/** An id that is kept in a storage; one of this page alone where the storage is closed. */
function keptId(storage: () => Storage, name: string): string {
  const made = newId();
  return unless(
    DOMException,
    () => {
      const known = storage().getItem(name);
      if (known === null) storage().setItem(name, made);
      return known ?? made;
    },
    made,
  );
}

/**
 * Makes the teller of a page. It sets no cookie, and what it sends survives the end of the page (`sendBeacon`, as
 * `text/plain` so that no preflight is needed). On a server, and where the visitor does not want it, it does nothing.
 */
export function createInsights({
  base = '',
  key = '',
  waitMs = 1_000,
  page = thisPage(),
}: InsightsOptions = {}): Insights {
  if (!page || asksNotTo(page.navigator)) return SILENT;
  const session = keptId(() => page.sessionStorage, 'yucca:session');
  const viewer = keptId(() => page.localStorage, 'yucca:viewer');
  const address = `${base}/api/v1/events?${new URLSearchParams({ key })}`;
  const tagsOf = (slug: string): string[] => [
    `page:${slug}`,
    `width:${page.innerWidth < 640 ? 'phone' : page.innerWidth < 1_024 ? 'tablet' : 'desktop'}`,
  ];
  const seen = new Set<string>();
  let waiting: VisitorEvent[] = [];
  let timer: ReturnType<typeof setTimeout> | undefined;
  const flush = (): void => {
    clearTimeout(timer);
    while (waiting.length > 0) {
      const events = waiting.slice(0, MOST_AT_ONCE);
      // Full: the browser takes no more just now. What waits goes with the next.
      if (!page.navigator.sendBeacon(address, JSON.stringify({ events }))) return;
      waiting = waiting.slice(MOST_AT_ONCE);
    }
  };
  const tell = (event: Omit<VisitorEvent, 'id' | 'at' | 'session'>): void => {
    waiting.push({ ...event, id: newId(), session, at: new Date().toISOString() });
    clearTimeout(timer);
    timer = setTimeout(flush, waitMs);
  };
  page.addEventListener('pagehide', flush);
  return {
    active: true,
    session,
    viewer,
    noting: (client, slug, chosen) => {
      const noted = <R extends SearchRequest>(request: R): R => ({
        ...request,
        ...(chosen && chosen() === request.q && { by: 'completion' as const }),
        session,
        viewer,
        tags: tagsOf(slug).concat(request.tags ?? []),
      });
      return {
        ...client,
        search: (collection, request, signal) => client.search(collection, noted(request), signal),
        // What stands beside the results of a page was not asked for by itself.
        multiSearch: ([first, ...rest], signal) => client.multiSearch(first ? [noted(first), ...rest] : [], signal),
      };
    },
    search: (queryId, slug) => tell({ type: 'search', queryId, viewer, tags: tagsOf(slug) }),
    view(queryId, recordId, position) {
      const name = `${queryId} ${recordId}`;
      if (seen.has(name)) return;
      seen.add(name);
      tell({ type: 'view', queryId, recordId, position });
    },
    click: (queryId, recordId, position) => tell({ type: 'click', queryId, recordId, position }),
    convert: (queryId, recordId) => tell({ type: 'convert', queryId, recordId }),
    flush,
  };
}

const thisPage = (): InsightsPage | undefined => (typeof window === 'undefined' ? undefined : window);

const asksNotTo = ({ doNotTrack, globalPrivacyControl }: InsightsPage['navigator']): boolean =>
  doNotTrack === '1' || globalPrivacyControl === true;
