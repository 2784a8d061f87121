import type { InterfacePage, PageShelf } from '@yucca/contract';
import { fieldsOf } from './autocomplete/page-sources.ts';
import { isStart } from './query.ts';
import type { Beside } from './search-state.ts';

/**
 * What the shelves of a page ask for, in the same request as its results: `found` while something is typed, the others
 * before. What a visitor looked at is known without asking.
 */
export function shelvesBeside({ shelves = [] }: Pick<InterfacePage, 'shelves'>): Beside[] {
  return shelves.map(({ from, collection, card, link, size, sort, filter }): Beside => ({
    collection,
    request: { size, facets: [], fields: fieldsOf(card, link), record: false },
    ask: (query) => {
      if (from === 'found') return query.q.trim() === '' ? null : { q: query.q };
      if (from === 'viewed' || !isStart(query)) return null;
      return { q: '', ...(sort !== undefined && { sort }), ...(filter !== undefined && { filter }) };
    },
  }));
}

/** The records of a shelf in its own order: those that were chosen, as they were chosen. */
export function inOrder<R extends { id: string }>({ ids }: Pick<PageShelf, 'ids'>, results: readonly R[]): R[] {
  if (!ids) return [...results];
  const places = new Map(ids.map((id, i) => [id, i]));
  return [...results].sort((a, b) => (places.get(a.id) ?? ids.length) - (places.get(b.id) ?? ids.length));
}
