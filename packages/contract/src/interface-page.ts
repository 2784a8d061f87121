import type { Card } from './collection.ts';
import { FACET_CONTROLS, type InterfaceDocument, type PageFacet } from './interface.ts';
import type { InterfacePage, PageSection, PageShelf } from './interface-page-schema.ts';
import type { NumberFormat, SectionDocument, ShelfDocument } from './interface-parts.ts';
import { readableName } from './tuning.ts';
import { inkOn, themeStyle } from './theme/style.ts';

/** What a page is made of besides its design: what its collection has, and the others it may show. */
export interface PageParts {
  slug: string;
  /** Of the collection. */
  title: string;
  /** Records there are. */
  records: number;
  /** The field that tells records apart. */
  key: string;
  /** Facets and sorts of the live tuning. */
  facets: readonly (Pick<InterfacePage['facets'][number], 'name' | 'kind' | 'label'> & { field: string })[];
  sorts: readonly InterfacePage['sorts'][number][];
  geo: string | null;
  /** What a result shows when nobody has said. */
  card: Card;
  /** The other collections by name: how their records are shown, and the slug of their page. */
  others: Readonly<Record<string, OtherPage>>;
}

/** How records of another collection are shown: as on its own page. */
export interface OtherPage {
  card: Card;
  slug: string;
  key: string;
  link?: string;
  /** How the number of its cards is written. */
  format?: NumberFormat;
}

/** A page in one of its languages. */
export interface PageLanguage extends Pick<Required<InterfacePage>, 'locale' | 'languages' | 'dir' | 'texts'> {
  /** What a name of the page is called in it. */
  label: (name: string) => string;
}

const ENGLISH_PAGE: PageLanguage = { locale: 'en', languages: ['en'], dir: 'ltr', texts: {}, label: (name) => name };

const ROWS = 4;
export const USUAL_PAGE_SIZE = 24;
export const USUAL_COLUMNS = 3;
/** Values of a facet in sight before "more". */
export const USUAL_SHOWN = 8;

const addressOf = (slug: string): string => `/s/${slug}`;

/** A facet of a design, by name or with how it is shown. */
export const asPageFacet = (facet: string | PageFacet): PageFacet =>
  typeof facet === 'string' ? { name: facet } : facet;

/** Whether a control can work facets of a kind. */
export const fitsControl = (kind: keyof typeof FACET_CONTROLS, control: string): boolean =>
  FACET_CONTROLS[kind].some((one) => one === control);

/** What a search field offers when nobody has said. */
export const usualSections = (title: string): SectionDocument[] => [
  { from: 'past', label: 'Asked before' },
  { from: 'viewed', label: 'Looked at before' },
  { from: 'values', label: 'Go on with' },
  { from: 'records', label: title.slice(0, 80), size: 5 },
  { from: 'popular', label: 'Popular now', size: 5 },
];

/**
 * What the page of a design is made of. What the design leaves out follows from the collection; what it names and is
 * not there any more is left out, and comes back with it.
 */
export function interfacePage(
  document: InterfaceDocument,
  parts: PageParts,
  { label, ...language }: PageLanguage = ENGLISH_PAGE,
): InterfacePage {
  const { slug, facets, sorts } = parts;
  const title = document.title ?? parts.title;
  const called = <T extends { label: string }>(one: T): T => ({ ...one, label: label(one.label) });
  const formats = numberFormats(document, parts.card);
  const wanted = document.facets?.map(asPageFacet) ?? facets.map(({ name }): PageFacet => ({ name }));
  return {
    slug,
    title: label(title),
    collection: document.collection,
    all: parts.records,
    layout: document.layout ?? 'cards',
    card: { ...parts.card, ...document.card },
    facets: wanted.flatMap((facet) =>
      facets.filter(({ name }) => name === facet.name).map((known) => called(shownFacet(known, facet, formats))),
    ),
    sorts: (document.sorts?.flatMap((name) => sorts.filter((sort) => sort.name === name)) ?? [...sorts]).map(called),
    pageSize: document.pageSize ?? USUAL_PAGE_SIZE,
    paging: document.paging ?? 'pages',
    currency: document.currency ?? null,
    thing: document.thing ?? 'Thing',
    autocomplete: (document.autocomplete ?? usualSections(title)).flatMap((section) =>
      shownSection(section, document, parts).map(called),
    ),
    places: document.places ?? [],
    geo: parts.geo,
    at: addressOf(slug),
    columns: document.columns ?? USUAL_COLUMNS,
    filters: document.filters ?? 'left',
    density: document.density ?? 'roomy',
    header: {
      ...document.header,
      name: label(document.header?.name ?? title),
      links: (document.header?.links ?? []).map(called),
    },
    theme: { ...themeStyle(document.theme ?? {}), ...cardStyle(document) },
    ...(Object.keys(formats).length > 0 && { formats }),
    ...(document.typing && { typing: document.typing }),
    ...(document.badges && {
      badges: document.badges.map((badge) => ({
        ...called(badge),
        ...(badge.colour !== undefined && { ink: inkOn(badge.colour) }),
      })),
    }),
    ...(document.link !== undefined && { link: document.link }),
    ...(document.layout === 'table' && { table: tableColumns(document, parts).map(called) }),
    ...(document.start && {
      start: { ...document.start, ...(document.start.text !== undefined && { text: label(document.start.text) }) },
    }),
    ...(document.shelves && {
      shelves: document.shelves.flatMap((shelf) => shownShelf(shelf, document, parts)).map(called),
    }),
    ...language,
  };
}

/** How numbers are written, by their field; the currency of a design is that of the numbers of its card. */
function numberFormats(
  { formats = {}, currency, card }: InterfaceDocument,
  guessed: Card,
): Record<string, NumberFormat> {
  const { number, former } = { ...guessed, ...card };
  const fields = [number, former].filter((field) => typeof field === 'string');
  if (currency === undefined || fields.length === 0) return formats;
  return { ...Object.fromEntries(fields.map((field) => [field, { currency }])), ...formats };
}

/** How pictures and texts of cards are cut, as CSS properties. */
function cardStyle({ picture: { ratio, fit } = {}, textLines }: InterfaceDocument): Record<string, string> {
  return {
    ...(ratio !== undefined && { '--yucca-ratio': ratio.replace(':', ' / ') }),
    ...(fit !== undefined && { '--yucca-fit': fit }),
    ...(textLines !== undefined && { '--yucca-lines': String(textLines) }),
  };
}

/** The columns of a table: of the design, else what a card would show. */
function tableColumns({ table, card }: InterfaceDocument, parts: PageParts): { field: string; label: string }[] {
  const shown = { ...parts.card, ...card };
  const usual = [shown.title, shown.detail, shown.second, shown.number].filter((field) => typeof field === 'string');
  return (table ?? [...new Set(usual)].map((field) => ({ field, label: undefined }))).map(({ field, label }) => ({
    field,
    label: label ?? readableName(field),
  }));
}

/** A facet with what the page says of it; a control that no longer fits its kind gives way to the usual one. */
function shownFacet(
  { name, kind, label, field }: PageParts['facets'][number],
  facet: PageFacet,
  formats: Readonly<Record<string, NumberFormat>>,
): InterfacePage['facets'][number] {
  const format = fieldFormat(formats, field);
  const { control, order, folded, shown, colours } = facet;
  return {
    ...{ name, kind, label: facet.label ?? label },
    ...(control !== undefined && fitsControl(kind, control) && { control }),
    ...(order === 'label' && { order }),
    ...(folded && { folded }),
    ...(shown !== undefined && { shown }),
    ...(colours && { colours }),
    ...(format && kind === 'numbers' && { format }),
  };
}

/** A collection as the records of a part of the page are shown; null when it is gone. */
function shownCollection(
  collection: string | undefined,
  document: InterfaceDocument,
  { slug, card, others }: PageParts,
): Pick<PageShelf, 'collection' | 'card' | 'at' | 'link' | 'format'> | null {
  const isOwn = collection === undefined || collection === document.collection;
  const other = !isOwn && Object.hasOwn(others, collection) ? others[collection] : undefined;
  if (!isOwn && !other) return null;
  const own: Card = { ...card, ...document.card };
  const formats = numberFormats(document, card);
  const format = other ? other.format : fieldFormat(formats, own.number);
  const link = other ? other.link : document.link;
  return {
    collection: other ? collection! : document.collection,
    card: other?.card ?? own,
    at: addressOf(other?.slug ?? slug),
    ...(link !== undefined && { link }),
    ...(format && { format }),
  };
}

/** How a field’s numbers are written, where that is said. */
export const fieldFormat = (
  formats: Readonly<Record<string, NumberFormat>> = {},
  field: string | null,
): NumberFormat | undefined => (field !== null && Object.hasOwn(formats, field) ? formats[field] : undefined);

/** How the number of a card is written, by a design. */
export const cardFormat = (document: InterfaceDocument, card: Card): NumberFormat | undefined =>
  fieldFormat(numberFormats(document, card), { ...card, ...document.card }.number);

/** One part of the autocomplete. One whose collection is gone is left out. */
function shownSection(section: SectionDocument, document: InterfaceDocument, parts: PageParts): PageSection[] {
  const { from, label, size = ROWS, collection, letters, rows, address, parts: rowParts } = section;
  const shown = { from, label, size, ...(letters !== undefined && { letters }) };
  if (from === 'past' || from === 'viewed') return [shown];
  if (from === 'list') return [{ ...shown, rows: rows ?? [] }];
  if (from === 'address') return address === undefined ? [] : [{ ...shown, address }];
  const of = shownCollection(collection, document, parts);
  if (of === null) return [];
  return [{ ...shown, ...of, ...(rowParts && { parts: rowParts }) }];
}

/** The field that tells the records of a collection apart. */
const keyOf = (collection: string, document: InterfaceDocument, { key, others }: PageParts): string =>
  collection === document.collection ? key : others[collection]!.key;

/** What the records with these keys fulfil: a key that looks like a number may be one in the data. */
function keysFilter(field: string, ids: readonly string[]): string {
  const name = `"${field.replaceAll('"', '""')}"`;
  const texts = `${name} IN (${ids.map((id) => `'${id.replaceAll("'", "''")}'`).join(', ')})`;
  const numbers = ids.filter((id) => /^-?\d{1,15}(\.\d+)?$/.test(id));
  return numbers.length === 0 ? texts : `${texts} OR ${name} IN (${numbers.join(', ')})`;
}

/** A row of records. One whose collection or sort is gone is left out. */
function shownShelf(
  { from, label, size = ROWS, collection, sort, ids }: ShelfDocument,
  document: InterfaceDocument,
  parts: PageParts,
): PageShelf[] {
  const of = shownCollection(collection, document, parts);
  if (of === null || (from === 'chosen' && !ids?.length) || (from === 'sorted' && sort === undefined)) return [];
  return [
    {
      from,
      label,
      size,
      ...of,
      ...(sort !== undefined && { sort }),
      ...(ids && { ids, filter: keysFilter(keyOf(of.collection, document, parts), ids) }),
    },
  ];
}

/** The sections of a page; neighbours that show records are one run, because they are asked in one request. */
export function sectionRuns(sections: readonly PageSection[]): PageSection[][] {
  const runs: PageSection[][] = [];
  for (const section of sections) {
    const run = runs.at(-1);
    if (section.from === 'records' && run?.[0]?.from === 'records' && run[0].letters === section.letters)
      run.push(section);
    else runs.push([section]);
  }
  return runs;
}
