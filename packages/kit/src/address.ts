import { percentDecoded, type FacetKind } from '@yucca/contract';
import { EMPTY_QUERY, isRange, type Choice, type Near, type Query, type RangeChoice } from './query.ts';

/** Names of the query string with a meaning of their own. A facet called like one of them is written with a prefix. */
const RESERVED = new Set(['q', 'page', 'sort', 'near']);
const PREFIX = 'facet.';

/** A facet an address may choose from. Only those of numbers and dates read `30..120` as a range. */
export type AddressFacet = string | { name: string; kind: FacetKind };

/** `encodeURIComponent`, but with what is harmless in a query string left readable. */
function encode(text: string): string {
  const readable = encodeURIComponent(text.toWellFormed())
    .replace(/%20/g, '+')
    .replace(/%(2C|3A|2F|3F|40|24|3B)/g, (escaped) => decodeURIComponent(escaped));
  return readable;
}

function decode(text: string): string {
  const spaced = text.replace(/\+/g, ' ');
  return percentDecoded(spaced) ?? spaced;
}

/**
 * A facet value as it stands in a list parted by commas: its own commas and backslashes get a backslash before them.
 */
export function escapeValue(value: string): string {
  return value.replace(/[\\,]/g, '\\$&');
}

function splitValues(list: string): string[] {
  return (list.match(/(?:\\.|[^\\,])+/gsu) ?? []).map((value) => value.replace(/\\(.)/gsu, '$1'));
}

const printRange = ({ min = '', max = '' }: RangeChoice): string => `${min}..${max}`;

/** Reads `30..120`, `30..` or `..120`; null for anything else. */
function readRange(text: string, kind: 'numbers' | 'dates'): RangeChoice | null {
  const match = /^([^.]*(?:\.\d+)?)\.\.([^.]*(?:\.\d+)?)$/.exec(text);
  return match ? rangeOf(match[1]!, match[2]!, kind) : null;
}

function rangeOf(from: string, to: string, kind: 'numbers' | 'dates'): RangeChoice | null {
  const read = (end: string): number | string | undefined => {
    const trimmed = end.trim();
    if (trimmed === '') return undefined;
    if (kind === 'dates') return /^\d{4}(-\d{2}){0,2}$/.test(trimmed) ? trimmed : undefined;
    return Number.isFinite(Number(trimmed)) ? Number(trimmed) : undefined;
  };
  const [min, max] = [read(from), read(to)];
  if (min === undefined && max === undefined) return null;
  return { ...(min !== undefined && { min }), ...(max !== undefined && { max }) };
}

/** `47.3,-18.4`, and with an end to it `47.3,-18.4,5km`. */
function printNear({ lat, lng, withinM }: Near): string {
  return [lat, lng, ...(withinM === undefined ? [] : [`${withinM / 1000}km`])].join(',');
}

const NEAR = /^(-?\d{1,2}(?:\.\d{1,15})?),(-?\d{1,3}(?:\.\d{1,15})?)(?:,(\d{1,5}(?:\.\d{1,9})?)km)?$/;

/** Null for what is no point on the earth. */
function readNear(text: string): Near | null {
  const [, lat, lng, km] = NEAR.exec(text) ?? [];
  if (lat === undefined || Math.abs(Number(lat)) > 90 || Math.abs(Number(lng)) > 180) return null;
  return {
    lat: Number(lat),
    lng: Number(lng),
    ...(km !== undefined && { withinM: Math.round(Number(km) * 1000) }),
  };
}

/**
 * Writes a query as the query string of an address, without the question mark:
 * `q=agave&colour=red,white&height=30..120&sort=price-low&page=2`. Defaults are left out, facets stand in alphabetical
 * order, so that equal queries have equal addresses. Commas part values; a comma inside a value has a backslash before
 * it. `kept` are parameters of somebody else, written behind as they were.
 */
export function printAddress(query: Query, kept: readonly string[] = []): string {
  const parts: string[] = [];
  if (query.q !== '') parts.push(`q=${encode(query.q)}`);
  for (const name of Object.keys(query.select).sort()) {
    const choice = query.select[name]!;
    if (!isRange(choice) && choice.length === 0) continue;
    const safe = RESERVED.has(name) || name.startsWith(PREFIX) ? PREFIX + name : name;
    const text = isRange(choice) ? printRange(choice) : [...choice].sort().map(escapeValue).join(',');
    parts.push(`${encode(safe)}=${encode(text)}`);
  }
  if (query.near !== null) parts.push(`near=${encode(printNear(query.near))}`);
  if (query.sort !== null) parts.push(`sort=${encode(query.sort)}`);
  if (query.page > 1) parts.push(`page=${query.page}`);
  return [...parts, ...kept].join('&');
}

/**
 * Reads a query string. `facets` are the facets that may be chosen from; parameters with other names are answered in
 * `kept`, to be written back. A parameter may stand several times, as a form without JavaScript sends it; such a form
 * sends the ends of a range as `height.min` and `height.max`.
 */
export function parseAddress(search: string, facets: readonly AddressFacet[]): { query: Query; kept: string[] } {
  const kinds = new Map(
    facets.map((facet) => (typeof facet === 'string' ? [facet, 'values'] : [facet.name, facet.kind])),
  );
  const kept: string[] = [];
  const values = new Map<string, string[]>();
  const ranges = new Map<string, RangeChoice>();
  const ends = new Map<string, { min: string; max: string }>();
  let { q, sort, near, page } = EMPTY_QUERY;
  for (const part of search.replace(/^\?/, '').split('&')) {
    if (part === '') continue;
    const equals = part.indexOf('=');
    const name = decode(equals === -1 ? part : part.slice(0, equals));
    const text = decode(equals === -1 ? '' : part.slice(equals + 1));
    const facet = name.startsWith(PREFIX) ? name.slice(PREFIX.length) : RESERVED.has(name) ? null : name;
    const end = facet === null || kinds.has(facet) ? null : rangeEnd(facet, kinds);
    if (name === 'q') q = text;
    else if (name === 'page') page = readPage(text);
    else if (name === 'sort') sort = text === '' ? null : text;
    else if (name === 'near') near = readNear(text);
    else if (end !== null) {
      const known = ends.get(end.facet) ?? { min: '', max: '' };
      ends.set(end.facet, { ...known, [end.end]: text });
    } else if (facet !== null && kinds.has(facet)) {
      const kind = kinds.get(facet)!;
      const range = kind === 'numbers' || kind === 'dates' ? readRange(text, kind) : null;
      if (range) ranges.set(facet, range);
      else {
        const list = splitValues(text).filter((value) => kind !== 'numbers' || Number.isFinite(Number(value)));
        values.set(facet, [...new Set([...(values.get(facet) ?? []), ...list])]);
      }
    } else kept.push(part);
  }
  for (const [facet, { min, max }] of ends) {
    const range = rangeOf(min, max, kinds.get(facet) as 'numbers' | 'dates');
    if (range) ranges.set(facet, range);
  }
  const chosen: [string, Choice][] = [...values]
    .filter(([name, list]) => list.length > 0 && !ranges.has(name))
    .map(([name, list]) => [name, list.sort()]);
  return { query: { q, select: Object.fromEntries([...chosen, ...ranges]), sort, near, page }, kept };
}

function rangeEnd(name: string, kinds: ReadonlyMap<string, string>): { facet: string; end: 'min' | 'max' } | null {
  const end = name.endsWith('.min') ? 'min' : name.endsWith('.max') ? 'max' : null;
  if (end === null) return null;
  const facet = name.slice(0, -4);
  const kind = kinds.get(facet);
  return kind === 'numbers' || kind === 'dates' ? { facet, end } : null;
}

function readPage(text: string): number {
  const page = /^\d{1,5}$/.test(text) ? Number(text) : 1;
  return Math.max(1, page);
}
