/** Where the records of a feed come from. A new kind of source is a schema here and a reader in the studio. */
import type { FromSchema } from 'json-schema-to-ts';

/** What an event does to a record. */
export const FEED_ACTIONS = ['upsert', 'patch', 'delete'] as const;
export type FeedAction = (typeof FEED_ACTIONS)[number];

const pointer = (description: string) =>
  ({ type: 'string', maxLength: 512, pattern: '^(/.*)?$', description }) as const;
const field = (description: string) => ({ type: 'string', minLength: 1, maxLength: 512, description }) as const;
/** Its value is told once, when it is set; later it reads as null, and null keeps what was set. */
const secret = (description: string) => ({ type: ['string', 'null'], maxLength: 4_096, description }) as const;

/** How often a source is read. Left out: once, and when somebody asks. */
const schedule = {
  everyS: {
    type: 'number',
    minimum: 1,
    maximum: 31_536_000,
    description: 'Seconds from the start of one run to the next.',
  },
  cron: { type: 'string', minLength: 1, maxLength: 200, description: 'A cron expression instead, in UTC.' },
} as const;

/** How a host outside is asked. */
const outside = {
  timeoutS: { type: 'number', minimum: 1, maximum: 600, default: 30 },
  allowPrivate: {
    type: 'array',
    maxItems: 20,
    items: { type: 'string', minLength: 1, maxLength: 300 },
    description: 'Hosts of a private network that may be asked, with their port, such as 127.0.0.1:4391.',
  },
} as const;

/** How records are read out of a text. */
const reading = {
  key: field('The field that tells records apart, where it is not called as in the collection.'),
  at: pointer('JSON: where the records are in a document.'),
} as const;

const webhookSource = {
  type: 'object',
  additionalProperties: false,
  required: ['kind'],
  properties: {
    kind: { const: 'webhook' },
    types: {
      type: 'object',
      maxProperties: 100,
      additionalProperties: { enum: FEED_ACTIONS },
      description: 'What events of a type do, where their type does not end in .upserted, .patched or .deleted.',
    },
    plain: {
      type: 'object',
      additionalProperties: false,
      required: ['key'],
      description: 'For senders of plain JSON: where in it the parts of an event are.',
      properties: {
        record: pointer('The record; left out: the whole of what is sent.'),
        key: pointer('The key of the record.'),
        type: pointer('What happened; left out: every one is a whole record.'),
        id: pointer('A name of the event, so that it counts once; left out: the id of the message.'),
        order: pointer('A whole number that grows, or a time; left out: the order of arrival.'),
      },
    },
  },
} as const;

const pollSource = {
  type: 'object',
  additionalProperties: false,
  required: ['kind', 'url'],
  properties: {
    kind: { const: 'poll' },
    url: { type: 'string', minLength: 1, maxLength: 4_096 },
    format: {
      enum: ['auto', 'json', 'json-lines', 'csv', 'xml', 'sitemap'],
      default: 'auto',
      description: 'auto: by what is answered. xml: Atom, RSS and any list of elements. sitemap: the pages it names.',
    },
    ...reading,
    headers: {
      type: 'object',
      maxProperties: 20,
      propertyNames: { pattern: "^[A-Za-z0-9!#$%&'*+.^_`|~-]{1,100}$" },
      additionalProperties: secret('Kept sealed.'),
      description: 'Sent with each request, such as an Authorization.',
    },
    cursor: {
      type: 'object',
      additionalProperties: false,
      required: ['parameter', 'field'],
      description: 'For addresses that answer only what changed: the largest value of a field is sent the next time.',
      properties: {
        parameter: { type: 'string', minLength: 1, maxLength: 100, description: 'Of the address.' },
        field: field('Of the records: a time or a number that grows.'),
      },
    },
    ...schedule,
    ...outside,
  },
} as const;

const folderSource = {
  type: 'object',
  additionalProperties: false,
  required: ['kind', 'path'],
  properties: {
    kind: { const: 'folder' },
    path: { type: 'string', maxLength: 1_024, description: 'Below the folder that files may be loaded from (YUCCA_LOAD_DIR).' }, // prettier-ignore
    ...reading,
    watch: { type: 'boolean', default: true, description: 'Read again as soon as a file changes.' },
    ...schedule,
  },
} as const;

/** Which rows of a database. */
const rows = {
  table: { type: 'string', minLength: 1, maxLength: 300, description: 'A table or a view.' },
  query: {
    type: 'string',
    minLength: 1,
    maxLength: 20_000,
    description: 'A query of one’s own instead; it only reads.',
  },
  key: field('The column that tells rows apart.'),
  changed: field('A column that grows with every change: only rows that changed are read. Deleted rows are found by a whole run.'), // prettier-ignore
} as const;

const sqliteSource = {
  type: 'object',
  additionalProperties: false,
  required: ['kind', 'file', 'key'],
  properties: {
    kind: { const: 'sqlite' },
    file: { type: 'string', minLength: 1, maxLength: 1_024, description: 'Below the folder that files may be loaded from (YUCCA_LOAD_DIR).' }, // prettier-ignore
    ...rows,
    log: {
      type: 'boolean',
      default: false,
      description: 'Follow the change log that triggers write (GET …/triggers tells their text).',
    },
    ...schedule,
  },
} as const;

const postgresSource = {
  type: 'object',
  additionalProperties: false,
  required: ['kind', 'host', 'database', 'user', 'key'],
  properties: {
    kind: { const: 'postgres' },
    host: { type: 'string', minLength: 1, maxLength: 300 },
    port: { type: 'integer', minimum: 1, maximum: 65_535, default: 5432 },
    database: { type: 'string', minLength: 1, maxLength: 100 },
    user: { type: 'string', minLength: 1, maxLength: 100 },
    password: secret('Kept sealed.'),
    ssl: { type: 'boolean', default: false },
    ...rows,
    follow: {
      type: 'boolean',
      default: false,
      description: 'Follow every change of a table by logical decoding (wal_level = logical).',
    },
    ...schedule,
    ...outside,
  },
} as const;

export const feedSourceSchema = {
  type: 'object',
  required: ['kind'],
  discriminator: { propertyName: 'kind' },
  oneOf: [webhookSource, pollSource, folderSource, sqliteSource, postgresSource],
} as const;

type Read<S> = FromSchema<S & { readonly type: 'object' }, { keepDefaultedPropertiesOptional: true }>;
export type WebhookSource = Read<typeof webhookSource>;
export type PollSource = Read<typeof pollSource>;
export type FolderSource = Read<typeof folderSource>;
export type SqliteSource = Read<typeof sqliteSource>;
export type PostgresSource = Read<typeof postgresSource>;
export type FeedSource = WebhookSource | PollSource | FolderSource | SqliteSource | PostgresSource;
/** A source that is asked, and does not tell of itself. */
export type PulledSource = Exclude<FeedSource, WebhookSource>;

/** What a field of a record is made of. */
export const feedMappingSchema = {
  type: 'array',
  maxItems: 200,
  items: {
    type: 'object',
    additionalProperties: false,
    required: ['field'],
    properties: {
      field: { type: 'string', minLength: 1, maxLength: 512, description: 'Of the record that is stored. “*” keeps every field that no step has taken.' }, // prettier-ignore
      from: { type: 'array', minItems: 1, maxItems: 20, items: pointer('Into what came; several: the first that is there, or all with `join`.') }, // prettier-ignore
      value: { description: 'The same for every record.' },
      join: { type: 'string', maxLength: 20, description: 'Put between the values, or the items of a list.' },
      split: { type: 'string', minLength: 1, maxLength: 20, description: 'A text becomes a list at this.' },
      as: { enum: ['number', 'boolean', 'date', 'text'], description: 'What its values are read as.' },
      lookup: {
        type: 'object',
        additionalProperties: false,
        required: ['collection', 'take'],
        description: 'The value is the key of a record of another collection.',
        properties: {
          collection: { type: 'string', minLength: 1, maxLength: 100 },
          take: pointer('What is taken of that record; empty: all of it.'),
        },
      },
    },
  },
} as const;
export type FeedMapping = FromSchema<typeof feedMappingSchema>;
export type FeedMappingStep = FeedMapping[number];
