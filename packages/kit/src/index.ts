export type {
  Card,
  FacetAnswer,
  FacetValuesAnswer,
  InterfacePage,
  NumberFormat,
  PageSection,
  PageShelf,
  ProblemJson,
  RecordJson,
  SearchAnswer,
  SearchRequest,
  SearchResult,
  SuggestAnswer,
  Suggestion,
} from '@yucca/contract';
export { Autocomplete, type AutocompleteOptions, type AutocompleteSnapshot } from './autocomplete/autocomplete.ts';
export { addressSource, listSource } from './autocomplete/own-sources.ts';
export {
  completionsSource,
  pastQueriesSource,
  recordsSource,
  staticSource,
  viewedSource,
  type CollectionOffers,
  type Offer,
  type Section,
  type Source,
} from './autocomplete/source.ts';
export { fieldsOf, shownRow, sourcesFor } from './autocomplete/page-sources.ts';
export type { Insights, InsightsOptions, InsightsPage } from './insights.ts';
export { createMemory, type Memory, type MemoryStore, type ViewedRecord } from './memory.ts';
export { facetValues } from '@yucca/contract';
export { addressMap, prefixed, type Address, type AddressMap, type PathFacet } from './address-map.ts';
export { escapeValue, parseAddress, printAddress, type AddressFacet } from './address.ts';
export {
  createClient,
  searchParams,
  type ClientOptions,
  type RequestEvent,
  type SearchClient,
  type TypedClient,
  type YuccaClient,
} from './client.ts';
export { cardFormatOf, withLabels } from './facet-labels.ts';
export { ProblemError } from './problem-error.ts';
export { count, counted, distance, figure, figureText, type FigureFormat } from './figures.ts';
export { recordLink } from './record-link.ts';
export { redirectOf } from './redirect.ts';
export { shownHit, type ShownHit, type ShownText } from './card.ts';
export { shownCell, type ShownCell } from './shown-cell.ts';
export { shownChoices, type ShownChoice } from './choices.ts';
export { excerpt, markedPieces, type MarkedPiece } from './marks.ts';
export { pageNumbers } from './pages.ts';
export { pagesUpTo, type Answered } from './pages-up-to.ts';
export { pointAt, pointOf, type Point } from './geo-points.ts';
export {
  BY_DISTANCE,
  chosenValues,
  EMPTY_QUERY,
  isRange,
  isStart,
  requestFor,
  sameQuery,
  withChoices,
  withoutChoices,
  withNear,
  withPage,
  withRange,
  withSort,
  withText,
  withToggled,
  type Choice,
  type Choices,
  type Near,
  type Query,
  type RangeChoice,
  type StandingRequest,
} from './query.ts';
export { SearchState, type Beside, type SearchSnapshot, type SearchStateOptions } from './search-state.ts';
export type { TextKey, Texts, TextsOf, TextValues } from './texts/texts.ts';
export { keepScroll } from './scroll.ts';
export { Store } from './store.ts';
export type { AnswerOf, Collections, RecordOf, ResultOf } from './typed.ts';
export { inOrder, shelvesBeside } from './shelf-requests.ts';
export { standingRequest } from './standing-request.ts';
