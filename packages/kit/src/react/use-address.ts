import { useCallback, useEffect, useRef, useState } from 'react';
import { addressMap, type AddressMap } from '../address-map.ts';
import type { AddressFacet } from '../address.ts';
import type { Query } from '../query.ts';
import { keepScroll } from '../scroll.ts';
import type { SearchState } from '../search-state.ts';

/** Typing is written into the address once it rests for this long, in milliseconds: browsers allow only so many a minute. */
const REST_MS = 150;

/**
 * Keeps the address of the page and a search state in step through the History API; a router that listens to it goes
 * along. Typing replaces the current entry, choices and pages push a new one: Back then undoes what a person thinks of
 * as a step, and finds the place they had scrolled to. Answers the function to change the query with.
 */
export function useAddress(
  state: SearchState,
  map: readonly AddressFacet[] | AddressMap,
): (query: Query, how: 'replace' | 'push') => void {
  const current = useRef<AddressMap>(asMap(map));
  useEffect(() => {
    current.current = asMap(map);
  }, [map]);
  useEffect(() => {
    const scroll = keepScroll(window);
    // After a reload the results are in the page already.
    scroll.restore();
    const onPop = (): void => {
      state.ask(current.current.read(window.location).query);
      const stop = state.subscribe(() => {
        if (state.snapshot().status === 'loading') return;
        stop();
        requestAnimationFrame(scroll.restore);
      });
    };
    window.addEventListener('popstate', onPop);
    return () => {
      window.removeEventListener('popstate', onPop);
      scroll.stop();
    };
  }, [state]);
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
      const address = (): string => {
        const { kept } = current.current.read(window.location);
        return current.current.write(query, window.location, kept) + window.location.hash;
      };
      if (how === 'push') {
        late.now();
        window.history.pushState(null, '', address());
      } else late.soon(() => window.history.replaceState(window.history.state, '', address()));
      state.ask(query);
    },
    [state, late],
  );
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

const asMap = (map: readonly AddressFacet[] | AddressMap): AddressMap => ('read' in map ? map : addressMap(map));
