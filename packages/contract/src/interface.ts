import type { FromSchema } from 'json-schema-to-ts';
import type { Card } from './collection.ts';
import type { FacetAnswer } from './facets.ts';
import { LIMITS } from './limits.ts';
import { nameSchema } from './names.ts';

const label = { type: 'string', minLength: 1, maxLength: 80 } as const;
const fieldPath = { type: 'string', minLength: 1, maxLength: 512 } as const;
const cardPart = { ...fieldPath, type: ['string', 'null'] } as const;
const offered = { type: 'integer', minimum: 1, maximum: 20 } as const;

/** One part of what the search field offers. */
const sectionSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['from', 'label'],
  properties: {
    from: {
      enum: ['past', 'viewed', 'popular', 'values', 'records'],
      description:
        'past: what this visitor asked before; viewed: records they looked at; popular: what stands first before a letter is typed; values: facet values and completions; records: results.',
    },
    label,
    collection: {
      ...nameSchema,
      description: 'popular, values, records: of which collection, when not the page’s own.',
    },
    size: { ...offered, default: 4, description: 'Rows at most.' },
  },
} as const;

const placeSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['name', 'lat', 'lng'],
  properties: {
    name: label,
    lat: { type: 'number', minimum: -90, maximum: 90 },
    lng: { type: 'number', minimum: -180, maximum: 180 },
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
      enum: ['cards', 'rows', 'places'],
      default: 'cards',
      description: 'cards: pictures in columns; rows: text below text; places: rows beside a map.',
    },
    card: {
      type: 'object',
      additionalProperties: false,
      description: 'Which field a part of a result shows; null leaves the part out. What is not named is guessed.',
      properties: { title: cardPart, picture: cardPart, text: cardPart, number: cardPart, detail: cardPart },
    },
    facets: {
      type: 'array',
      maxItems: LIMITS.facetsPerQuery,
      items: nameSchema,
      uniqueItems: true,
      description: 'Facets offered, in this order. Default: all of the tuning.',
    },
    pageSize: { type: 'integer', minimum: 1, maximum: 100, default: 24 },
    paging: {
      enum: ['pages', 'more', 'endless'],
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
    places: {
      type: 'array',
      maxItems: 100,
      items: placeSchema,
      description: 'Starting points to measure distances from.',
    },
  },
} as const;

export type InterfaceDocument = FromSchema<typeof interfaceSchema, { keepDefaultedPropertiesOptional: true }>;
export type Place = NonNullable<InterfaceDocument['places']>[number];

export const newInterfaceSchema = {
  ...interfaceSchema,
  $id: 'NewInterface',
  required: ['slug', 'collection'],
  properties: { slug: { ...nameSchema, description: 'Its page is at /s/{slug}.' }, ...interfaceSchema.properties },
} as const;

export type NewInterface = InterfaceDocument & { slug: string };

export interface Interface {
  slug: string;
  document: InterfaceDocument;
  createdAt: string;
  changedAt: string;
}

/** A part of what the search field offers, with what is needed to show its rows. */
export interface PageSection {
  from: 'past' | 'viewed' | 'popular' | 'values' | 'records';
  label: string;
  size: number;
  /** Absent for what is known of the visitor alone. */
  collection?: string;
  card?: Card;
  /** The address of its own search page; records are shown at `{at}/r/{percent-encoded key}`. */
  at?: string;
}

/** Everything a search page needs to know beforehand, for pages anywhere. Addresses begin with a slash. */
export interface InterfacePage {
  slug: string;
  title: string;
  collection: string;
  /** Records there are. */
  all: number;
  layout: 'cards' | 'rows' | 'places';
  card: Card;
  facets: { name: string; kind: FacetAnswer['kind']; label: string }[];
  sorts: { name: string; label: string }[];
  pageSize: number;
  paging: 'pages' | 'more' | 'endless';
  currency: string | null;
  thing: string;
  autocomplete: PageSection[];
  places: Place[];
  /** The field that holds positions, if there is one. */
  geo: string | null;
  /** The address of the page; records are shown at `{at}/r/{percent-encoded key}`. */
  at: string;
}
