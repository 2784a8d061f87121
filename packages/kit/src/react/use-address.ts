import { useCallback, useEffect, useRef, useState } from 'react';
import { addressMap, type AddressMap } from '../address-map.ts';
import type { AddressFacet } from '../address.ts';
import { EMPTY_QUERY, sameQuery, type Query } from '../query.ts';
import { keepScroll } from '../scroll.ts';
import type { SearchState } from '../search-state.ts';
import { painted } from './use-painted.ts';

/**
 * Typing is written into the address once it rests for this long, in milliseconds: browsers allow only so many a
 * minute.
 */
const REST_MS = 150;

/** Marks the entries of the history that were written here: what their address says is newer than a cached page. */
const OURS = 'yuccaQuery';

/** Browsers that have it tell of every change of the address, a router's too (WHATWG HTML, Navigation API). */
const changesOf = (page: Window): EventTarget | undefined => (page as { navigation?: EventTarget }).navigation;

/**
 * Keeps the address of the page and a search state in step through the History API. Typing replaces the current entry,
 * choices and pages push a new one: Back then undoes what a person thinks of as a step, and finds the place they had
 * scrolled to. Whoever else changes the address (a router, a link of the page, Back), the state follows. Returns the
 * function to change the query with.
 *
 * @param map how a query is written; null = not into the address: the state is the page's own business
 */
export function useAddress(
  state: SearchState,
  map: readonly AddressFacet[] | AddressMap | null,
): (query: Query, how: 'replace' | 'push') => void {
  const current = useRef<AddressMap | null>(asMap(map));
  useEffect(() => {
    current.current = asMap(map);
  }, [map]);
  const isOff = map === null;
  /** The address as it was last read or written here: entries are also replaced without another one. */
  const seen = useRef('');
  useEffect(() => {
    if (isOff) return;
    const scroll = keepScroll(window);
    const restore = (): void => void state.settled().then(painted).then(scroll.restore);
    const home = window.location.pathname;
    seen.current = window.location.href;
    const follow = (): void => {
      const map = current.current!;
      seen.current = window.location.href;
      // On the way to another page this one is still there for a moment.
      if (isOwn(map, window.location.pathname, home)) state.ask(map.read(window.location).query);
    };
    const onChange = (): void => {
      if (window.location.href !== seen.current) follow();
    };
    const isOurs = (window.history.state as Record<string, unknown> | null)?.[OURS] === true;
    if (isOurs) follow();
    restore();
    const onPop = (): void => {
      follow();
      restore();
    };
    const changes = changesOf(window);
    changes?.addEventListener('currententrychange', onChange);
    window.addEventListener('popstate', onPop);
    return () => {
      changes?.removeEventListener('currententrychange', onChange);
      window.removeEventListener('popstate', onPop);
      scroll.stop();
    };
  }, [state, isOff]);
  const [late] = useState(() => createLate(REST_MS));
  useEffect(() => {
    // The step that was left has its address; what was still to be written belongs to it and not to this one.
    window.addEventListener('popstate', late.forget);
    window.addEventListener('pagehide', late.now);
    return () => {
      window.removeEventListener('popstate', late.forget);
      window.removeEventListener('pagehide', late.now);
      late.now();
    };
  }, [late]);
  return useCallback(
    (query, how) => {
      const write = (): void => {
        const { history, location } = window;
        const written = current.current!;
        const address = written.write(query, location, written.read(location).kept) + location.hash;
        seen.current = new URL(address, location.href).href;
        if (how === 'push') history.pushState({ [OURS]: true }, '', address);
        else history.replaceState({ ...(history.state as object | null), [OURS]: true }, '', address);
      };
      if (current.current !== null) {
        if (how === 'push') {
          late.now();
          write();
        } else late.soon(write);
      }
      state.ask(query);
    },
    [state, late],
  );
}

/** Whether a path is this page's: the one it was opened at, or one that the map writes. */
function isOwn(map: AddressMap, pathname: string, home: string): boolean {
  const [base] = map.write(EMPTY_QUERY, { pathname: '' }).split('?') as [string];
  return base === '' ? pathname === home : pathname === base || pathname.startsWith(`${base}/`);
}

/** Has a state follow a query that comes from outside, with its answer if there is one: of a router's next page. */
export function useGivenQuery(state: SearchState, query: Query, answer: Parameters<SearchState['take']>[1]): void {
  const given = useRef({ query, answer });
  useEffect(() => {
    const before = given.current;
    given.current = { query, answer };
    // A newer answer to what was given before is none to what has been typed since.
    const isNewer = answer !== null && before.answer !== answer && sameQuery(query, state.snapshot().query);
    if (isNewer || !sameQuery(before.query, query)) state.take(query, answer);
  }, [state, query, answer]);
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

const asMap = (map: readonly AddressFacet[] | AddressMap | null): AddressMap | null =>
  map === null || 'read' in map ? map : addressMap(map);
