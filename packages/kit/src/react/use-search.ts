import type { RecordJson } from '@yucca/contract';
import { useEffect, useState, useSyncExternalStore } from 'react';
import { SearchState, type SearchSnapshot, type SearchStateOptions } from '../search-state.ts';

/**
 * A search state that lives as long as the component, and its current snapshot. `make` runs once. `R`: the type of the
 * records, as in `useSearch<PlantsRecord>(…)`.
 */
export function useSearch<R extends object = RecordJson>(
  make: () => SearchStateOptions,
): [SearchSnapshot<R>, SearchState<R>] {
  const [state] = useState(() => new SearchState<R>(make()));
  const snapshot = useSyncExternalStore(state.subscribe, state.snapshot, state.snapshot);
  useEffect(() => () => state.stop(), [state]);
  return [snapshot, state];
}
