import type { FromSchema } from 'json-schema-to-ts';
import type { FacetAnswer } from './facets.ts';
import { LIMITS } from './limits.ts';
import { nameSchema } from './names.ts';

/** A chosen range; both ends are inclusive and either may be left out. Dates are ISO 8601 texts. */
const rangeChoice = {
  type: 'object',
  additionalProperties: false,
  minProperties: 1,
  properties: { min: { type: ['number', 'string'] }, max: { type: ['number', 'string'] } },
} as const;

const opaque = { type: 'string', minLength: 1, maxLength: 200 } as const;

/** The JSON body of a search. `GET` carries the same names as query parameters. */
export const searchRequestSchema = {
  $id: 'SearchRequest',
  type: 'object',
  additionalProperties: false,
  properties: {
    q: {
      type: 'string',
      maxLength: LIMITS.queryLength,
      description: `What the person typed, as typed. Empty finds everything. Words past ${LIMITS.queryWords}, of which fewer count in collections of more than 375,000 records, and phrases past ${LIMITS.queryPhrases} are ignored and named in the answer.`,
    },
    select: {
      type: 'object',
      description:
        'Facet choices by facet name: a list of values or a range. Values of one facet are OR-ed (AND-ed when its match is all), facets are AND-ed.',
      maxProperties: LIMITS.facetsPerQuery,
      additionalProperties: {
        anyOf: [
          {
            type: 'array',
            items: { type: 'string', maxLength: LIMITS.choiceLength },
            maxItems: LIMITS.valuesPerFacet,
          },
          rangeChoice,
        ],
      },
    },
    filter: {
      type: 'string',
      maxLength: LIMITS.filterLength,
      description:
        'A CQL2-Text condition that always applies and never shows as a choice. One that would compare too much for one search of so many records is refused, with its place.',
    },
    facets: {
      type: 'array',
      items: { type: 'string' },
      maxItems: LIMITS.facetsPerQuery,
      description: 'Facets to count, or ["*"].',
    },
    page: { type: 'integer', minimum: 1, maximum: LIMITS.resultWindow, description: 'From 1.' },
    size: { type: 'integer', minimum: 0, maximum: LIMITS.pageSize, description: 'Results a page.' },
    sort: {
      type: 'string',
      minLength: 1,
      maxLength: 63,
      description: "The name of one of the collection's sorts, or relevance, or distance (with near).",
    },
    near: {
      type: 'object',
      additionalProperties: false,
      required: ['lat', 'lng'],
      properties: {
        lat: { type: 'number', minimum: -90, maximum: 90 },
        lng: { type: 'number', minimum: -180, maximum: 180 },
        withinM: { type: 'number', exclusiveMinimum: 0, maximum: 20_100_000, description: 'Metres.' },
      },
    },
    fields: {
      type: 'array',
      items: { type: 'string' },
      maxItems: 200,
      description: 'Which fields of each record to return.',
    },
    explain: { type: 'boolean', description: 'Add to each result why it is there.' },
    version: {
      anyOf: [{ enum: ['live', 'draft'] }, { type: 'integer', minimum: 1 }],
      description:
        'Which version of the tuning answers: live, draft, or the number of a published one. All but live need the right to read.',
    },
    on: {
      type: 'string',
      format: 'date',
      description: 'The day for which placements are looked at (ISO 8601). Default: today. Needs the right to read.',
    },
    session: { ...opaque, description: 'Ties searches and clicks of one visit together, for insights.' },
    viewer: { ...opaque, description: 'Ties visits of one viewer together, for insights.' },
    tags: { type: 'array', items: opaque, maxItems: 20, description: 'Words that placements may ask for.' },
    record: { type: 'boolean', description: 'false keeps this query out of insights.' },
  },
} as const;

export type SearchRequest = FromSchema<typeof searchRequestSchema>;

/** Several searches at once, at most ten. */
export const multiSearchSchema = {
  $id: 'MultiSearch',
  type: 'object',
  additionalProperties: false,
  required: ['queries'],
  properties: {
    queries: {
      type: 'array',
      minItems: 1,
      maxItems: LIMITS.queriesPerCall,
      items: {
        type: 'object',
        required: ['collection'],
        properties: { collection: nameSchema },
        description: 'A search request with the name of its collection.',
      },
    },
  },
} as const;

export type MultiSearch = FromSchema<typeof multiSearchSchema>;

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
        required: ['id', 'record', 'marks', 'snippets'],
        properties: {
          id: { type: 'string' },
          record: { type: 'object' },
          marks: { type: 'object', additionalProperties: rangesSchema },
          snippets: {
            type: 'object',
            additionalProperties: {
              type: 'array',
              items: {
                type: 'object',
                required: ['text', 'ranges'],
                properties: { text: { type: 'string' }, ranges: rangesSchema },
              },
            },
          },
          distanceM: { type: 'number', minimum: 0 },
          pinned: { type: 'boolean' },
          others: { type: 'integer', minimum: 0, description: 'More results of the same group.' },
          why: {
            type: 'object',
            required: ['words', 'typos', 'text', 'signals', 'score', 'parts'],
            properties: {
              words: { type: 'integer', minimum: 0 },
              typos: { type: 'integer', minimum: 0 },
              text: { type: 'number', minimum: 0, maximum: 100 },
              signals: { type: 'number', minimum: 0, maximum: 100 },
              score: { type: 'number', minimum: 0, maximum: 100 },
              parts: {
                type: 'array',
                items: {
                  type: 'object',
                  required: ['word', 'matched', 'how', 'field', 'points'],
                  properties: {
                    word: { type: 'string' },
                    matched: { type: 'string' },
                    how: { enum: ['exact', 'synonym', 'stem', 'joined', 'split', 'phrase', 'prefix', 'typo'] },
                    typos: { type: 'integer', minimum: 0, maximum: 2 },
                    field: { type: 'string' },
                    points: { type: 'number', minimum: 0, maximum: 100 },
                  },
                },
              },
            },
          },
        },
      },
    },
    facets: { type: 'object', additionalProperties: { $ref: 'FacetAnswer' } },
    understood: {
      type: 'object',
      required: ['words', 'dropped', 'placements', 'redirect', 'notice'],
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
              nearest: { type: 'string' },
              capped: { type: 'boolean' },
            },
          },
        },
        dropped: { type: 'array', items: { type: 'string' } },
        placements: { type: 'array', items: { type: 'string' } },
        redirect: { type: ['string', 'null'] },
        notice: { type: ['string', 'null'] },
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

/** How a word of a query came to match a word of a record, in the order of trust. */
export type MatchKind = 'exact' | 'synonym' | 'stem' | 'joined' | 'split' | 'phrase' | 'prefix' | 'typo';

/** What one word of the query gave to a result's text points. */
export interface WhyPart {
  /** As typed. */
  word: string;
  /** The word of the record, folded. */
  matched: string;
  how: MatchKind;
  typos?: number;
  field: string;
  points: number;
}

/** The four numbers that place a result; the points of `parts` add up to `text`. */
export interface Why {
  /** Words of the query that matched: more stand first. */
  words: number;
  /** Typos spent: fewer stand first. */
  typos: number;
  /** 0 to 100: how well the words match. */
  text: number;
  /** 0 to 100: the business numbers. */
  signals: number;
  /** (1 - share) × text + share × signals. */
  score: number;
  parts: WhyPart[];
}

/** A part of a long text, cut between words around its matches. */
export interface Snippet {
  text: string;
  ranges: Range[];
}

export interface SearchResult {
  id: string;
  record: RecordJson;
  /** JSON Pointer of a string in `record` to the ranges that matched in it. */
  marks: { [pointer: string]: Range[] };
  /** JSON Pointer of a text to its best parts. */
  snippets: { [pointer: string]: Snippet[] };
  /** From the request's `near`, in metres. */
  distanceM?: number;
  /** A placement put it here. */
  pinned?: boolean;
  /** With grouping: how many more of the same group were found. */
  others?: number;
  why?: Why;
}

export interface UnderstoodWord {
  text: string;
  /** Nothing matches the word as typed, so only misspellings of it were found. */
  typo: boolean;
  /** The words of the data it was taken for, the likeliest first. */
  as: string[];
  /** When nothing was found and the word stands nowhere: the one of the data that is spelt most like it. */
  nearest?: string;
  /** Present when it had more readings than are looked up; the likeliest were. */
  capped?: boolean;
}

export interface SearchAnswer {
  /** As it was searched: as typed, or what a placement put in its place. */
  query: string;
  /** Exact. */
  total: number;
  page: number;
  pages: number;
  size: number;
  results: SearchResult[];
  facets: { [name: string]: FacetAnswer };
  understood: {
    words: UnderstoodWord[];
    /** Words that were ignored: past the limit, or dropped so that something is found. */
    dropped: string[];
    /** Names of the placements in effect. */
    placements: string[];
    /** An address a placement sends the visitor to. */
    redirect: string | null;
    /** A text a placement shows above the results. */
    notice: string | null;
  };
  queryId: string;
  /** Which state of the collection answered; it grows with every change. */
  generation: number;
  timing: { engineMs: number; totalMs: number };
}

/** Completions of what is being typed. */
export interface Suggestion {
  text: string;
  /** The part of `text` that is typed already. */
  ranges: Range[];
  /** Records behind it. */
  count: number;
  kind: 'query' | 'value' | 'record';
  /** The facet a value belongs to, and the value as a choice names it: `text` is its label. */
  facet?: string;
  value?: string;
  /** The key of a record. */
  id?: string;
}

export interface SuggestAnswer {
  q: string;
  suggestions: Suggestion[];
}
