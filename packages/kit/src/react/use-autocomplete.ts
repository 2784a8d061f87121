import { useEffect, useState, useSyncExternalStore } from 'react';
import { Autocomplete, type AutocompleteOptions, type AutocompleteSnapshot } from '../autocomplete/autocomplete.ts';

/** An autocomplete that lives as long as the component, and its current snapshot. `make` runs once. */
export function useAutocomplete(make: () => AutocompleteOptions): [AutocompleteSnapshot, Autocomplete] {
  const [state] = useState(() => new Autocomplete(make()));
  const snapshot = useSyncExternalStore(state.subscribe, state.snapshot, state.snapshot);
  useEffect(() => () => state.close(), [state]);
  return [snapshot, state];
}
