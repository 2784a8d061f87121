import type { FromSchema } from 'json-schema-to-ts';
import { LIMITS } from './limits.ts';

/** The JSON body of a search. `GET` carries the same names as query parameters. */
export const searchRequestSchema = {
  $id: 'SearchRequest',
  type: 'object',
  additionalProperties: false,
  properties: {
    q: {
      type: 'string',
      maxLength: LIMITS.queryLength,
      description: 'What the person typed, as typed. Empty finds everything.',
    },
    select: {
      type: 'object',
      description: 'Chosen facet values, by facet name. Values of one facet are OR-ed, facets are AND-ed.',
      additionalProperties: { type: 'array', items: { type: 'string' }, maxItems: LIMITS.valuesPerFacet },
    },
    facets: {
      type: 'array',
      items: { type: 'string' },
      maxItems: LIMITS.facetsPerQuery,
      description: 'Facets to count, or ["*"].',
    },
    page: { type: 'integer', minimum: 1, maximum: LIMITS.resultWindow, description: 'From 1.' },
    size: { type: 'integer', minimum: 0, maximum: LIMITS.pageSize, description: 'Results a page.' },
    fields: {
      type: 'array',
      items: { type: 'string' },
      maxItems: 200,
      description: 'Which fields of each record to return.',
    },
    version: {
      enum: ['live', 'draft'],
      description: 'Which version of the tuning answers; draft needs the right to read.',
    },
  },
} as const;

export type SearchRequest = FromSchema<typeof searchRequestSchema>;

/** A half-open range `[start, end)` in UTF-16 units of the string it belongs to. */
export type Range = [start: number, end: number];

const rangesSchema = {
  type: 'array',
  items: { type: 'array', items: { type: 'integer', minimum: 0 }, minItems: 2, maxItems: 2 },
} as const;

/** One answer to one search. */
export const searchAnswerSchema = {
  $id: 'SearchAnswer',
  type: 'object',
  required: [
    'query',
    'total',
    'page',
    'pages',
    'size',
    'results',
    'facets',
    'understood',
    'queryId',
    'generation',
    'timing',
  ],
  properties: {
    query: { type: 'string' },
    total: { type: 'integer', minimum: 0 },
    page: { type: 'integer', minimum: 1 },
    pages: { type: 'integer', minimum: 0 },
    size: { type: 'integer', minimum: 0 },
    results: {
      type: 'array',
      items: {
        type: 'object',
        required: ['id', 'record', 'marks'],
        properties: {
          id: { type: 'string' },
          record: { type: 'object' },
          marks: { type: 'object', additionalProperties: rangesSchema },
        },
      },
    },
    facets: {
      type: 'object',
      additionalProperties: {
        type: 'object',
        required: ['kind', 'label', 'values', 'more', 'missing'],
        properties: {
          kind: { const: 'values' },
          label: { type: 'string' },
          values: {
            type: 'array',
            items: {
              type: 'object',
              required: ['value', 'label', 'count', 'selected'],
              properties: {
                value: { type: 'string' },
                label: { type: 'string' },
                count: { type: 'integer', minimum: 0 },
                selected: { type: 'boolean' },
              },
            },
          },
          more: { type: 'boolean' },
          missing: { type: 'integer', minimum: 0 },
        },
      },
    },
    understood: {
      type: 'object',
      required: ['words', 'dropped'],
      properties: {
        words: {
          type: 'array',
          items: {
            type: 'object',
            required: ['text', 'typo', 'as'],
            properties: {
              text: { type: 'string' },
              typo: { type: 'boolean' },
              as: { type: 'array', items: { type: 'string' } },
            },
          },
        },
        dropped: { type: 'array', items: { type: 'string' } },
      },
    },
    queryId: { type: 'string' },
    generation: { type: 'integer', minimum: 0 },
    timing: {
      type: 'object',
      required: ['engineMs', 'totalMs'],
      properties: { engineMs: { type: 'number', minimum: 0 }, totalMs: { type: 'number', minimum: 0 } },
    },
  },
} as const;

/** A record as it is stored: one JSON object. */
export type RecordJson = { [field: string]: unknown };

export interface SearchResult {
  id: string;
  record: RecordJson;
  /** JSON Pointer of a string in `record` to the ranges that matched in it. */
  marks: { [pointer: string]: Range[] };
}

export interface FacetValue {
  value: string;
  label: string;
  count: number;
  selected: boolean;
}

export interface ValuesFacet {
  kind: 'values';
  label: string;
  values: FacetValue[];
  /** There are values beyond the ones listed. */
  more: boolean;
  /** Results that hold no value of this facet. */
  missing: number;
}

export interface UnderstoodWord {
  text: string;
  /** Nothing matches the word as typed, so only misspellings of it were found. */
  typo: boolean;
  /** The words of the data it was taken for, the likeliest first. */
  as: string[];
}

export interface SearchAnswer {
  query: string;
  /** Exact. */
  total: number;
  page: number;
  pages: number;
  size: number;
  results: SearchResult[];
  facets: { [name: string]: ValuesFacet };
  understood: { words: UnderstoodWord[]; dropped: string[] };
  queryId: string;
  /** Which state of the collection answered; it grows with every change. */
  generation: number;
  timing: { engineMs: number; totalMs: number };
}
