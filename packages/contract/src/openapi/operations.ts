import { LIMITS } from '../limits.ts';
import type { Right } from '../key.ts';
import { searchRequestSchema } from '../search.ts';
import type { Schema } from './schemas.ts';

export interface QueryParameter {
  name: string;
  description: string;
  schema: Schema;
  example?: unknown;
  /** The parameter is JSON, URL-encoded. */
  json?: boolean;
}

/** What goes into a body or comes out of it: a media type, a schema by name, an example. */
export interface Content {
  type: string;
  schema: string;
  example?: unknown;
}

/** What the operations are about, in the order of the work. */
export const GROUPS = {
  Search: 'What a search page asks: results, facets, completions.',
  Records: 'Loading, reading, changing and exporting records.',
  Understanding: 'What is in the data, and how its values are read.',
  Tuning: 'How a collection is searched: live, draft, history, and all of it as a file.',
  Collections: 'Making, listing and deleting collections.',
  Judgements: 'What should come up for a query, and how well live and draft do at it.',
  Interfaces: 'Search pages: how they are made up, and all a page elsewhere needs to know.',
  Keys: 'Who may do what.',
  Tasks: 'Long work, and the server itself.',
} as const;

/** One thing the API does. */
export interface Operation {
  id: string;
  method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** Below `/api/v1`, with `{parameters}`. */
  path: string;
  right: Right | 'none';
  group: keyof typeof GROUPS;
  summary: string;
  more?: string;
  query?: QueryParameter[];
  body?: Content[];
  /** Status and content of the answers that mean success; null = no body. */
  answers: { [status: number]: Content[] | null };
}

const JSON_TYPE = 'application/json';
const json = (schema: string, example?: unknown): Content => ({
  type: JSON_TYPE,
  schema,
  ...(example === undefined ? {} : { example }),
});

const flag = (name: string, description: string): QueryParameter => ({
  name,
  description,
  schema: { type: 'boolean', default: false },
});
const wait = flag('wait', 'Answer when the work is done and what it wrote can be searched.');
const page: QueryParameter = {
  name: 'page',
  description: 'From 1.',
  schema: { type: 'integer', minimum: 1, default: 1 },
};
const size: QueryParameter = {
  name: 'size',
  description: 'Items a page.',
  schema: { type: 'integer', minimum: 0, maximum: LIMITS.pageSize, default: 20 },
};
const filter: QueryParameter = {
  name: 'filter',
  description: 'CQL2-Text: only records that fulfil it.',
  schema: { type: 'string', maxLength: LIMITS.filterLength },
  example: 'price < 20',
};
const fields: QueryParameter = {
  name: 'fields',
  description: 'Field paths with commas between them.',
  schema: { type: 'string' },
  example: 'id,name,price',
};

/** The parameters of a search in the query string, from the schema of its body. */
const searchQuery: QueryParameter[] = Object.entries(searchRequestSchema.properties).map(([name, schema]) => {
  const { description = '', ...rest } = schema as Schema & { description?: string };
  if (name === 'near')
    return {
      name,
      description: 'Latitude and longitude; withinM beside it.',
      schema: { type: 'string' },
      example: '51.5,-0.12',
    };
  if (name === 'select')
    return { name, description: `${description} As JSON.`, schema: { type: 'object' }, json: true };
  if (rest.type === 'array')
    return { name, description: `${description} Commas between them.`, schema: { type: 'string' } };
  return { name, description, schema: rest };
});

const plant = { id: 'P-0042', name: 'Agave americana', price: 34.5, colours: ['green', 'yellow'] };
const search = { q: 'agve', facets: ['colour'], size: 5 };
const tuning = {
  search: [
    { field: 'name', weight: 10 },
    { field: 'care', weight: 2 },
  ],
  facets: [{ name: 'colour', field: 'colours' }],
};
const C = '/collections/{collection}';

/** Everything the API does, in the order of the work. The routes are checked against it. */
export const OPERATIONS: readonly Operation[] = [
  {
    id: 'health',
    method: 'get',
    path: '/health',
    right: 'none',
    group: 'Tasks',
    summary: 'Is it up?',
    answers: { 200: [json('Health')] },
  },
  {
    id: 'describe',
    method: 'get',
    path: '/openapi.json',
    right: 'none',
    group: 'Tasks',
    summary: 'This description, as OpenAPI 3.1',
    answers: { 200: [{ type: JSON_TYPE, schema: 'Record' }] },
  },
  {
    id: 'search',
    method: 'post',
    path: `${C}/search`,
    right: 'search',
    group: 'Search',
    summary: 'Search a collection',
    body: [json('SearchRequest', search)],
    answers: { 200: [json('SearchAnswer')] },
  },
  {
    id: 'searchByAddress',
    method: 'get',
    path: `${C}/search`,
    right: 'search',
    group: 'Search',
    summary: 'Search a collection, everything in the address',
    more: 'Answers carry an ETag; a repeated question with If-None-Match costs a 304.',
    query: [
      ...searchQuery.map((parameter) => (parameter.name === 'q' ? { ...parameter, example: 'agve' } : parameter)),
      { name: 'withinM', description: 'With near: metres.', schema: { type: 'number' } },
    ],
    answers: { 200: [json('SearchAnswer')] },
  },
  {
    id: 'multiSearch',
    method: 'post',
    path: '/search',
    right: 'search',
    group: 'Search',
    summary: 'Search several collections at once',
    more: 'One answer for each query, in order; a query that fails answers a problem in its place.',
    body: [
      json('MultiSearch', {
        queries: [
          { collection: 'plants', q: 'agave', size: 4 },
          { collection: 'guides', q: 'agave', size: 2 },
        ],
      }),
    ],
    answers: { 200: [json('MultiSearchAnswer')] },
  },
  {
    id: 'suggest',
    method: 'get',
    path: `${C}/suggest`,
    right: 'search',
    group: 'Search',
    summary: 'Completions of what is being typed',
    query: [
      { name: 'q', description: 'As typed.', schema: { type: 'string' }, example: 'aga' },
      { name: 'size', description: 'How many.', schema: { type: 'integer', minimum: 1, maximum: 50, default: 8 } },
    ],
    answers: { 200: [json('SuggestAnswer')] },
  },
  {
    id: 'facetValues',
    method: 'get',
    path: `${C}/facets/{field}`,
    right: 'search',
    group: 'Search',
    summary: 'Look inside the values of a facet',
    more: 'Prefixes and typos are forgiven. query, select and filter say within which results.',
    query: [
      { name: 'q', description: 'What the values are searched for.', schema: { type: 'string' }, example: 'gre' },
      { name: 'query', description: 'The search whose results are looked at.', schema: { type: 'string' } },
      ...searchQuery.filter(({ name }) => name === 'select' || name === 'filter'),
      {
        name: 'size',
        description: 'How many.',
        schema: { type: 'integer', minimum: 1, maximum: LIMITS.valuesPerFacet, default: 20 },
      },
    ],
    answers: { 200: [json('FacetValuesAnswer')] },
  },
  {
    id: 'load',
    method: 'post',
    path: `${C}/records`,
    right: 'write',
    group: 'Records',
    summary: 'Load records',
    more: 'Streamed, gzip accepted. A bad line never stops the good ones: it is counted in failed and named in errors.',
    query: [
      {
        name: 'mode',
        description: 'replace: the same key replaces; merge: RFC 7396; insert: the same key is an error.',
        schema: { enum: ['replace', 'merge', 'insert'], default: 'replace' },
      },
      wait,
      flag('assignKeys', 'Give records without the key one made from their content.'),
      flag('nest', 'Open dotted names (of a CSV header) into objects.'),
      {
        name: 'task',
        description: 'A UUID for the task, so that it can be watched while the body is still sent.',
        schema: { type: 'string', format: 'uuid' },
      },
      {
        name: 'file',
        description: 'A file of the server’s own machine instead of a body (right admin).',
        schema: { type: 'string' },
      },
    ],
    body: [
      json('Record', [plant]),
      { type: 'application/x-ndjson', schema: 'Record' },
      { type: 'application/jsonl', schema: 'Record' },
      { type: 'text/csv', schema: 'Record' },
    ],
    answers: { 200: [json('TaskAnswer')], 202: [json('TaskAnswer')] },
  },
  {
    id: 'listRecords',
    method: 'get',
    path: `${C}/records`,
    right: 'read',
    group: 'Records',
    summary: 'Page through records, or stream all of them',
    query: [
      page,
      size,
      fields,
      filter,
      {
        name: 'format',
        description: 'ndjson and csv stream all records.',
        schema: { enum: ['json', 'ndjson', 'csv'], default: 'json' },
      },
    ],
    answers: {
      200: [
        json('RecordList'),
        { type: 'application/x-ndjson', schema: 'Record' },
        { type: 'text/csv', schema: 'Record' },
      ],
    },
  },
  {
    id: 'getRecord',
    method: 'get',
    path: `${C}/records/{id}`,
    right: 'read',
    group: 'Records',
    summary: 'One record',
    answers: { 200: [json('RecordAnswer', { record: plant })] },
  },
  {
    id: 'putRecord',
    method: 'put',
    path: `${C}/records/{id}`,
    right: 'write',
    group: 'Records',
    summary: 'Write one record; it can be searched when this answers',
    body: [json('Record', plant)],
    answers: { 200: [json('RecordAnswer')], 201: [json('RecordAnswer')] },
  },
  {
    id: 'patchRecord',
    method: 'patch',
    path: `${C}/records/{id}`,
    right: 'write',
    group: 'Records',
    summary: 'Change parts of a record (JSON Merge Patch)',
    body: [
      { type: 'application/merge-patch+json', schema: 'Record', example: { price: 29 } },
      json('Record', { price: 29 }),
    ],
    answers: { 200: [json('RecordAnswer')] },
  },
  {
    id: 'deleteRecord',
    method: 'delete',
    path: `${C}/records/{id}`,
    right: 'write',
    group: 'Records',
    summary: 'Delete one record',
    answers: { 204: null },
  },
  {
    id: 'deleteRecords',
    method: 'post',
    path: `${C}/records/delete`,
    right: 'write',
    group: 'Records',
    summary: 'Delete records by their keys or by a condition',
    body: [json('RecordsToDelete', { ids: ['P-0042'] })],
    answers: { 200: [json('Deleted', { deleted: 1 })] },
  },
  {
    id: 'profile',
    method: 'get',
    path: `${C}/profile`,
    right: 'read',
    group: 'Understanding',
    summary: 'What is in the data, field by field, with warnings and proposals',
    answers: { 200: [json('Profile')] },
  },
  {
    id: 'getFieldRules',
    method: 'get',
    path: `${C}/field-rules`,
    right: 'read',
    group: 'Understanding',
    summary: 'How values are read when a record is written',
    answers: { 200: [json('FieldRulesAnswer', { rules: [{ field: 'introduced', as: 'number' }] })] },
  },
  {
    id: 'putFieldRules',
    method: 'put',
    path: `${C}/field-rules`,
    right: 'admin',
    group: 'Understanding',
    summary: 'Set how values are read',
    more: 'Holds for whatever is written from now on. A value that cannot be read so stays as it came. Undone rules give back the values they changed.',
    query: [flag('apply', 'Bring the records that are here in line, too.'), wait],
    body: [json('FieldRules', { rules: [{ field: 'introduced', as: 'number' }] })],
    answers: { 200: [json('FieldRulesAnswer')], 202: [json('FieldRulesAnswer')] },
  },
  {
    id: 'previewFieldRule',
    method: 'post',
    path: `${C}/field-rules/preview`,
    right: 'read',
    group: 'Understanding',
    summary: 'What a rule would do to the records that are here',
    body: [json('FieldRulePreview', { field: 'introduced', as: 'number' })],
    answers: {
      200: [
        json('RuleEffect', {
          changes: 1,
          unreadable: 0,
          holding: 3000,
          examples: [{ id: 'P-0007', before: '1987*', after: 1987 }],
        }),
      ],
    },
  },
  {
    id: 'getTuning',
    method: 'get',
    path: `${C}/tuning`,
    right: 'read',
    group: 'Tuning',
    summary: 'How a collection is searched',
    query: [
      {
        name: 'version',
        description: 'live, draft, or the number of a version.',
        schema: { type: 'string', default: 'live' },
      },
    ],
    answers: { 200: [json('Tuning', tuning)] },
  },
  {
    id: 'putDraft',
    method: 'put',
    path: `${C}/tuning/draft`,
    right: 'admin',
    group: 'Tuning',
    summary: 'Replace the draft',
    body: [json('Tuning', tuning)],
    answers: { 200: [json('Tuning')] },
  },
  {
    id: 'patchDraft',
    method: 'patch',
    path: `${C}/tuning/draft`,
    right: 'admin',
    group: 'Tuning',
    summary: 'Change parts of the draft (JSON Merge Patch)',
    body: [
      { type: 'application/merge-patch+json', schema: 'Tuning', example: { signalShare: 0.3 } },
      json('Tuning', { signalShare: 0.3 }),
    ],
    answers: { 200: [json('Tuning')] },
  },
  {
    id: 'discardDraft',
    method: 'delete',
    path: `${C}/tuning/draft`,
    right: 'admin',
    group: 'Tuning',
    summary: 'Throw the draft away',
    answers: { 204: null },
  },
  {
    id: 'draftCost',
    method: 'post',
    path: `${C}/tuning/draft/cost`,
    right: 'admin',
    group: 'Tuning',
    summary: 'What saving a draft would take: nothing, or building the index anew in the background',
    body: [json('Tuning', tuning)],
    answers: { 200: [json('TuningCost', { rebuild: true, records: 3000, aboutS: 0.3 })] },
  },
  {
    id: 'publish',
    method: 'post',
    path: `${C}/tuning/publish`,
    right: 'admin',
    group: 'Tuning',
    summary: 'Make the draft live, in one step',
    query: [wait],
    body: [json('Publish', { note: 'Care texts count more' })],
    answers: { 200: [json('Published', { version: 4 })] },
  },
  {
    id: 'listVersions',
    method: 'get',
    path: `${C}/tuning/versions`,
    right: 'read',
    group: 'Tuning',
    summary: 'The versions that were published',
    answers: { 200: [json('TuningVersions')] },
  },
  {
    id: 'restoreVersion',
    method: 'post',
    path: `${C}/tuning/versions/{version}/restore`,
    right: 'admin',
    group: 'Tuning',
    summary: 'Make an old version the draft',
    answers: { 200: [json('Tuning')] },
  },
  {
    id: 'getSettings',
    method: 'get',
    path: `${C}/settings`,
    right: 'read',
    group: 'Tuning',
    summary: 'Tuning and field rules as one file',
    answers: { 200: [json('Settings', { settings: 1, title: 'Plants', key: 'id', fieldRules: [], tuning })] },
  },
  {
    id: 'putSettings',
    method: 'put',
    path: `${C}/settings`,
    right: 'admin',
    group: 'Tuning',
    summary: 'Take settings over from a file',
    query: [
      flag('publish', 'Make the tuning live; without it, it becomes the draft.'),
      { name: 'note', description: 'For the history.', schema: { type: 'string', maxLength: 1000 } },
    ],
    body: [json('Settings', { settings: 1, tuning })],
    answers: { 200: [json('SettingsAnswer', { changed: ['tuning'], liveVersion: 4, draftChanged: true })] },
  },
  {
    id: 'listCollections',
    method: 'get',
    path: '/collections',
    right: 'admin',
    group: 'Collections',
    summary: 'All collections',
    answers: { 200: [json('CollectionList')] },
  },
  {
    id: 'createCollection',
    method: 'post',
    path: '/collections',
    right: 'admin',
    group: 'Collections',
    summary: 'Make a collection',
    body: [json('NewCollection', { name: 'bulbs', title: 'Bulbs', key: 'id' })],
    answers: { 201: [json('Collection')] },
  },
  {
    id: 'getCollection',
    method: 'get',
    path: C,
    right: 'admin',
    group: 'Collections',
    summary: 'One collection',
    answers: { 200: [json('Collection')] },
  },
  {
    id: 'patchCollection',
    method: 'patch',
    path: C,
    right: 'admin',
    group: 'Collections',
    summary: 'Rename a collection',
    body: [
      { type: 'application/merge-patch+json', schema: 'CollectionPatch', example: { title: 'Bulbs and tubers' } },
      json('CollectionPatch', { title: 'Bulbs and tubers' }),
    ],
    answers: { 200: [json('Collection')] },
  },
  {
    id: 'deleteCollection',
    method: 'delete',
    path: C,
    right: 'admin',
    group: 'Collections',
    summary: 'Delete a collection with all its records',
    answers: { 204: null },
  },
  {
    id: 'listKeys',
    method: 'get',
    path: '/keys',
    right: 'admin',
    group: 'Keys',
    summary: 'All keys, without their secrets',
    answers: { 200: [json('KeyList')] },
  },
  {
    id: 'createKey',
    method: 'post',
    path: '/keys',
    right: 'admin',
    group: 'Keys',
    summary: 'Make a key; its secret is in this answer alone',
    body: [
      json('NewKey', {
        label: 'Shop page',
        rights: ['search'],
        collections: ['plants'],
        origins: ['https://shop.example'],
        perMinute: 600,
        filter: 'stock > 0',
      }),
    ],
    answers: { 201: [json('MadeKey')] },
  },
  {
    id: 'deleteKey',
    method: 'delete',
    path: '/keys/{id}',
    right: 'admin',
    group: 'Keys',
    summary: 'Make a key worthless',
    answers: { 204: null },
  },
  {
    id: 'tellEvents',
    method: 'post',
    path: '/events',
    right: 'search',
    group: 'Search',
    summary: 'Tell what visitors did with results',
    more: 'Also as text/plain, as navigator.sendBeacon sends it without a preflight.',
    body: [
      json('Events', {
        events: [{ type: 'click', queryId: '1571f953-dcc5-4000-9b32-ba7c653b2294', recordId: 'P-0042', position: 3 }],
      }),
    ],
    answers: { 202: [json('EventsTaken', { taken: 1 })] },
  },
  {
    id: 'getJudgements',
    method: 'get',
    path: '/collections/{collection}/judgements',
    right: 'admin',
    group: 'Judgements',
    summary: 'All judgements of a collection',
    more: 'With Accept: text/plain as TREC qrels; queries and keys are percent-encoded there.',
    answers: { 200: [json('Judgements')] },
  },
  {
    id: 'putJudgements',
    method: 'put',
    path: '/collections/{collection}/judgements',
    right: 'admin',
    group: 'Judgements',
    summary: 'Put others in the place of all judgements',
    more: 'Also as text/plain: TREC qrels.',
    body: [json('Judgements', { judgements: [{ query: 'snake plant', grades: { 'P-0042': 3, 'P-0107': 2 } }] })],
    answers: { 200: [json('Judgements')] },
  },
  {
    id: 'patchJudgements',
    method: 'patch',
    path: '/collections/{collection}/judgements',
    right: 'admin',
    group: 'Judgements',
    summary: 'Change some grades',
    body: [
      json('JudgementChanges', { judgements: [{ query: 'snake plant', grades: { 'P-0042': 2, 'P-0107': null } }] }),
    ],
    answers: { 200: [json('Judgements')] },
  },
  {
    id: 'runJudgements',
    method: 'post',
    path: '/collections/{collection}/judgements/run',
    right: 'admin',
    group: 'Judgements',
    summary: 'Score live and draft at the judged queries',
    body: [json('JudgementRun', {})],
    answers: { 200: [json('JudgementScores')] },
  },
  {
    id: 'listInterfaces',
    method: 'get',
    path: '/interfaces',
    right: 'admin',
    group: 'Interfaces',
    summary: 'All search pages that were made',
    answers: { 200: [json('InterfaceList')] },
  },
  {
    id: 'createInterface',
    method: 'post',
    path: '/interfaces',
    right: 'admin',
    group: 'Interfaces',
    summary: 'Make a search page; it stands at /s/{slug}',
    body: [
      json('NewInterface', {
        slug: 'nursery',
        title: 'Quillbrook Nursery',
        collection: 'plants',
        paging: 'more',
        currency: 'GBP',
        autocomplete: [
          { from: 'records', label: 'Plants', size: 5 },
          { from: 'records', label: 'Guides', collection: 'guides', size: 3 },
        ],
      }),
    ],
    answers: { 201: [json('StoredInterface')] },
  },
  {
    id: 'getInterface',
    method: 'get',
    path: '/interfaces/{slug}',
    right: 'admin',
    group: 'Interfaces',
    summary: 'How a search page is made up',
    answers: { 200: [json('StoredInterface')] },
  },
  {
    id: 'putInterface',
    method: 'put',
    path: '/interfaces/{slug}',
    right: 'admin',
    group: 'Interfaces',
    summary: 'Make up a search page anew',
    body: [json('Interface', { collection: 'plants', layout: 'cards', pageSize: 24 })],
    answers: { 200: [json('StoredInterface')] },
  },
  {
    id: 'deleteInterface',
    method: 'delete',
    path: '/interfaces/{slug}',
    right: 'admin',
    group: 'Interfaces',
    summary: 'Take a search page away; its collection stays',
    answers: { 204: null },
  },
  {
    id: 'getInterfacePage',
    method: 'get',
    path: '/interfaces/{slug}/page',
    right: 'search',
    group: 'Interfaces',
    summary: 'What a search page needs to know beforehand',
    more: 'Facets, sorts, the parts of a card and of the autocomplete. The name of a collection stands for the page it has without an interface.',
    answers: { 200: [json('InterfacePage')] },
  },
  {
    id: 'listTasks',
    method: 'get',
    path: '/tasks',
    right: 'admin',
    group: 'Tasks',
    summary: 'The newest tasks',
    query: [{ name: 'collection', description: 'Of one collection.', schema: { type: 'string' } }],
    answers: { 200: [json('TaskList')] },
  },
  {
    id: 'getTask',
    method: 'get',
    path: '/tasks/{id}',
    right: 'write',
    group: 'Tasks',
    summary: 'One task',
    answers: { 200: [json('TaskAnswer')] },
  },
  {
    id: 'cancelTask',
    method: 'delete',
    path: '/tasks/{id}',
    right: 'write',
    group: 'Tasks',
    summary: 'Cancel a task; what it has stored stays',
    answers: { 202: [json('TaskAnswer')] },
  },
  {
    id: 'watchTask',
    method: 'get',
    path: '/tasks/{id}/events',
    right: 'write',
    group: 'Tasks',
    summary: 'Progress of a task as Server-Sent Events',
    more: 'progress as it comes, end as the last; the data of each is a task.',
    answers: { 200: [{ type: 'text/event-stream', schema: 'Task' }] },
  },
  {
    id: 'failedLines',
    method: 'get',
    path: '/tasks/{id}/failed',
    right: 'write',
    group: 'Tasks',
    summary: 'The lines of a load that failed, as they came',
    answers: { 200: [{ type: 'text/plain', schema: 'Record' }] },
  },
  {
    id: 'listLoadFiles',
    method: 'get',
    path: '/load-files',
    right: 'admin',
    group: 'Tasks',
    summary: 'Files of the server’s machine that may be loaded',
    answers: { 200: [json('LoadFiles', { allowed: true, items: [{ path: 'plants.jsonl', bytes: 4200000 }] })] },
  },
];
