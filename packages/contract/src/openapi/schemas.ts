import { collectionPatchSchema, newCollectionSchema } from '../collection.ts';
import { eventsSchema } from '../events.ts';
import { facetAnswerSchema, treeNodeSchema } from '../facets.ts';
import { fieldRulePreviewSchema, fieldRulesSchema } from '../field-rules.ts';
import { interfaceSchema, newInterfaceSchema } from '../interface.ts';
import { judgementChangesSchema, judgementRunSchema, judgementsSchema } from '../judgements.ts';
import { newKeySchema, RIGHTS } from '../key.ts';
import { multiSearchSchema, searchAnswerSchema, searchRequestSchema } from '../search.ts';
import { settingsSchema } from '../settings.ts';
import { trialSchema } from '../trial.ts';
import { tuningSchema } from '../tuning-schema.ts';
import { whereaboutsRequestSchema } from '../whereabouts.ts';

/** A JSON Schema (2020-12) as a plain document. */
export type Schema = { [keyword: string]: unknown };

const text = { type: 'string' } as const;
const count = { type: 'integer', minimum: 0 } as const;
const moment = { type: 'string', format: 'date-time' } as const;
const orNull = (schema: Schema): Schema => ({ anyOf: [schema, { type: 'null' }] });
const ref = (name: string): Schema => ({ $ref: name });
const listOf = (items: Schema): Schema => ({ type: 'array', items });

/** An object whose properties are all there, but for those named after. */
function object(properties: { [name: string]: Schema }, ...optional: string[]): Schema {
  return { type: 'object', required: Object.keys(properties).filter((name) => !optional.includes(name)), properties };
}

const page = (items: Schema): Schema =>
  object({ items: listOf(items), total: count, page: count, pages: count, size: count });

const ranges = listOf({ type: 'array', items: count, minItems: 2, maxItems: 2 });
const facetValue = object({ value: text, label: text, count, selected: { type: 'boolean' }, ranges });
const types = { type: 'object', additionalProperties: count };
const reasonOrNull = orNull(object({ reason: text }));

const fieldProfile = object({
  path: text,
  types,
  records: count,
  missing: count,
  lists: count,
  most: count,
  distinct: count,
  distinctExact: { type: 'boolean' },
  numbers: orNull(object({ min: { type: 'number' }, max: { type: 'number' }, mean: { type: 'number' } })),
  length: orNull(object({ min: count, max: count, mean: { type: 'number' }, words: { type: 'number' } })),
  dates: orNull(object({ from: text, to: text })),
  samples: listOf({ type: ['string', 'number', 'boolean'] }),
  top: listOf(object({ value: text, count })),
  spread: orNull(
    object({
      from: { type: 'number' },
      width: { type: 'number' },
      counts: listOf(count),
      unit: { enum: ['number', 'day'] },
    }),
  ),
  warnings: listOf(ref('FieldWarning')),
  proposal: object({
    search: orNull(object({ weight: { type: 'number' }, reason: text })),
    facet: orNull(
      object(
        { kind: { enum: ['values', 'numbers', 'tree', 'dates'] }, reason: text, separator: text, labelField: text },
        'separator',
        'labelField',
      ),
    ),
    sort: reasonOrNull,
    signal: orNull(object({ shape: { enum: ['linear', 'log', 'recency'] }, reason: text })),
    show: object({ shown: { type: 'boolean' }, reason: text }),
    snippet: reasonOrNull,
    html: { type: 'boolean' },
    geo: reasonOrNull,
  }),
});

const key = object({
  id: text,
  label: text,
  rights: listOf({ enum: RIGHTS }),
  collections: orNull(listOf(text)),
  origins: orNull(listOf(text)),
  perMinute: { type: ['integer', 'null'] },
  expiresAt: orNull(moment),
  filter: { type: ['string', 'null'] },
  createdAt: moment,
  lastUsedAt: orNull(moment),
  forPages: { type: 'boolean' },
});

const task = object(
  {
    id: text,
    kind: { enum: ['load', 'repair', 'index', 'backup', 'check'] },
    collection: text,
    state: { enum: ['queued', 'running', 'done', 'failed', 'cancelled'] },
    total: count,
    done: count,
    failed: count,
    repeated: { ...count, description: 'Rows whose key an earlier row of the same load had.' },
    changed: { ...count, description: 'repair: records that were changed.' },
    failedKept: { type: 'boolean', description: 'The failed lines can be fetched at /tasks/{id}/failed.' },
    errors: listOf(
      object({ line: count, id: text, pointer: text, detail: text, text }, 'line', 'id', 'pointer', 'text'),
    ),
    step: text,
    startedAt: moment,
    backup: { ...text, description: 'backup: the name of its folder.' },
    endedAt: orNull(moment),
  },
  'changed',
  'failedKept',
  'backup',
);

const problemsList = listOf(text);
const auditEntry = object({
  id: count,
  at: moment,
  actor: { ...text, description: 'The label of the key, or “studio”.' },
  keyId: orNull(text),
  remote: { ...orNull(text), description: 'The address the request came from, when it is known.' },
  method: text,
  path: text,
  collection: orNull(text),
  detail: orNull({ type: 'object', additionalProperties: { type: ['string', 'number', 'null'] } }),
});

const readiness = object({
  status: { enum: ['ready', 'not-ready'] },
  collections: listOf(
    object(
      {
        name: text,
        state: { enum: ['ready', 'opening', 'partial'] },
        progress: { type: 'number', minimum: 0, maximum: 1 },
        reason: text,
      },
      'reason',
    ),
  ),
  storage: object({ state: { enum: ['ok', 'refusing'] }, reason: orNull(text), since: orNull(moment) }),
  integrity: object({
    state: { enum: ['unchecked', 'checking', 'ok', 'damaged'] },
    checkedAt: orNull(moment),
    problems: problemsList,
  }),
  threads: listOf(object({ name: text, alive: count, replaced: count })),
});

const card = object({
  title: orNull(text),
  picture: orNull(text),
  text: orNull(text),
  number: orNull(text),
  detail: orNull(text),
});
const names = listOf(object({ name: text, label: text }));

const interfacePage = object({
  slug: text,
  title: text,
  collection: text,
  all: count,
  layout: interfaceSchema.properties.layout,
  card,
  facets: listOf(object({ name: text, kind: { enum: ['values', 'numbers', 'tree', 'dates'] }, label: text })),
  sorts: names,
  pageSize: count,
  paging: interfaceSchema.properties.paging,
  currency: orNull(text),
  thing: text,
  autocomplete: listOf(
    object(
      {
        from: interfaceSchema.properties.autocomplete.items.properties.from,
        label: text,
        size: count,
        collection: text,
        card,
        at: text,
      },
      'collection',
      'card',
      'at',
    ),
  ),
  places: interfaceSchema.properties.places,
  geo: orNull(text),
  at: text,
});

const share = { type: 'number', minimum: 0, maximum: 1 } as const;
const scores = object({ ndcg: share, precision: share, reciprocalRank: share, found: share });

const typoExample = listOf(object({ typed: text, as: text, typos: count, records: count }));
const answered = object({ total: count, ids: listOf(text) });
const nearest = orNull(object({ text, field: text, typos: count, begins: { type: 'boolean' } }));

const effect = object({
  changes: count,
  unreadable: count,
  holding: count,
  examples: listOf(object({ id: text, before: {}, after: {} })),
});

/** Every schema of the contract by name: what goes in, and what comes out. */
export const SCHEMAS: { [name: string]: Schema } = {
  Problem: {
    ...object(
      {
        type: text,
        title: text,
        status: { type: 'integer', minimum: 400, maximum: 599 },
        detail: text,
        errors: listOf(object({ pointer: text, detail: text })),
      },
      'errors',
    ),
    description: 'Problem Details (RFC 9457).',
  },
  Text: text,
  SynonymGroups: object({ groups: tuningSchema.properties.synonyms }),
  SynonymReading: object({ groups: tuningSchema.properties.synonyms, ignored: listOf(text) }),
  TypoExamples: object({
    tried: count,
    gained: typoExample,
    lost: typoExample,
    gainedCount: count,
    lostCount: count,
  }),
  Trial: trialSchema,
  TrialAnswer: object({
    effects: listOf(object({ query: text, alike: share, before: answered, after: answered })),
  }),
  WhereaboutsRequest: whereaboutsRequestSchema,
  Whereabouts: object({
    id: text,
    place: orNull({ type: 'integer', minimum: 1 }),
    total: count,
    result: orNull(searchAnswerSchema.properties.results.items),
    reasons: listOf(
      object(
        {
          kind: { enum: ['absent', 'filter', 'near', 'choice', 'excluded', 'word', 'hidden', 'group', 'far'] },
          facet: text,
          word: text,
          typosAllowed: count,
          nearest,
          placement: text,
          field: text,
        },
        'facet',
        'word',
        'typosAllowed',
        'nearest',
        'placement',
        'field',
      ),
    ),
  }),
  Health: object({ status: { const: 'ok' }, version: text, collections: count, uptimeS: { type: 'number' } }),
  NewCollection: newCollectionSchema,
  CollectionPatch: collectionPatchSchema,
  Collection: object({
    name: text,
    title: text,
    key: text,
    records: count,
    generation: count,
    bytes: count,
    liveVersion: count,
    draftChanged: { type: 'boolean' },
    judged: count,
    createdAt: text,
    changedAt: orNull(text),
  }),
  CollectionList: page(ref('Collection')),
  Record: { type: 'object', description: 'A record as it was loaded.' },
  RecordAnswer: object({ record: ref('Record') }),
  RecordList: page(ref('Record')),
  RecordsToDelete: {
    oneOf: [
      {
        type: 'object',
        additionalProperties: false,
        required: ['ids'],
        properties: { ids: { ...listOf(text), maxItems: 10_000 } },
      },
      {
        type: 'object',
        additionalProperties: false,
        required: ['filter'],
        properties: { filter: { ...text, description: 'CQL2-Text.' } },
      },
    ],
  },
  Deleted: object({ deleted: count }),
  Task: task,
  TaskAnswer: object({ task: ref('Task') }),
  TaskList: page(ref('Task')),
  FieldWarning: object(
    {
      code: text,
      detail: text,
      records: count,
      repair: object({ as: text, separator: text }, 'separator'),
      examples: listOf(text),
    },
    'repair',
  ),
  FieldProfile: fieldProfile,
  Profile: object({
    records: count,
    fields: listOf(ref('FieldProfile')),
    fieldsLeftOut: count,
    warnings: listOf(ref('FieldWarning')),
    tookMs: { type: 'number', minimum: 0 },
  }),
  FieldRules: fieldRulesSchema,
  FieldRulesAnswer: object({ rules: fieldRulesSchema.properties.rules, task: ref('Task') }, 'task'),
  FieldRulePreview: fieldRulePreviewSchema,
  RuleEffect: effect,
  Tuning: tuningSchema,
  TuningCost: object({ rebuild: { type: 'boolean' }, records: count, aboutS: { type: 'number', minimum: 0 } }),
  TuningVersions: page(
    object({ version: count, note: { type: ['string', 'null'] }, savedAt: text, live: { type: 'boolean' } }),
  ),
  Publish: { type: 'object', properties: { note: { type: ['string', 'null'], maxLength: 1000 } } },
  Published: object({ version: count }),
  Settings: settingsSchema,
  SettingsAnswer: object({
    changed: listOf({ enum: ['title', 'fieldRules', 'tuning'] }),
    liveVersion: count,
    draftChanged: { type: 'boolean' },
  }),
  SearchRequest: searchRequestSchema,
  SearchAnswer: searchAnswerSchema,
  FacetAnswer: facetAnswerSchema,
  TreeNode: treeNodeSchema,
  // The route checks each query by itself, so that a bad one does not spoil the others; here they are written out.
  MultiSearch: {
    ...multiSearchSchema,
    properties: {
      queries: {
        ...multiSearchSchema.properties.queries,
        items: {
          type: 'object',
          additionalProperties: false,
          required: ['collection'],
          properties: { ...multiSearchSchema.properties.queries.items.properties, ...searchRequestSchema.properties },
        },
      },
    },
  },
  MultiSearchAnswer: object({ answers: listOf({ anyOf: [ref('SearchAnswer'), ref('Problem')] }) }),
  FacetValuesAnswer: object({ facet: text, q: text, values: listOf(facetValue), total: count }),
  SuggestAnswer: object({
    q: text,
    suggestions: listOf(
      object(
        { text, ranges, count, kind: { enum: ['query', 'value', 'record'] }, facet: text, value: text, id: text },
        'facet',
        'value',
        'id',
      ),
    ),
  }),
  Events: eventsSchema,
  EventsTaken: object({ taken: count }),
  NewKey: newKeySchema,
  Key: key,
  KeyList: page(ref('Key')),
  MadeKey: object({ key: ref('Key'), secret: text }),
  AuditEntry: auditEntry,
  AuditPage: page(ref('AuditEntry')),
  Readiness: readiness,
  Backup: object({ name: text, at: moment, bytes: count, collections: count, records: count }),
  BackupList: page(ref('Backup')),
  Judgements: judgementsSchema,
  JudgementChanges: judgementChangesSchema,
  JudgementRun: judgementRunSchema,
  JudgementScores: object({
    queries: listOf(object({ query: text, judged: count, live: scores, draft: scores })),
    live: scores,
    draft: scores,
  }),
  Interface: interfaceSchema,
  NewInterface: newInterfaceSchema,
  StoredInterface: object({ slug: text, document: ref('Interface'), createdAt: text, changedAt: text }),
  InterfaceList: page(ref('StoredInterface')),
  InterfacePage: interfacePage,
  LoadFiles: object({ allowed: { type: 'boolean' }, items: listOf(object({ path: text, bytes: count })) }),
};
