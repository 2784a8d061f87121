import { EMPTY_QUERY, type Query } from './query.ts';

/** Names of the query string with a meaning of their own. A facet called like one of them is written with a prefix. */
const RESERVED = new Set(['q', 'page']);
const PREFIX = 'facet.';

/** `encodeURIComponent`, but with what is harmless in a query string left readable. */
function encode(text: string): string {
  const readable = encodeURIComponent(text.toWellFormed())
    .replace(/%20/g, '+')
    .replace(/%(2C|3A|2F|3F|40|24|3B)/g, (escaped) => decodeURIComponent(escaped));
  return readable;
}

function decode(text: string): string {
  const spaced = text.replace(/\+/g, ' ');
  try {
    return decodeURIComponent(spaced);
  } catch {
    return spaced;
  }
}

/** A facet value as it stands in a list parted by commas: its own commas and backslashes get a backslash before them. */
export function escapeValue(value: string): string {
  return value.replace(/[\\,]/g, '\\$&');
}

function splitValues(list: string): string[] {
  return (list.match(/(?:\\.|[^\\,])+/gsu) ?? []).map((value) => value.replace(/\\(.)/gsu, '$1'));
}

/**
 * Writes a query as the query string of an address, without the question mark: `q=agave&colour=red,white&page=2`.
 * Defaults are left out, facets stand in alphabetical order, so that equal queries have equal addresses. Commas part
 * values; a comma inside a value has a backslash before it. `kept` are parameters of somebody else, written behind as they were.
 */
export function printAddress(query: Query, kept: readonly string[] = []): string {
  const parts: string[] = [];
  if (query.q !== '') parts.push(`q=${encode(query.q)}`);
  for (const name of Object.keys(query.select).sort()) {
    const values = query.select[name]!;
    if (values.length === 0) continue;
    const safe = RESERVED.has(name) || name.startsWith(PREFIX) ? PREFIX + name : name;
    parts.push(`${encode(safe)}=${encode([...values].sort().map(escapeValue).join(','))}`);
  }
  if (query.page > 1) parts.push(`page=${query.page}`);
  return [...parts, ...kept].join('&');
}

/**
 * Reads a query string. `facets` are the names that may be chosen from; parameters with other names are answered in
 * `kept`, to be written back. A parameter may stand several times, as a form without JavaScript sends it.
 */
export function parseAddress(search: string, facets: readonly string[]): { query: Query; kept: string[] } {
  const kept: string[] = [];
  const select = new Map<string, string[]>();
  let { q, page } = EMPTY_QUERY;
  for (const part of search.replace(/^\?/, '').split('&')) {
    if (part === '') continue;
    const equals = part.indexOf('=');
    const name = decode(equals === -1 ? part : part.slice(0, equals));
    const text = equals === -1 ? '' : part.slice(equals + 1);
    const facet = name.startsWith(PREFIX) ? name.slice(PREFIX.length) : RESERVED.has(name) ? null : name;
    if (name === 'q') q = decode(text);
    else if (name === 'page') page = readPage(text);
    else if (facet !== null && facets.includes(facet)) {
      const values = splitValues(decode(text));
      select.set(facet, [...new Set([...(select.get(facet) ?? []), ...values])]);
    } else kept.push(part);
  }
  const chosen = [...select]
    .filter(([, values]) => values.length > 0)
    .map(([name, values]) => [name, values.sort()] as const);
  return { query: { q, select: Object.fromEntries(chosen), page }, kept };
}

function readPage(text: string): number {
  const page = /^\d{1,5}$/.test(text) ? Number(text) : 1;
  return Math.max(1, page);
}
