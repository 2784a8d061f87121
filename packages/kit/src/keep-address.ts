import { addressMap, type AddressMap } from './address-map.ts';
import type { AddressFacet } from './address.ts';
import { painted } from './painted.ts';
import { EMPTY_QUERY, type Query } from './query.ts';
import { keepScroll } from './scroll.ts';
import type { SearchState } from './search-state.ts';

/**
 * Typing is written into the address once it rests for this long, in milliseconds: browsers allow only so many a
 * minute.
 */
const REST_MS = 150;

/** Marks the entries of the history that were written here: what their address says is newer than a cached page. */
const OURS = 'yuccaQuery';

/** Whether the present entry of the history was written here. */
export const isOurs = (): boolean => (window.history.state as { [OURS]?: true } | null)?.[OURS] === true;

/** Browsers that have it tell of every change of the address, a router's too (WHATWG HTML, Navigation API). */
const changesOf = (page: Window): EventTarget | undefined => (page as { navigation?: EventTarget }).navigation;

/** How a query is written into an address: by the facets of a page, or by a map of one's own. */
export type AddressRules = readonly AddressFacet[] | AddressMap;

/** What is needed of a search state. */
export type AskedState = Pick<SearchState, 'ask' | 'settled'>;

/** An address that is kept in step with a search state. */
export interface KeptAddress {
  /** Changes the query: typing takes the place of an entry of the history (`replace`), a choice adds one (`push`). */
  change: (query: Query, how: 'replace' | 'push') => void;
  /** Leaves the address alone from now on; what was still to be written is. */
  stop: () => void;
}

/**
 * Keeps the address of the page and a search state in step through the History API. Typing replaces the current entry,
 * choices and pages push a new one: Back then undoes what a person thinks of as a step, and finds the place they had
 * scrolled to. Whoever else changes the address (a router, a link of the page, Back), the state follows.
 *
 * @param rules how a query is written, asked for whenever it is: it may change
 */
export function keepAddress(state: AskedState, rules: () => AddressRules): KeptAddress {
  const scroll = keepScroll(window);
  const restore = (): void => void state.settled().then(painted).then(scroll.restore);
  const home = window.location.pathname;
  /** The address as it was last read or written here: entries are also replaced without another one. */
  let seen = window.location.href;
  const follow = (): void => {
    const map = asMap(rules());
    seen = window.location.href;
    // On the way to another page this one is still there for a moment.
    if (isOwn(map, window.location.pathname, home)) state.ask(map.read(window.location).query);
  };
  const late = createLate(REST_MS);
  const onChange = (): void => {
    if (window.location.href !== seen) follow();
  };
  const onPop = (): void => {
    // The step that was left has its address; what was still to be written belongs to it and not to this one.
    late.forget();
    follow();
    restore();
  };
  if (isOurs()) follow();
  restore();
  const changes = changesOf(window);
  changes?.addEventListener('currententrychange', onChange);
  window.addEventListener('popstate', onPop);
  window.addEventListener('pagehide', late.now);
  // A click may lead a router away at once: what was typed belongs to the entry that is left.
  window.addEventListener('click', late.now, true);
  const write = (query: Query, how: 'replace' | 'push'): void => {
    const { history, location } = window;
    const map = asMap(rules());
    const address = map.write(query, location, map.read(location).kept) + location.hash;
    seen = new URL(address, location.href).href;
    if (how === 'push') history.pushState({ [OURS]: true }, '', address);
    else history.replaceState({ ...(history.state as object | null), [OURS]: true }, '', address);
  };
  return {
    change(query, how) {
      if (how === 'push') {
        late.now();
        write(query, how);
      } else late.soon(() => write(query, how));
      state.ask(query);
    },
    stop() {
      changes?.removeEventListener('currententrychange', onChange);
      window.removeEventListener('popstate', onPop);
      window.removeEventListener('pagehide', late.now);
      window.removeEventListener('click', late.now, true);
      scroll.stop();
      late.now();
    },
  };
}

/** Whether a path is this page's: the one it was opened at, or one that the map writes. */
function isOwn(map: AddressMap, pathname: string, home: string): boolean {
  const [base] = map.write(EMPTY_QUERY, { pathname: '' }).split('?') as [string];
  return base === '' ? pathname === home : pathname === base || pathname.startsWith(`${base}/`);
}

/** Puts one thing off until nothing newer comes for a while. */
function createLate(ms: number) {
  let work: (() => void) | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const forget = (): void => {
    clearTimeout(timer);
    work = null;
  };
  const now = (): void => {
    const due = work;
    forget();
    due?.();
  };
  const soon = (next: () => void): void => {
    forget();
    work = next;
    timer = setTimeout(now, ms);
  };
  return { soon, now, forget };
}

const asMap = (rules: AddressRules): AddressMap => ('read' in rules ? rules : addressMap(rules));
