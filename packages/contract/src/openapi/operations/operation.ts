import { LIMITS } from '../../limits.ts';
import type { Right } from '../../key.ts';
import type { Schema } from '../../schema-of.ts';

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
  Insights: 'What visitors looked for, what they missed.',
  Feeds: 'Sources whose changes reach a collection by themselves.',
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

export const JSON_TYPE = 'application/json';
export const json = (schema: string, example?: unknown): Content => ({
  type: JSON_TYPE,
  schema,
  ...(example === undefined ? {} : { example }),
});

export const flag = (name: string, description: string): QueryParameter => ({
  name,
  description,
  schema: { type: 'boolean', default: false },
});
export const wait = flag('wait', 'Answer when the work is done and what it wrote can be searched.');
export const task: QueryParameter = {
  name: 'task',
  description: 'A UUID for the task, so that it can be watched while the body is still sent.',
  schema: { type: 'string', format: 'uuid' },
};
export const version: QueryParameter = {
  name: 'version',
  description: 'live, draft, or the number of a version.',
  schema: { type: 'string', default: 'live' },
};
export const page: QueryParameter = {
  name: 'page',
  description: 'From 1.',
  schema: { type: 'integer', minimum: 1, default: 1 },
};
export const size: QueryParameter = {
  name: 'size',
  description: 'Items a page.',
  schema: { type: 'integer', minimum: 0, maximum: LIMITS.pageSize, default: 20 },
};
export const filter: QueryParameter = {
  name: 'filter',
  description: 'CQL2-Text: only records that fulfil it.',
  schema: { type: 'string', maxLength: LIMITS.filterLength },
  example: 'price < 20',
};
export const fields: QueryParameter = {
  name: 'fields',
  description: 'Field paths with commas between them.',
  schema: { type: 'string' },
  example: 'id,name,price',
};

/** A collection, in a path. */
export const C = '/collections/{collection}';
