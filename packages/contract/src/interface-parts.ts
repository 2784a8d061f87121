/** What a page may have besides its filters and results: each part of a design with its schema and its type. */
import { LIMITS } from './limits.ts';
import { nameSchema } from './names.ts';
import { object, text } from './schema-of.ts';

export const labelSchema = { type: 'string', minLength: 1, maxLength: 80 } as const;
export const fieldPathSchema = { type: 'string', minLength: 1, maxLength: 512 } as const;
export const colourSchema = { type: 'string', pattern: '^#[0-9a-fA-F]{6}$' } as const;
/** A web address, or a path of this server. */
export const hrefSchema = {
  type: 'string',
  maxLength: 2048,
  pattern: '^(https?://|/(?![/\\\\]))',
  description: 'A web address, or a path of this server.',
} as const;

const linkSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['label', 'href'],
  properties: { label: labelSchema, href: hrefSchema },
} as const;

export const PICTURE_RATIOS = ['4:3', '1:1', '3:4', '2:3', '16:9'] as const;
export const PICTURE_FITS = ['cover', 'contain'] as const;

/** How pictures of results are cut. */
export const pictureSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    ratio: { enum: PICTURE_RATIOS, default: '4:3', description: 'Width to height.' },
    fit: { enum: PICTURE_FITS, default: 'cover', description: 'cover: cut to fill; contain: whole, with room beside.' },
  },
} as const;

export interface Picture {
  ratio?: (typeof PICTURE_RATIOS)[number];
  fit?: (typeof PICTURE_FITS)[number];
}

/** How the numbers of a field are written. */
export const numberFormatSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    currency: { type: 'string', pattern: '^[A-Z]{3}$', description: 'ISO 4217.' },
    unit: { type: 'string', minLength: 1, maxLength: 16, description: 'Written behind the number: cm, kg, °C.' },
    decimals: { type: 'integer', minimum: 0, maximum: 6, description: 'Digits behind the point, always so many.' },
  },
} as const;

export interface NumberFormat {
  currency?: string;
  unit?: string;
  decimals?: number;
}

/** A word on the results that meet a condition. */
export const badgeSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['label', 'where'],
  properties: {
    label: { ...labelSchema, maxLength: 40 },
    where: { type: 'string', minLength: 1, maxLength: 1024, description: 'A CQL2-Text condition.' },
    colour: { ...colourSchema, description: 'What it stands on. Default: the accent of the theme.' },
  },
} as const;

export interface Badge {
  label: string;
  where: string;
  colour?: string;
}

/** A column of a table of results. */
export const tableColumnSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['field'],
  properties: { field: fieldPathSchema, label: { ...labelSchema, description: 'Default: the name of the field.' } },
} as const;

export interface TableColumn {
  field: string;
  label?: string;
}

export const SECTION_SOURCES = ['past', 'viewed', 'popular', 'values', 'records', 'list', 'address'] as const;
const ROW_PARTS = ['picture', 'detail', 'number'] as const;

const listRowSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['text'],
  properties: {
    text: { ...labelSchema, maxLength: 200 },
    detail: { ...labelSchema, maxLength: 200 },
    href: { ...hrefSchema, description: 'Where it leads. Default: the text is searched for.' },
  },
} as const;

export interface ListRow {
  text: string;
  detail?: string;
  href?: string;
}

const letters = { type: 'integer', minimum: 0, maximum: 20 } as const;

/** One part of what the search field offers. */
export const sectionSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['from', 'label'],
  properties: {
    from: {
      enum: SECTION_SOURCES,
      description:
        'past: what this visitor asked before; viewed: records they looked at; popular: what stands first before a letter is typed; values: facet values and completions; records: results; list: rows of one’s own; address: rows that another server answers.',
    },
    label: labelSchema,
    collection: {
      ...nameSchema,
      description: 'popular, values, records: of which collection, when not the page’s own.',
    },
    size: { type: 'integer', minimum: 1, maximum: 20, default: 4, description: 'Rows at most.' },
    letters: { ...letters, description: 'Letters from which it is there. Default: 0 for past and list, else 1.' },
    parts: {
      type: 'array',
      items: { enum: ROW_PARTS },
      uniqueItems: true,
      description: 'popular, records: what a row shows beside its title. Default: picture and detail.',
    },
    rows: { type: 'array', maxItems: 50, items: listRowSchema, description: 'list: its rows.' },
    address: {
      type: 'string',
      maxLength: 2048,
      pattern: '^https?://',
      description:
        'address: where the visitor’s browser asks, with {q} where the text goes. Answers a JSON list of {text, detail?, picture?, href?}.',
    },
  },
} as const;

export interface SectionDocument {
  from: (typeof SECTION_SOURCES)[number];
  label: string;
  collection?: string;
  size?: number;
  letters?: number;
  parts?: (typeof ROW_PARTS)[number][];
  rows?: ListRow[];
  address?: string;
}

/** How the search field behaves. */
export const typingSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    letters: { ...letters, default: 0, description: 'Letters before which no server is asked for offers.' },
    delayMs: { type: 'integer', minimum: 0, maximum: 2000, default: 0, description: 'Waits so long after a letter.' },
    enter: { enum: ['results', 'first'], default: 'results', description: 'What Enter does while nothing is chosen.' },
    preview: { type: 'boolean', default: true, description: 'Shows more of the row that is pointed at.' },
    voice: { type: 'boolean', default: false, description: 'A button to speak instead, where a browser can listen.' },
  },
} as const;

export interface Typing {
  letters?: number;
  delayMs?: number;
  enter?: 'results' | 'first';
  preview?: boolean;
  voice?: boolean;
}

export const SHELF_SOURCES = ['popular', 'sorted', 'chosen', 'viewed', 'found'] as const;

/** A row of records of its own, beside the results. */
export const shelfSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['from', 'label'],
  properties: {
    from: {
      enum: SHELF_SOURCES,
      description:
        'Before a letter is typed: popular, what stands first; sorted, by a sort; chosen, records by their keys; viewed, what this visitor looked at. While something is asked for: found, what another collection has for it.',
    },
    label: labelSchema,
    collection: { ...nameSchema, description: 'When not the page’s own.' },
    sort: { ...nameSchema, description: 'sorted: by which sort of the tuning.' },
    ids: {
      type: 'array',
      maxItems: 12,
      uniqueItems: true,
      items: { type: 'string', minLength: 1, maxLength: LIMITS.keyBytes },
      description: 'chosen: the keys of the records, in order.',
    },
    size: { type: 'integer', minimum: 1, maximum: 12, default: 4, description: 'Records at most.' },
  },
} as const;

export interface ShelfDocument {
  from: (typeof SHELF_SOURCES)[number];
  label: string;
  collection?: string;
  sort?: string;
  ids?: string[];
  size?: number;
}

/** What stands on a page before a letter is typed. */
export const startSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    text: { type: 'string', minLength: 1, maxLength: 2000, description: 'Plain text; an empty line parts paragraphs.' },
    results: { type: 'boolean', default: true, description: 'Whether all records stand there too.' },
  },
} as const;

export interface Start {
  text?: string;
  results?: boolean;
}

/** The file of a logo: what it is called by its content. */
const LOGO_FILE = /^[0-9a-f]{40}\.(png|jpg|svg)$/;

/** A logo that was sent: the name of its file, for `header.logo`, and where it is. */
export const logoSchema = object({ file: text, address: text });

export const headerSchema = {
  type: 'object',
  additionalProperties: false,
  description: 'What stands above a hosted page.',
  properties: {
    name: { ...labelSchema, description: 'Default: the title.' },
    links: { type: 'array', maxItems: 12, items: linkSchema },
    logo: {
      type: 'string',
      pattern: LOGO_FILE.source,
      description: 'The file of a picture that was uploaded; it stands before the name, or in its place.',
    },
    logoAlone: { type: 'boolean', default: false, description: 'The name is in the logo: it is read out, not shown.' },
  },
} as const;

export interface Header {
  name?: string;
  links?: { label: string; href: string }[];
  logo?: string;
  logoAlone?: boolean;
}
