import type { SearchRequest } from '@yucca/contract';
import type { YuccaClient } from './client.ts';

/** What belongs to everything that is asked of a collection, whatever the visitor does. */
export interface Standing {
  /** CQL2-Text: only records that fulfil it are found, counted and offered, as `stock > 0`. */
  filter?: string | undefined;
  /** Words that placements may ask for, as `member`. */
  tags?: readonly string[] | undefined;
  /** Fields that records come with besides those that a page asks for, for cards of your own. */
  fields?: readonly string[] | undefined;
  /** Where the visitor is, or where it shall be brought, until they say another place. */
  near?: SearchRequest['near'] | undefined;
}

/**
 * A client that asks for less: what it is given for a collection belongs to each search of it, whoever asks, be it the
 * results of a page, its filters or its autocomplete. It spares the visitor what is of no use to them. It keeps nothing
 * secret: whoever may search can leave it away. A key that has a filter cannot be got round.
 *
 * @param standing by the name of the collection
 */
export function withStanding(client: YuccaClient, standing: Readonly<Record<string, Standing>>): YuccaClient {
  const of = (collection: string): Standing => (Object.hasOwn(standing, collection) ? standing[collection]! : {});
  const both = (collection: string, filter: string | undefined): string | undefined => {
    const always = of(collection).filter;
    return always && filter ? `(${always}) AND (${filter})` : always || filter;
  };
  const asked = <R extends SearchRequest>(collection: string, { filter, tags = [], fields, ...request }: R): R => {
    const own = of(collection);
    const whole = both(collection, filter);
    const all = [...(own.tags ?? []), ...tags];
    return {
      ...(own.near && { near: own.near }),
      ...request,
      // Without a list of fields a search has all of them.
      ...(fields && { fields: [...new Set([...fields, ...(own.fields ?? [])])] }),
      ...(whole && { filter: whole }),
      ...(all.length > 0 && { tags: all }),
    } as unknown as R;
  };
  return {
    ...client,
    search: (collection, request, signal) => client.search(collection, asked(collection, request), signal),
    multiSearch: (queries, signal) =>
      client.multiSearch(
        queries.map((query) => asked(query.collection, query)),
        signal,
      ),
    facetValues(collection, facet, q, within, signal) {
      const filter = both(collection, within.filter);
      const { near } = of(collection);
      const whole = { ...(near && { near }), ...within, ...(filter && { filter }) };
      return client.facetValues(collection, facet, q, whole, signal);
    },
    suggest: (collection, q, size, signal, filter) =>
      client.suggest(collection, q, size, signal, both(collection, filter)),
  };
}
