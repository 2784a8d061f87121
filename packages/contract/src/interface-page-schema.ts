import { cardSchema } from './collection.ts';
import { FACET_KIND_NAMES } from './facets.ts';
import {
  DENSITIES,
  FILTER_PLACES,
  interfaceSchema,
  LAYOUTS,
  pageFacetSchema,
  PAGINGS,
  type FacetControl,
  type Place,
} from './interface.ts';
import {
  numberFormatSchema,
  SECTION_SOURCES,
  sectionSchema,
  SHELF_SOURCES,
  startSchema,
  typingSchema,
  type Header,
  type ListRow,
  type NumberFormat,
  type Start,
  type Typing,
} from './interface-parts.ts';
import { messagesSchema } from './message.ts';
import { as, count, listOf, mapOf, object, oneOf, orNull, text, yesOrNo, type Of } from './schema-of.ts';

/** What is needed to show records of a collection in a part of a page. */
const recordsShown = {
  collection: text,
  card: cardSchema,
  /** The address of its own search page, where it has one; records are shown at `{at}/r/{percent-encoded key}`. */
  at: text,
  /** Where its records lead instead. */
  link: text,
  /** How the number of its cards is written. */
  format: as<NumberFormat>(numberFormatSchema),
};

/** A part of what the search field offers; without a collection for what is known of the visitor alone. */
const pageSectionSchema = object(
  {
    from: oneOf(...SECTION_SOURCES),
    label: text,
    size: count,
    ...recordsShown,
    letters: count,
    /** What its rows show beside their titles. */
    parts: listOf(oneOf('picture', 'detail', 'number')),
    rows: as<ListRow[]>(sectionSchema.properties.rows),
    address: text,
  },
  'collection',
  'card',
  'at',
  'link',
  'format',
  'letters',
  'parts',
  'rows',
  'address',
);

/** A row of records; `at` is empty where its collection has no page. */
const pageShelfSchema = object(
  {
    from: oneOf(...SHELF_SOURCES),
    label: text,
    size: count,
    ...recordsShown,
    sort: text,
    ids: listOf(text),
    /** What the records with these keys fulfil (CQL2-Text). */
    filter: text,
  },
  'link',
  'format',
  'sort',
  'ids',
  'filter',
);

export type PageShelf = Of<typeof pageShelfSchema>;

export type PageSection = Of<typeof pageSectionSchema>;

/** Everything a search page needs to know beforehand, for pages anywhere. Addresses begin with a slash. */
export const interfacePageSchema = object(
  {
    slug: text,
    title: text,
    collection: text,
    /** Records there are. */
    all: count,
    layout: oneOf(...LAYOUTS),
    card: cardSchema,
    facets: listOf(
      object(
        {
          name: text,
          kind: oneOf(...FACET_KIND_NAMES),
          label: text,
          control: as<FacetControl>(pageFacetSchema.properties.control),
          order: oneOf('count', 'label'),
          folded: yesOrNo,
          shown: count,
          colours: mapOf(text),
          /** How its numbers are written. */
          format: as<NumberFormat>(numberFormatSchema),
        },
        'format',
        'order',
        'control',
        'folded',
        'shown',
        'colours',
      ),
    ),
    sorts: listOf(object({ name: text, label: text })),
    pageSize: count,
    paging: oneOf(...PAGINGS),
    currency: orNull(text),
    thing: text,
    autocomplete: listOf(pageSectionSchema),
    places: as<Place[]>(interfaceSchema.properties.places),
    /** The field that holds positions, if there is one. */
    geo: orNull(text),
    /** The address of the page; records are shown at `{at}/r/{percent-encoded key}`. */
    at: text,
    columns: count,
    filters: oneOf(...FILTER_PLACES),
    density: oneOf(...DENSITIES),
    header: as<Header & Required<Pick<Header, 'name' | 'links'>>>({ type: 'object' }),
    typing: as<Typing>(typingSchema),
    /** How numbers are written, by their field. */
    formats: mapOf(as<NumberFormat>(numberFormatSchema)),
    /** Words on results that meet a condition; `ink` can be read on `colour`. */
    badges: listOf(object({ label: text, where: text, colour: text, ink: text }, 'colour', 'ink')),
    /** Where results lead: an address with fields in braces. */
    link: text,
    table: listOf(object({ field: text, label: text })),
    start: as<Start>(startSchema),
    shelves: listOf(pageShelfSchema),
    /** A style sheet of its own, held to the page. */
    css: text,
    /** CSS properties, most of them custom ones, and their values. */
    theme: mapOf(text),
    /** The language of the page (BCP 47), and what it may be had in. */
    locale: text,
    languages: listOf(text),
    dir: oneOf('ltr', 'rtl'),
    /** What it says in that language, by key; English for what is not there. */
    texts: messagesSchema,
  },
  'columns',
  'filters',
  'density',
  'header',
  'typing',
  'formats',
  'badges',
  'link',
  'table',
  'start',
  'shelves',
  'css',
  'theme',
  'locale',
  'languages',
  'dir',
  'texts',
);

export type InterfacePage = Of<typeof interfacePageSchema>;
