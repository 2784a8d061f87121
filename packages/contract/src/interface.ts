import type { Card } from './collection.ts';
import { LIMITS } from './limits.ts';
import {
  badgeSchema,
  colourSchema,
  fieldPathSchema,
  headerSchema,
  labelSchema,
  numberFormatSchema,
  pictureSchema,
  sectionSchema,
  shelfSchema,
  startSchema,
  tableColumnSchema,
  typingSchema,
  type Badge,
  type Header,
  type NumberFormat,
  type Picture,
  type SectionDocument,
  type ShelfDocument,
  type Start,
  type TableColumn,
  type Typing,
} from './interface-parts.ts';
import { nameSchema } from './names.ts';
import { themeSchema, type Theme } from './theme/schema.ts';
import { count, moment, object, ref, text, yesOrNo, type Of } from './schema-of.ts';

export const LAYOUTS = ['cards', 'rows', 'places', 'table'] as const;
export const PAGINGS = ['pages', 'more', 'endless'] as const;
export const FILTER_PLACES = ['left', 'right', 'above', 'sheet'] as const;
export const DENSITIES = ['roomy', 'dense'] as const;
/** How a facet can be worked; each kind of facet has its own ones, and the first of them without being asked. */
export const FACET_CONTROLS = {
  values: ['list', 'buttons', 'swatches', 'select'],
  tree: ['tree'],
  numbers: ['range', 'steps'],
  dates: ['dates'],
} as const;
export type FacetControl = (typeof FACET_CONTROLS)[keyof typeof FACET_CONTROLS][number];
const CONTROLS: readonly FacetControl[] = Object.values(FACET_CONTROLS).flat();

const cardPart = { ...fieldPathSchema, type: ['string', 'null'] } as const;
/** As a tuning calls its facets. */
const facetName = { type: 'string', minLength: 1, maxLength: 128 } as const;

const placeSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['name', 'lat', 'lng'],
  properties: {
    name: labelSchema,
    lat: { type: 'number', minimum: -90, maximum: 90 },
    lng: { type: 'number', minimum: -180, maximum: 180 },
  },
} as const;

/** A facet as the page shows it; what is left out follows from the tuning and the data. */
export const pageFacetSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['name'],
  properties: {
    name: facetName,
    label: labelSchema,
    control: {
      enum: CONTROLS,
      description:
        'list, buttons, swatches or select for values; tree; range or steps (“4 and more”) for numbers; dates. Default: the first that fits.',
    },
    order: {
      enum: ['count', 'label'],
      default: 'count',
      description: 'values: count, as the tuning orders them; label, the ones that are offered by their names.',
    },
    folded: { type: 'boolean', default: false, description: 'Closed until somebody opens it.' },
    shown: { type: 'integer', minimum: 1, maximum: 100, default: 8, description: 'Values in sight before “more”.' },
    colours: {
      type: 'object',
      maxProperties: 200,
      additionalProperties: colourSchema,
      description: 'swatches: the colour of a value. A value that is a colour’s name in CSS needs none.',
    },
  },
} as const;

/** A page in one language. */
const languageSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['locale'],
  properties: {
    locale: {
      type: 'string',
      minLength: 2,
      maxLength: 35,
      description: 'The language, as a tag of BCP 47: de, pt-BR.',
    },
    texts: {
      type: 'object',
      maxProperties: 200,
      additionalProperties: { type: 'string', minLength: 1, maxLength: 500 },
      description:
        'What the page says, by key, in ICU MessageFormat. Default: the texts that come along, else English.',
    },
    labels: {
      type: 'object',
      maxProperties: 500,
      additionalProperties: { type: 'string', minLength: 1, maxLength: 200 },
      description:
        'What the page’s own names are called in this language: its title, filters, sorts, sections, links, fields.',
    },
  },
} as const;

/** How a search page is made up. What is left out follows from the collection. */
export const interfaceSchema = {
  $id: 'Interface',
  type: 'object',
  additionalProperties: false,
  required: ['collection'],
  properties: {
    title: { type: 'string', minLength: 1, maxLength: 200 },
    collection: { ...nameSchema, description: 'What the results come from.' },
    layout: {
      enum: LAYOUTS,
      default: 'cards',
      description: 'cards: pictures in columns; rows: text below text; places: rows beside a map; table: to compare.',
    },
    card: {
      type: 'object',
      additionalProperties: false,
      description: 'Which field a part of a result shows; null leaves the part out. What is not named is guessed.',
      properties: {
        title: cardPart,
        picture: cardPart,
        text: cardPart,
        number: cardPart,
        detail: cardPart,
        former: { ...cardPart, description: 'A number that was before: it is struck through where it is greater.' },
        second: { ...cardPart, description: 'A second line below the detail.' },
      },
    },
    facets: {
      type: 'array',
      maxItems: LIMITS.facetsPerQuery,
      items: { anyOf: [facetName, pageFacetSchema] },
      uniqueItems: true,
      description: 'Facets offered, in this order, by name or with how they are shown. Default: all of the tuning.',
    },
    columns: {
      type: 'integer',
      minimum: 2,
      maximum: 5,
      default: 3,
      description: 'cards: side by side on a wide page.',
    },
    filters: { enum: FILTER_PLACES, default: 'left', description: 'Where the filters stand; sheet: behind a button.' },
    density: { enum: DENSITIES, default: 'roomy' },
    sorts: {
      type: 'array',
      maxItems: 50,
      items: nameSchema,
      uniqueItems: true,
      description: 'Sorts offered beside the usual order, in this order. Default: all of the tuning.',
    },
    header: headerSchema,
    theme: themeSchema,
    css: {
      type: 'string',
      maxLength: 20_000,
      description:
        'A style sheet of the page’s own. Its rules hang below the page; `:scope` is the page. No @import, no address of another server, nothing fixed.',
    },
    pageSize: { type: 'integer', minimum: 1, maximum: 100, default: 24 },
    paging: {
      enum: PAGINGS,
      default: 'pages',
      description: 'How one gets further: numbered pages, a button for more, or by scrolling on.',
    },
    currency: {
      type: 'string',
      pattern: '^[A-Z]{3}$',
      description: 'ISO 4217: what the number of a card is counted in.',
    },
    thing: {
      enum: ['Product', 'Article', 'LocalBusiness', 'Thing'],
      default: 'Thing',
      description: 'The schema.org type of a record, for structured data.',
    },
    autocomplete: { type: 'array', maxItems: 10, items: sectionSchema },
    typing: typingSchema,
    picture: pictureSchema,
    textLines: { type: 'integer', minimum: 1, maximum: 8, default: 3, description: 'Lines of a card’s text at most.' },
    formats: {
      type: 'object',
      maxProperties: 50,
      additionalProperties: numberFormatSchema,
      description: 'How numbers are written, by their field: on results and in filters.',
    },
    badges: { type: 'array', maxItems: LIMITS.conditionsPerQuery, items: badgeSchema },
    link: {
      type: 'string',
      minLength: 1,
      maxLength: 2048,
      pattern: '^(https?://|/(?![/\\\\])|\\{)',
      description:
        'Where a result leads: an address with {id}, the key, or the {path} of a field in it. Default: a page of its own.',
    },
    table: { type: 'array', minItems: 1, maxItems: 12, items: tableColumnSchema, description: 'table: its columns.' },
    start: startSchema,
    shelves: { type: 'array', maxItems: 8, items: shelfSchema },
    places: {
      type: 'array',
      maxItems: 100,
      items: placeSchema,
      description: 'Starting points to measure distances from.',
    },
    languages: {
      type: 'array',
      maxItems: 20,
      items: languageSchema,
      description: 'What the page may be had in; the first is for who asks for none. Default: English.',
    },
  },
} as const;

/** A facet as a page shows it. */
export interface PageFacet {
  name: string;
  label?: string;
  control?: FacetControl;
  order?: 'count' | 'label';
  folded?: boolean;
  shown?: number;
  colours?: Record<string, string>;
}

/** A point on the earth with a name. */
export interface Place {
  name: string;
  lat: number;
  lng: number;
}

/** The design of a page. Written out, as the theme is: a test holds it and its schema together. */
export interface InterfaceDocument {
  collection: string;
  title?: string;
  layout?: (typeof LAYOUTS)[number];
  card?: Partial<Card>;
  facets?: (string | PageFacet)[];
  columns?: number;
  filters?: (typeof FILTER_PLACES)[number];
  density?: (typeof DENSITIES)[number];
  sorts?: string[];
  header?: Header;
  theme?: Theme;
  css?: string;
  pageSize?: number;
  paging?: (typeof PAGINGS)[number];
  currency?: string;
  thing?: 'Product' | 'Article' | 'LocalBusiness' | 'Thing';
  autocomplete?: SectionDocument[];
  typing?: Typing;
  picture?: Picture;
  textLines?: number;
  formats?: Record<string, NumberFormat>;
  badges?: Badge[];
  link?: string;
  table?: TableColumn[];
  start?: Start;
  shelves?: ShelfDocument[];
  places?: Place[];
  languages?: { locale: string; texts?: Record<string, string>; labels?: Record<string, string> }[];
}

export const newInterfaceSchema = {
  ...interfaceSchema,
  $id: 'NewInterface',
  required: ['slug', 'collection'],
  properties: { slug: { ...nameSchema, description: 'Its page is at /s/{slug}.' }, ...interfaceSchema.properties },
} as const;

export type NewInterface = InterfaceDocument & { slug: string };

export const storedInterfaceSchema = object({
  slug: text,
  /** As it is live, or the draft when that was asked for. */
  document: ref<InterfaceDocument>('Interface'),
  liveVersion: count,
  /** There is a draft. */
  draftChanged: yesOrNo,
  createdAt: text,
  changedAt: text,
});

export type Interface = Of<typeof storedInterfaceSchema>;

/** How long the address of a preview holds, in seconds. */
export const previewRequestSchema = {
  $id: 'PreviewRequest',
  type: 'object',
  additionalProperties: false,
  properties: { expiresInS: { type: 'integer', minimum: 1, maximum: 86_400, default: 3600 } },
} as const;

export const previewSchema = object({
  /** The path of the draft’s page, with what opens it. */
  address: text,
  expiresAt: moment,
});
