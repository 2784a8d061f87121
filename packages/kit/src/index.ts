export { escapeValue, parseAddress, printAddress } from './address.ts';
export { createClient, ProblemError, searchParams, type ClientOptions, type SearchClient } from './client.ts';
export { excerpt, markedPieces, type MarkedPiece } from './marks.ts';
export { pageNumbers } from './pages.ts';
export { EMPTY_QUERY, requestFor, withoutChoices, withPage, withText, withToggled, type Query } from './query.ts';
export { SearchState, type SearchSnapshot, type SearchStateOptions } from './search-state.ts';
