import { sql } from 'drizzle-orm';
import { blob, index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';

const now = sql`(strftime('%Y-%m-%dT%H:%M:%fZ', 'now'))`;

export const collections = sqliteTable('collections', {
  id: integer('id').primaryKey({ autoIncrement: true }),
  /** Null once the collection is deleted and only its records still have to be cleared away. */
  name: text('name').unique(),
  title: text('title').notNull(),
  keyField: text('key_field').notNull(),
  records: integer('records').notNull().default(0),
  generation: integer('generation').notNull().default(0),
  liveVersion: integer('live_version').notNull().default(1),
  /** JSON: which fields make a result card, guessed from the data. */
  card: text('card'),
  /** JSON list: how values are read when a record is written. */
  fieldRules: text('field_rules').notNull().default('[]'),
  createdAt: text('created_at').notNull().default(now),
  changedAt: text('changed_at'),
});

/**
 * Each row is one version of a record: replacing a record gives it a new `versionId` and leaves a tombstone for the old
 * one.
 */
export const records = sqliteTable(
  'records',
  {
    versionId: integer('version_id').primaryKey({ autoIncrement: true }),
    collectionId: integer('collection_id').notNull(),
    /** The `versionId` of the first version: record order does not change when a record does. */
    order: integer('ord').notNull(),
    key: text('key').notNull(),
    json: text('json').notNull(),
  },
  (table) => [
    uniqueIndex('records_by_key').on(table.collectionId, table.key),
    index('records_by_order').on(table.collectionId, table.order),
    index('records_by_version').on(table.collectionId, table.versionId),
  ],
);

/** Versions that are gone, for the segments that still hold them. */
export const tombstones = sqliteTable(
  'tombstones',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    collectionId: integer('collection_id').notNull(),
    versionId: integer('version_id').notNull(),
  },
  (table) => [index('tombstones_by_collection').on(table.collectionId, table.id)],
);

/** The segment files on disk: each covers the versions `(fromVersion, toVersion]` that were alive when it was built. */
export const segments = sqliteTable('segments', {
  id: text('id').primaryKey(),
  collectionId: integer('collection_id').notNull(),
  fromVersion: integer('from_version').notNull(),
  toVersion: integer('to_version').notNull(),
  /** Tombstones after this one concern the segment. */
  tombstoneId: integer('tombstone_id').notNull(),
  bytes: integer('bytes').notNull(),
  /** JSON: which fields are indexed. */
  plan: text('plan').notNull(),
  /** JSON list: ids of the column segments beside it, oldest first. */
  added: text('added').notNull().default('[]'),
});

/** A document's versions; version 0 is its draft. Whoever owns the document says which version is live. */
const versionsOf = (table: string, owner: string) =>
  sqliteTable(
    table,
    {
      ownerId: integer(owner).notNull(),
      version: integer('version').notNull(),
      document: text('document').notNull(),
      note: text('note'),
      savedAt: text('saved_at').notNull().default(now),
    },
    (columns) => [primaryKey({ columns: [columns.ownerId, columns.version] })],
  );

export const tunings = versionsOf('tunings', 'collection_id');

export const interfaceVersions = versionsOf('interface_versions', 'interface_id');

export type VersionTable = ReturnType<typeof versionsOf>;

export const keys = sqliteTable('keys', {
  id: text('id').primaryKey(),
  label: text('label').notNull(),
  /** What the key is found by: a hash of the SHA-256 of its secret, in hexadecimal. */
  secretHash: text('secret_hash').notNull().unique(),
  /** The SHA-256 itself, which verifies tokens, under the data folder's secret; null in a row from before. */
  sealed: text('sealed'),
  /** JSON list of rights. */
  rights: text('rights').notNull(),
  /** JSON lists; null = no limit. */
  collections: text('collections'),
  origins: text('origins'),
  perMinute: integer('per_minute'),
  expiresAt: text('expires_at'),
  /** CQL2-Text: other records do not exist for the key. */
  filter: text('filter'),
  createdAt: text('created_at').notNull().default(now),
  lastUsedAt: text('last_used_at'),
});

/** Which records should come up for a query. */
export const judgements = sqliteTable(
  'judgements',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    collectionId: integer('collection_id').notNull(),
    query: text('query').notNull(),
    recordKey: text('record_key').notNull(),
    /** 0 wrong to 3 best. */
    grade: integer('grade').notNull(),
  },
  (table) => [uniqueIndex('judgements_by_query').on(table.collectionId, table.query, table.recordKey)],
);

/** Designed search pages. */
export const interfaces = sqliteTable('interfaces', {
  id: integer('id').primaryKey({ autoIncrement: true }),
  slug: text('slug').notNull().unique(),
  liveVersion: integer('live_version').notNull().default(1),
  /** JSON: how the page is made up, the live version. */
  document: text('document').notNull(),
  createdAt: text('created_at').notNull().default(now),
  changedAt: text('changed_at').notNull().default(now),
});

/** Files of pages: logos that were uploaded, by what they hold. Versions of a page name them. */
export const interfaceFiles = sqliteTable(
  'interface_files',
  {
    interfaceId: integer('interface_id')
      .notNull()
      .references(() => interfaces.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    bytes: blob('bytes', { mode: 'buffer' }).notNull(),
    addedAt: text('added_at').notNull().default(now),
  },
  (table) => [primaryKey({ columns: [table.interfaceId, table.name] })],
);

/** What visitors did with answers, as their pages told it. */
export const visitorEvents = sqliteTable(
  'visitor_events',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    type: text('type').notNull(),
    queryId: text('query_id').notNull(),
    recordId: text('record_id').notNull(),
    position: integer('position'),
    session: text('session'),
    at: text('at').notNull(),
    /** As the page names it: repeats count once. */
    eventId: text('event_id').unique(),
  },
  (table) => [index('events_by_query').on(table.queryId), index('events_by_time').on(table.at)],
);

/** Queries that led visitors to records, by the words they are made of: completions for others. */
export const pastQueries = sqliteTable(
  'past_queries',
  {
    collectionId: integer('collection_id').notNull(),
    /** The forced filter it was asked under: nobody else gets to see it. '' without one. */
    scope: text('scope').notNull(),
    folded: text('folded').notNull(),
    /** As it was asked first. */
    text: text('text').notNull(),
    visits: integer('visits').notNull(),
    lastSession: text('last_session'),
    lastAt: text('last_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.collectionId, table.scope, table.folded] })],
);

/** Who is signed in to the studio, when it is open to other machines. Only a hash of the cookie is kept. */
export const sessions = sqliteTable('sessions', {
  hash: text('hash').primaryKey(),
  expiresAt: text('expires_at').notNull(),
});

/**
 * Values that a field rule changed in records that were here already, so that they come back with the rule's undoing.
 */
export const originals = sqliteTable(
  'originals',
  {
    collectionId: integer('collection_id').notNull(),
    field: text('field').notNull(),
    key: text('key').notNull(),
    /** JSON of the record's whole top-level field before and after. */
    before: text('before').notNull(),
    after: text('after').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.collectionId, table.field, table.key] }),
    index('originals_by_record').on(table.collectionId, table.key),
  ],
);

export const settings = sqliteTable('settings', {
  name: text('name').primaryKey(),
  value: text('value').notNull(),
});

/** Who changed what: every request that changed something, by whom, and from which version. */
export const audit = sqliteTable(
  'audit',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    at: text('at').notNull(),
    /** The label of the key, or `studio`. */
    actor: text('actor').notNull(),
    keyId: text('key_id'),
    /** The address the request came from, when it is known. */
    remote: text('remote'),
    method: text('method').notNull(),
    /** The path, without `/api/v1`. */
    path: text('path').notNull(),
    collection: text('collection'),
    /** JSON: what belongs to the change, such as the version before and after. */
    detail: text('detail'),
  },
  (table) => [index('audit_by_collection').on(table.collection, table.id)],
);

/** Finished tasks, and the ones that were running: those are found unfinished after a crash. */
export const tasks = sqliteTable(
  'tasks',
  {
    id: text('id').primaryKey(),
    collection: text('collection').notNull(),
    state: text('state').notNull(),
    /** JSON: the whole task. */
    task: text('task').notNull(),
    startedAt: text('started_at').notNull(),
  },
  (table) => [index('tasks_by_collection').on(table.collection, table.startedAt)],
);
