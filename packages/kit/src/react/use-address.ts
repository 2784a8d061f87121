import { useCallback, useEffect, useRef } from 'react';
import { parseAddress, printAddress, type AddressFacet } from '../address.ts';
import type { Query } from '../query.ts';
import type { SearchState } from '../search-state.ts';

/**
 * Keeps the address of the page and a search state in step through the History API. Typing replaces the current entry,
 * choices and pages push a new one: Back then undoes what a person thinks of as a step. Answers the function to change
 * the query with.
 */
export function useAddress(
  state: SearchState,
  facets: readonly AddressFacet[],
): (query: Query, how: 'replace' | 'push') => void {
  const names = useRef(facets);
  useEffect(() => {
    names.current = facets;
  }, [facets]);
  useEffect(() => {
    const onPop = (): void => state.ask(parseAddress(window.location.search, names.current).query);
    window.addEventListener('popstate', onPop);
    return () => window.removeEventListener('popstate', onPop);
  }, [state]);
  return useCallback(
    (query, how) => {
      const { kept } = parseAddress(window.location.search, names.current);
      const text = printAddress(query, kept);
      const address = window.location.pathname + (text === '' ? '' : `?${text}`) + window.location.hash;
      if (how === 'push') window.history.pushState(window.history.state, '', address);
      else window.history.replaceState(window.history.state, '', address);
      state.ask(query);
    },
    [state],
  );
}
