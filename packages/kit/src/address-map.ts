import { parseAddress, printAddress, type AddressFacet } from './address.ts';
import { printPath, readPath, type PathFacet } from './address-path.ts';
import { chosenValues, type Query } from './query.ts';

export type { PathFacet };

/** An address as a page has it. */
export interface Address {
  /** Begins with a slash. */
  pathname: string;
  /** Empty, or begins with a question mark. */
  search: string;
}

/** Both ways between an address and what a visitor has asked for. */
export interface AddressMap {
  /** What an address asks for; `kept`: its parameters that are none of the search. */
  read: (address: Address) => { query: Query; kept: string[] };
  /** `kept`: parameters of others, as `read` answered them. */
  write: (query: Query, at: Pick<Address, 'pathname'>, kept?: readonly string[]) => string;
}

/**
 * The map between addresses and queries for a page. All of a query stands in the query string (see `printAddress`);
 * with `path`, one facet of which a single value is chosen stands in the path instead. What does not fit there (several
 * values, an empty level) goes into the query string as ever, so nothing is lost.
 */
export function addressMap(facets: readonly AddressFacet[], path?: PathFacet): AddressMap {
  return {
    read({ pathname, search }) {
      const { query, kept } = parseAddress(search, facets);
      const value = path ? readPath(pathname, path) : null;
      if (!path || value === null || path.facet in query.select) return { query, kept };
      return { query: { ...query, select: { ...query.select, [path.facet]: [value] } }, kept };
    },
    write(query, { pathname }, kept = []) {
      const [value, ...more] = path ? chosenValues(query, path.facet) : [];
      const printed = path && value !== undefined && more.length === 0 ? printPath(value, path) : null;
      const rest = Object.entries(query.select).filter(([name]) => printed === null || name !== path?.facet);
      const text = printAddress({ ...query, select: Object.fromEntries(rest) }, kept);
      return (printed ?? path?.base ?? pathname) + (text === '' ? '' : `?${text}`);
    },
  };
}

/**
 * The same map with a name before each parameter: `left.q=fern`. For pages with several searches, each of which leaves
 * the parameters of the others alone.
 */
export function prefixed(map: AddressMap, prefix: string): AddressMap {
  const begin = `${encodeURIComponent(prefix)}.`;
  return {
    read({ pathname, search }) {
      const parts = search.replace(/^\?/, '').split('&');
      const own = parts.filter((part) => part.startsWith(begin));
      const { query, kept } = map.read({ pathname, search: own.map((part) => part.slice(begin.length)).join('&') });
      const others = parts.filter((part) => part !== '' && !part.startsWith(begin));
      return { query, kept: [...kept.map((part) => begin + part), ...others] };
    },
    write(query, at, kept = []) {
      const [path, ...texts] = map.write(query, at).split('?') as [string, ...string[]];
      // A question mark inside a value is as good as any letter.
      const own = texts.length === 0 ? [] : texts.join('?').split('&');
      const parts = [...own.map((part) => begin + part), ...kept];
      return path + (parts.length === 0 ? '' : `?${parts.join('&')}`);
    },
  };
}
