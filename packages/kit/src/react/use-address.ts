import { useCallback, useEffect, useRef } from 'react';
import { isOurs, keepAddress, type AddressRules, type AskedState, type KeptAddress } from '../keep-address.ts';
import { sameQuery, type Query } from '../query.ts';
import { IN_PACKAGE } from './in-package.ts';
import type { SearchState } from '../search-state.ts';

/**
 * Keeps the address of the page and a search state in step, see `keepAddress`. Returns the function to change the query
 * with.
 *
 * @param map how a query is written; null = not into the address: the state is the page's own business
 */
export function useAddress(
  state: AskedState,
  map: AddressRules | null,
): (query: Query, how: 'replace' | 'push') => void {
  const current = useRef(map);
  useEffect(() => {
    current.current = map;
  }, [map]);
  const isOff = map === null;
  const kept = useRef<KeptAddress | null>(null);
  useEffect(() => {
    if (isOff) return;
    const address = keepAddress(state, () => current.current!);
    kept.current = address;
    return () => {
      address.stop();
      kept.current = null;
    };
  }, [state, isOff]);
  return useCallback(
    (query, how) => {
      if (kept.current) kept.current.change(query, how);
      else state.ask(query);
    },
    [state],
  );
}

/** No router gives the drop-in a query. */
const useInPackage: typeof useEffect = IN_PACKAGE ? useEffect : () => {};

/**
 * Has a state follow a query that comes from outside, with its answer if there is one: of a router's next page. After
 * Back a router may draw the page from before what was typed on it: then the address is newer and was followed before.
 *
 * @param isKept whether the query is kept in the address, as `useAddress` does with a map
 */
export function useGivenQuery(
  state: SearchState,
  query: Query,
  answer: Parameters<SearchState['take']>[1],
  isKept = true,
): void {
  const given = useRef({ query, answer });
  /** What the address said at the last step back or forward, until something else is asked for. */
  const stepped = useRef<Query | null>(null);
  useInPackage(() => {
    const onPop = (): void => void (stepped.current = isKept && isOurs() ? state.snapshot().query : null);
    window.addEventListener('popstate', onPop);
    return () => window.removeEventListener('popstate', onPop);
  }, [state, isKept]);
  useEffect(() => {
    const before = given.current;
    given.current = { query, answer };
    if (sameQuery(before.query, query) && before.answer === answer) return;
    const isOld = IN_PACKAGE && stepped.current !== null && sameQuery(stepped.current, state.snapshot().query);
    stepped.current = null;
    if (isOld) return;
    // A newer answer to what was given before is none to what has been typed since.
    const isNewer = answer !== null && before.answer !== answer && sameQuery(query, state.snapshot().query);
    if (isNewer || !sameQuery(before.query, query)) state.take(query, answer);
  }, [state, query, answer]);
}
