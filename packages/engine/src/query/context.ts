import type { SearchAnswer } from '@yucca/contract';

/** What the engine answers; the server adds the query's id and the times. */
export type EngineAnswer = Omit<SearchAnswer, 'queryId' | 'timing'>;

/**
 * What a query is told besides the request, on its way from a route to the engine, which has no clock and knows no
 * keys.
 */
export interface QueryContext {
  /** ISO date of the day, for placements with dates. */
  today?: string | undefined;
  /** A condition the asker cannot get round: records outside it do not exist for this search. */
  forcedFilter?: string | undefined;
  /** Asked between steps; true ends the search with a SearchCancelledError. */
  cancelled?: (() => boolean) | undefined;
}

/** A request that is well formed and asks for something that is not there. `pointer` says where. */
export class SearchRequestError extends Error {
  override name = 'SearchRequestError';
  readonly pointer: string;

  constructor(pointer: string, detail: string) {
    super(detail);
    this.pointer = pointer;
  }
}

/** Whoever asked has gone. */
export class SearchCancelledError extends Error {
  override name = 'SearchCancelledError';
}
