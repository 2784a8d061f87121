/** The states of the kit as what Vue watches: refs that live as long as the component that makes them. */
import type { RecordJson } from '@yucca/contract';
import { onMounted, onScopeDispose, shallowReadonly, shallowRef, type ShallowRef } from 'vue';
import { Autocomplete, type AutocompleteOptions, type AutocompleteSnapshot } from '../autocomplete/autocomplete.ts';
import { keepAddress, type AddressRules, type AskedState, type KeptAddress } from '../keep-address.ts';
import { SearchState, type SearchSnapshot, type SearchStateOptions } from '../search-state.ts';
import type { Store } from '../store.ts';

export type { AddressRules, AskedState, KeptAddress } from '../keep-address.ts';

/** A store as a ref, until the scope it is made in ends. */
function refOf<T>(store: Store<T>): Readonly<ShallowRef<T>> {
  const ref = shallowRef(store.snapshot()) as ShallowRef<T>;
  onScopeDispose(store.subscribe(() => (ref.value = store.snapshot())));
  return shallowReadonly(ref) as Readonly<ShallowRef<T>>;
}

/**
 * A search state that lives as long as the component, and its current snapshot as a ref. `R`: the type of the records,
 * as in `useSearch<PlantsRecord>({ … })`.
 */
export function useSearch<R extends object = RecordJson>(
  options: SearchStateOptions,
): [Readonly<ShallowRef<SearchSnapshot<R>>>, SearchState<R>] {
  const state = new SearchState<R>(options);
  const snapshot = refOf(state);
  onScopeDispose(() => state.stop());
  return [snapshot, state];
}

/** An autocomplete that lives as long as the component, and its current snapshot as a ref. */
export function useAutocomplete(
  options: AutocompleteOptions,
): [Readonly<ShallowRef<AutocompleteSnapshot>>, Autocomplete] {
  const state = new Autocomplete(options);
  const snapshot = refOf(state);
  onScopeDispose(() => state.close());
  return [snapshot, state];
}

/**
 * Keeps the address of the page and a search state in step while the component is on the page: typing replaces the
 * entry of the history, a choice or a page is a new one, Back goes a step back. Returns the function to change the
 * query with.
 *
 * @param rules how a query is written: the facets of the page or a map; as a function where it may change
 */
export function useAddress(state: AskedState, rules: AddressRules | (() => AddressRules)): KeptAddress['change'] {
  let kept: KeptAddress | null = null;
  // On a server there is no address: it has been read into the query already.
  onMounted(() => (kept = keepAddress(state, typeof rules === 'function' ? rules : () => rules)));
  onScopeDispose(() => kept?.stop());
  return (query, how) => (kept === null ? state.ask(query) : kept.change(query, how));
}
