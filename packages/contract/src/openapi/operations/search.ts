import { LIMITS } from '../../limits.ts';
import { searchRequestSchema } from '../../search.ts';
import type { Schema } from '../../schema-of.ts';
import { C, json, type Operation, type QueryParameter } from './operation.ts';

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
  if (name === 'conditions') return { name, description, schema: { type: 'array' }, json: true };
  if (rest.type === 'array')
    return { name, description: `${description} Commas between them.`, schema: { type: 'string' } };
  return { name, description, schema: rest };
});

const search = { q: 'agve', facets: ['colour'], size: 5 };

export const SEARCH: readonly Operation[] = [
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
    more: 'One answer for each query, in order; a query that fails answers a problem in its place. Completions of what is typed may be asked for among them, so that a keystroke is one request. `text/plain` is read as JSON too: a browser asks no leave for it on another site.',
    body: [
      json('MultiSearch', {
        queries: [
          { collection: 'plants', q: 'agave', size: 4 },
          { collection: 'guides', q: 'agave', size: 2 },
          { collection: 'plants', suggest: { q: 'agav', size: 4 } },
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
    more: 'Past queries that go on from it and still find something, facet values, then titles of records. A query becomes one for others once two visits led from it to a click or a conversion; half-typed and misspelt ones never do.',
    query: [
      { name: 'q', description: 'As typed.', schema: { type: 'string' }, example: 'aga' },
      { name: 'size', description: 'How many.', schema: { type: 'integer', minimum: 1, maximum: 50, default: 8 } },
      ...searchQuery.filter(({ name }) => name === 'filter'),
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
    id: 'whereabouts',
    method: 'post',
    path: `${C}/whereabouts`,
    right: 'read',
    group: 'Search',
    summary: 'Where a record stands among the results of a search, or why it is not there',
    body: [json('WhereaboutsRequest', { id: 'P-0042', q: 'agve' })],
    answers: { 200: [json('Whereabouts')] },
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
];
