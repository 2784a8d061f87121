import type { Card } from './collection.ts';
import {
  FACET_CONTROLS,
  type InterfaceDocument,
  type InterfacePage,
  type PageFacet,
  type PageSection,
} from './interface.ts';
import { themeStyle } from './theme/style.ts';

/** What a page is made of besides its design: what its collection has, and the others it may show. */
export interface PageParts {
  slug: string;
  /** Of the collection. */
  title: string;
  /** Records there are. */
  records: number;
  /** Facets and sorts of the live tuning. */
  facets: readonly Pick<InterfacePage['facets'][number], 'name' | 'kind' | 'label'>[];
  sorts: readonly InterfacePage['sorts'][number][];
  geo: string | null;
  /** What a result shows when nobody has said. */
  card: Card;
  /** The other collections by name: how their records are shown, and the slug of their page. */
  others: Readonly<Record<string, { card: Card; slug: string }>>;
}

/** A page in one of its languages. */
export interface PageLanguage extends Pick<Required<InterfacePage>, 'locale' | 'languages' | 'dir' | 'texts'> {
  /** What a name of the page is called in it. */
  label: (name: string) => string;
}

type SectionDocument = NonNullable<InterfaceDocument['autocomplete']>[number];

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
  const wanted = document.facets?.map(asPageFacet) ?? facets.map(({ name }): PageFacet => ({ name }));
  return {
    slug,
    title: label(title),
    collection: document.collection,
    all: parts.records,
    layout: document.layout ?? 'cards',
    card: { ...parts.card, ...document.card },
    facets: wanted.flatMap((facet) =>
      facets.filter(({ name }) => name === facet.name).map((known) => called(shownFacet(known, facet))),
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
    header: { name: label(document.header?.name ?? title), links: (document.header?.links ?? []).map(called) },
    theme: themeStyle(document.theme ?? {}),
    ...language,
  };
}

/** A facet with what the page says of it; a control that no longer fits its kind gives way to the usual one. */
function shownFacet(
  { name, kind, label }: PageParts['facets'][number],
  facet: PageFacet,
): InterfacePage['facets'][number] {
  const { control, folded, shown, colours } = facet;
  return {
    ...{ name, kind, label: facet.label ?? label },
    ...(control !== undefined && fitsControl(kind, control) && { control }),
    ...(folded && { folded }),
    ...(shown !== undefined && { shown }),
    ...(colours && { colours }),
  };
}

/** One part of the autocomplete. One whose collection is gone is left out. */
function shownSection(
  { from, label, size = ROWS, collection }: SectionDocument,
  document: InterfaceDocument,
  { slug, card, others }: PageParts,
): PageSection[] {
  if (from === 'past' || from === 'viewed') return [{ from, label, size }];
  if (collection === undefined || collection === document.collection) {
    const own = { ...card, ...document.card };
    return [{ from, label, size, collection: document.collection, card: own, at: addressOf(slug) }];
  }
  const other = Object.hasOwn(others, collection) ? others[collection] : undefined;
  return other ? [{ from, label, size, collection, card: other.card, at: addressOf(other.slug) }] : [];
}

/** The sections of a page; neighbours that show records are one run, because they are asked in one request. */
export function sectionRuns(sections: readonly PageSection[]): PageSection[][] {
  const runs: PageSection[][] = [];
  for (const section of sections) {
    const run = runs.at(-1);
    if (section.from === 'records' && run?.[0]?.from === 'records') run.push(section);
    else runs.push([section]);
  }
  return runs;
}
