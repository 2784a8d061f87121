import type { SearchRequest } from '@yucca/contract';

/** What a visitor has asked for: the part of a search page's state that belongs into its address. */
export interface Query {
  /** As typed. */
  q: string;
  /** Chosen values by facet name, in the order they were chosen. Facets with nothing chosen are absent. */
  select: Readonly<Record<string, readonly string[]>>;
  /** From 1. */
  page: number;
}

export const EMPTY_QUERY: Query = { q: '', select: {}, page: 1 };

/** Another text; the page starts over. */
export function withText(query: Query, q: string): Query {
  return q === query.q ? query : { ...query, q, page: 1 };
}

/** Chooses a facet value, or takes the choice back; the page starts over. */
export function withToggled(query: Query, facet: string, value: string): Query {
  const chosen = Object.hasOwn(query.select, facet) ? query.select[facet]! : [];
  const next = chosen.includes(value) ? chosen.filter((other) => other !== value) : [...chosen, value];
  const rest = Object.entries(query.select).filter(([name]) => name !== facet);
  return { ...query, select: Object.fromEntries(next.length > 0 ? [...rest, [facet, next]] : rest), page: 1 };
}

export function withPage(query: Query, page: number): Query {
  return { ...query, page };
}

/** All choices taken back; the text stays. */
export function withoutChoices(query: Query): Query {
  return { ...query, select: {}, page: 1 };
}

/** The request that answers a query. `more` holds what the page always asks for: facets, size, fields. */
export function requestFor(query: Query, more: Omit<SearchRequest, 'q' | 'select' | 'page'> = {}): SearchRequest {
  const select = Object.fromEntries(Object.entries(query.select).map(([name, values]) => [name, [...values]]));
  return { ...more, q: query.q, page: query.page, ...(Object.keys(select).length > 0 ? { select } : {}) };
}
