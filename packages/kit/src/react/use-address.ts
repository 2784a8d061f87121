import { useCallback, useEffect, useRef } from 'react';
import { addressMap, type AddressMap } from '../address-map.ts';
import type { AddressFacet } from '../address.ts';
import type { Query } from '../query.ts';
import { keepScroll } from '../scroll.ts';
import type { SearchState } from '../search-state.ts';

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
  return useCallback(
    (query, how) => {
      const { kept } = current.current.read(window.location);
      const address = current.current.write(query, window.location, kept) + window.location.hash;
      if (how === 'push') window.history.pushState(null, '', address);
      else window.history.replaceState(window.history.state, '', address);
      state.ask(query);
    },
    [state],
  );
}

const asMap = (map: readonly AddressFacet[] | AddressMap): AddressMap => ('read' in map ? map : addressMap(map));
