/** The states of the kit as stores of Svelte, for `$search` in a component. */
import type { RecordJson } from '@yucca/contract';
import { Autocomplete, type AutocompleteOptions, type AutocompleteSnapshot } from '../autocomplete/autocomplete.ts';
import { SearchState, type SearchSnapshot, type SearchStateOptions } from '../search-state.ts';
import type { Store } from '../store.ts';

export { keepAddress, type AddressRules, type AskedState, type KeptAddress } from '../keep-address.ts';

/** A store by Svelte's contract: it tells its value at once and after every change. */
export interface Readable<T> {
  /** Calls `run` with the value, now and whenever it changes; gives back a function that stops it. */
  subscribe: (run: (value: T) => void) => () => void;
}

/** Whoever watches last switches off what is still asked for. */
function readable<T>(store: Store<T>, whenUnwatched: () => void): Readable<T> {
  let watching = 0;
  return {
    subscribe(run) {
      watching++;
      run(store.snapshot());
      const stop = store.subscribe(() => run(store.snapshot()));
      return () => {
        stop();
        if (--watching === 0) whenUnwatched();
      };
    },
  };
}

/**
 * A search state, and its snapshot as a store: `const [search, state] = createSearch<PlantsRecord>({ … })`, then
 * `$search.answer` in the component. What is asked for is dropped when no component watches it any more.
 */
export function createSearch<R extends object = RecordJson>(
  options: SearchStateOptions,
): [Readable<SearchSnapshot<R>>, SearchState<R>] {
  const state = new SearchState<R>(options);
  return [readable(state, () => state.stop()), state];
}

/** An autocomplete, and its snapshot as a store. It closes when no component watches it any more. */
export function createAutocomplete(options: AutocompleteOptions): [Readable<AutocompleteSnapshot>, Autocomplete] {
  const state = new Autocomplete(options);
  return [readable(state, () => state.close()), state];
}
