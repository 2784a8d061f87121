import { useEffect, useState, useSyncExternalStore } from 'react';
import { SearchState, type SearchSnapshot, type SearchStateOptions } from '../search-state.ts';

/** A search state that lives as long as the component, and its current snapshot. `make` runs once. */
export function useSearch(make: () => SearchStateOptions): [SearchSnapshot, SearchState] {
  const [state] = useState(() => new SearchState(make()));
  const snapshot = useSyncExternalStore(state.subscribe, state.snapshot, state.snapshot);
  useEffect(() => () => state.stop(), [state]);
  return [snapshot, state];
}
