import type { InterfaceDocument } from './interface.ts';
import { asPageFacet } from './interface-page.ts';

/** One difference between two designs of a page, for a person. */
export interface InterfaceChange {
  /** The property of the document it lies in. */
  part: keyof InterfaceDocument;
  sentence: string;
}

type Documents = Required<InterfaceDocument>;

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
const quote = (text: string): string => `“${text}”`;

const LABELS: Record<keyof InterfaceDocument, string> = {
  title: 'Title',
  collection: 'Collection',
  layout: 'Results shown as',
  card: 'Result',
  facets: 'Filters',
  columns: 'Columns',
  filters: 'Place of the filters',
  density: 'Density',
  sorts: 'Sorts',
  header: 'Header',
  theme: 'Theme',
  css: 'Own CSS',
  pageSize: 'Results a page',
  paging: 'Paging',
  currency: 'Currency',
  thing: 'Kind of thing',
  autocomplete: 'Autocomplete',
  places: 'Places to measure from',
  languages: 'Languages',
  typing: 'Search field',
  picture: 'Pictures',
  textLines: 'Lines of text',
  formats: 'Number formats',
  badges: 'Badges',
  link: 'Link of a result',
  table: 'Columns of the table',
  start: 'Start',
  shelves: 'Shelves',
};

/** A value for a person; nothing said is the usual one. */
function said(value: unknown): string {
  if (value === undefined) return 'as usual';
  if (value === null) return 'nothing';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return typeof value === 'object' ? JSON.stringify(value) : String(value);
}

/** Properties named one by one; of more, it is told how many. */
const NAMED = 6;

/** What differs between two objects, property by property; objects inside are entered. */
function inside(prefix: string, before: unknown, after: unknown): string[] {
  const [old, now] = [asObject(before), asObject(after)];
  const names = [...new Set([...Object.keys(old), ...Object.keys(now)])].filter((name) => !same(old[name], now[name]));
  if (names.length > NAMED) return [`${prefix}: ${names.length} properties changed`];
  return names.flatMap((name) => {
    const label = `${prefix} ${name}`;
    const goesIn = isPlainObject(old[name]) || isPlainObject(now[name]);
    return goesIn ? inside(label, old[name], now[name]) : [`${label}: ${said(old[name])} → ${said(now[name])}`];
  });
}

const isPlainObject = (value: unknown): boolean => typeof value === 'object' && value !== null && !Array.isArray(value);
const asObject = (value: unknown): Record<string, unknown> =>
  isPlainObject(value) ? (value as Record<string, unknown>) : {};

/** What came, went, changed and moved in a list of things with names. */
function list<T>(
  what: string,
  before: readonly T[],
  after: readonly T[],
  nameOf: (item: T) => string,
  propertiesOf: (item: T) => object = () => ({}),
): string[] {
  const old = new Map(before.map((item) => [nameOf(item), item]));
  const now = new Map(after.map((item) => [nameOf(item), item]));
  const gone = [...old.keys()].filter((name) => !now.has(name));
  const added = [...now.keys()].filter((name) => !old.has(name));
  const kept = [...now.keys()].filter((name) => old.has(name));
  const changed = kept.flatMap((name) =>
    inside(`${what} ${quote(name)}`, propertiesOf(old.get(name)!), propertiesOf(now.get(name)!)),
  );
  const moved = !same(
    kept,
    [...old.keys()].filter((name) => now.has(name)),
  );
  return [
    ...(added.length > 0 ? [`${what} added: ${added.map(quote).join(', ')}`] : []),
    ...(gone.length > 0 ? [`${what} removed: ${gone.map(quote).join(', ')}`] : []),
    ...changed,
    ...(moved ? [`${what}: new order, ${[...now.keys()].map(quote).join(', ')}`] : []),
  ];
}

/** How long a text is. */
function lines(text: string | undefined): string {
  const count = (text ?? '').split('\n').filter((line) => line.trim() !== '').length;
  return count === 1 ? '1 line' : `${count} lines`;
}

/** How a part tells its difference; one that is not here is told as a whole. */
const PARTS: { [P in keyof Documents]?: (before: Documents[P], after: Documents[P]) => string[] } = {
  css: (before, after) => [`Own CSS: ${lines(before)} → ${lines(after)}`],
  card: (before, after) => inside('Result', before, after),
  theme: (before, after) => inside('Theme', before, after),
  header: (before, after) => inside('Header', before, after),
  facets: (before, after) =>
    list(
      'Filter',
      before.map(asPageFacet),
      after.map(asPageFacet),
      ({ name }) => name,
      (facet) => facet,
    ),
  typing: (before, after) => inside('Search field', before, after),
  picture: (before, after) => inside('Pictures', before, after),
  formats: (before, after) => inside('Number format', before, after),
  start: (before, after) => inside('Start', before, after),
  badges: (before, after) =>
    list(
      'Badge',
      before,
      after,
      ({ label }) => label,
      (badge) => badge,
    ),
  shelves: (before, after) =>
    list(
      'Shelf',
      before,
      after,
      ({ label }) => label,
      (shelf) => shelf,
    ),
  table: (before, after) =>
    list(
      'Column',
      before,
      after,
      ({ field }) => field,
      (column) => column,
    ),
  sorts: (before, after) => list('Sort', before, after, (name) => name),
  autocomplete: (before, after) =>
    list(
      'Section',
      before,
      after,
      ({ label }) => label,
      (section) => section,
    ),
  places: (before, after) =>
    list(
      'Place',
      before,
      after,
      ({ name }) => name,
      (place) => place,
    ),
  languages: (before, after) =>
    list(
      'Language',
      before,
      after,
      ({ locale }) => locale,
      ({ texts = {}, labels = {} }) => ({ texts, labels }),
    ),
};

/** What differs between two designs of a page, in sentences. */
export function interfaceChanges(before: InterfaceDocument, after: InterfaceDocument): InterfaceChange[] {
  return (Object.keys(LABELS) as (keyof InterfaceDocument)[]).flatMap((part) => {
    const [old, now] = [before[part], after[part]];
    if (same(old, now)) return [];
    const compare = PARTS[part] as ((a: unknown, b: unknown) => string[]) | undefined;
    const whole = `${LABELS[part]}: ${listed(old)} → ${listed(now)}`;
    // Where a list begins or ends to be said at all, it is said as a whole: what was usual is not written down.
    const bothSaid = (old !== undefined && now !== undefined) || !Array.isArray(old ?? now);
    const sentences = bothSaid ? (compare?.(old, now) ?? [whole]) : [whole];
    return (sentences.length === 0 ? [whole] : sentences).map((sentence) => ({ part, sentence }));
  });
}

/** A list by the names of what is in it. */
function listed(value: unknown): string {
  if (!Array.isArray(value)) return said(value);
  const names = value.map((item: unknown) =>
    typeof item === 'string' ? item : String(asObject(item).label ?? asObject(item).name ?? asObject(item).locale),
  );
  return names.length === 0 ? 'none' : names.map(quote).join(', ');
}
