export { Autocomplete, type AutocompleteOptions, type AutocompleteSnapshot } from './autocomplete/autocomplete.ts';
export {
  completionsSource,
  pastQueriesSource,
  recordsSource,
  staticSource,
  type CollectionOffers,
  type Offer,
  type Section,
  type Source,
} from './autocomplete/source.ts';
export { createMemory, type Memory, type MemoryStore } from './memory.ts';
export { escapeValue, parseAddress, printAddress, type AddressFacet } from './address.ts';
export {
  createClient,
  ProblemError,
  searchParams,
  type ClientOptions,
  type SearchClient,
  type YuccaClient,
} from './client.ts';
export { excerpt, markedPieces, type MarkedPiece } from './marks.ts';
export { pageNumbers } from './pages.ts';
export {
  chosenValues,
  EMPTY_QUERY,
  isRange,
  requestFor,
  withoutChoices,
  withPage,
  withRange,
  withSort,
  withText,
  withToggled,
  type Choice,
  type Query,
  type RangeChoice,
} from './query.ts';
export { SearchState, type SearchSnapshot, type SearchStateOptions } from './search-state.ts';
