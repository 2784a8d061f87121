import type { FromSchema } from 'json-schema-to-ts';
import type { FacetAnswer } from './facets.ts';
import { LIMITS } from './limits.ts';
import { nameSchema } from './names.ts';
import { rangesSchema } from './range.ts';
import {
  as,
  count,
  listOf,
  mapOf,
  number,
  object,
  oneOf,
  ordinal,
  orNull,
  ref,
  saying,
  text,
  yesOrNo,
  type Of,
} from './schema-of.ts';

/** A chosen range; both ends are inclusive and either may be left out. Dates are ISO 8601 texts. */
const rangeChoice = {
  type: 'object',
  additionalProperties: false,
  minProperties: 1,
  properties: { min: { type: ['number', 'string'] }, max: { type: ['number', 'string'] } },
} as const;

export type RangeChoice = FromSchema<typeof rangeChoice>;

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
    conditions: {
      type: 'array',
      items: { type: 'string', minLength: 1, maxLength: 1024 },
      maxItems: LIMITS.conditionsPerQuery,
      description:
        'CQL2-Text conditions that choose nothing: each result says which of them it meets, for badges. In a query string: a list as JSON.',
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
    by: { enum: ['completion'], description: 'What led to this query, for insights: a completion that was chosen.' },
    record: { type: 'boolean', description: 'false keeps this query out of insights.' },
  },
} as const;

export type SearchRequest = FromSchema<typeof searchRequestSchema>;

/** Completions asked for among other searches. */
export const askSuggestionsSchema = {
  $id: 'AskSuggestions',
  type: 'object',
  additionalProperties: false,
  required: ['suggest'],
  properties: {
    suggest: {
      type: 'object',
      additionalProperties: false,
      required: ['q'],
      properties: {
        q: { type: 'string', description: 'What was typed so far.' },
        size: { type: 'integer', minimum: 1, maximum: 50, default: 8 },
        filter: {
          type: 'string',
          maxLength: LIMITS.filterLength,
          description: 'CQL2-Text: only what records that fulfil it have.',
        },
      },
      description: 'Completions of a text, in place of a search.',
    },
  },
} as const;

export type AskSuggestions = FromSchema<typeof askSuggestionsSchema>;

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
        description: 'A search request, or `suggest`, with the name of its collection.',
      },
    },
  },
} as const;

export type MultiSearch = FromSchema<typeof multiSearchSchema>;

/** A record as it is stored: one JSON object. */
export type RecordJson = { [field: string]: unknown };

const matchKind = oneOf('exact', 'synonym', 'stem', 'joined', 'split', 'compound', 'phrase', 'prefix', 'typo');

/** How a word of a query came to match a word of a record, in the order of trust. */
export type MatchKind = Of<typeof matchKind>;

const points = as<number>({ type: 'number', minimum: 0, maximum: 100 });

/** What one word of the query gave to a result's text points. */
const whyPartSchema = object(
  {
    /** As typed. */
    word: text,
    /** The word of the record, folded. */
    matched: text,
    how: matchKind,
    typos: as<number>({ type: 'integer', minimum: 0, maximum: 2 }),
    field: text,
    points,
  },
  'typos',
);

export type WhyPart = Of<typeof whyPartSchema>;

/** The numbers that place a result; the points of `parts` add up to `text`. */
const whySchema = object(
  {
    /** Words of the query that matched: more stand first. */
    words: count,
    /** Typos spent: fewer stand first. */
    typos: count,
    /** A value of this field is the very query: such results stand first among those alike so far, codes first. */
    whole: object({ field: text, isCode: yesOrNo }),
    /** 0 to 100: how well the words match. */
    text: points,
    /** 0 to 100: the business numbers. */
    signals: points,
    /** (1 - share) × text + share × signals. */
    score: points,
    parts: listOf(whyPartSchema),
  },
  'whole',
);

export type Why = Of<typeof whySchema>;

/** A part of a long text, cut between words around its matches. */
const snippetSchema = object({ text, ranges: rangesSchema });

export type Snippet = Of<typeof snippetSchema>;

export const searchResultSchema = object(
  {
    id: text,
    record: as<RecordJson>({ type: 'object' }),
    /** JSON Pointer of a string in `record` to the ranges that matched in it. */
    marks: mapOf(rangesSchema),
    /** JSON Pointer of a text to its best parts. */
    snippets: mapOf(listOf(snippetSchema)),
    /** From the request's `near`, in metres. */
    distanceM: as<number>({ type: 'number', minimum: 0 }),
    /** A placement put it here. */
    pinned: yesOrNo,
    /** With grouping: how many more of the same group were found. */
    others: saying('More results of the same group.', count),
    /** Which of the request’s `conditions` it meets, by their numbers from 0; absent when it meets none. */
    meets: listOf(count),
    why: whySchema,
  },
  'distanceM',
  'pinned',
  'others',
  'meets',
  'why',
);

export type SearchResult = Of<typeof searchResultSchema>;

const understoodWordSchema = object(
  {
    text,
    /** Nothing matches the word as typed, so only misspellings of it were found. */
    typo: yesOrNo,
    /** The words of the data it was taken for, the likeliest first. */
    as: listOf(text),
    /**
     * When nothing was found and the word stands nowhere: the one of the data that is the same in another script, or
     * else is spelt most like it.
     */
    nearest: text,
    /** Present when it had more expansions than are looked up; the likeliest were. */
    capped: yesOrNo,
  },
  'nearest',
  'capped',
);

export type UnderstoodWord = Of<typeof understoodWordSchema>;

const searchAnswer = object({
  /** As it was searched: as typed, or what a placement put in its place. */
  query: text,
  /** Exact. */
  total: count,
  page: ordinal,
  pages: count,
  size: count,
  results: listOf(searchResultSchema),
  facets: mapOf(ref<FacetAnswer>('FacetAnswer')),
  understood: object(
    {
      words: listOf(understoodWordSchema),
      /** Words that were ignored: past the limit, or dropped so that something is found. */
      dropped: listOf(text),
      /** Names of the placements in effect. */
      placements: listOf(text),
      /** An address a placement sends the visitor to. */
      redirect: orNull(text),
      /** A text a placement shows above the results. */
      notice: orNull(text),
      /** Text fields that were not searched: the tuning names none, and there are more than are searched unasked. */
      unsearched: listOf(text),
      /** What was typed holds no word, number or symbol that could be found, so nothing is. */
      wordless: yesOrNo,
    },
    'unsearched',
    'wordless',
  ),
  queryId: text,
  /** Which state of the collection answered; it grows with every change. */
  generation: count,
  timing: object({ engineMs: number, totalMs: number }),
});

/** One answer to one search. */
export const searchAnswerSchema = as<Of<typeof searchAnswer>>({ $id: 'SearchAnswer', ...searchAnswer });

export type SearchAnswer = Of<typeof searchAnswer>;

const suggestionSchema = object(
  {
    text,
    /** The part of `text` that is typed already. */
    ranges: rangesSchema,
    /** Records behind it. */
    count,
    kind: oneOf('query', 'value', 'record'),
    /** The facet a value belongs to. */
    facet: text,
    /** The value as a choice names it: `text` is its label. */
    value: text,
    /** The key of a record. */
    id: text,
  },
  'facet',
  'value',
  'id',
);

/** Completions of what is being typed. */
export type Suggestion = Of<typeof suggestionSchema>;

export const suggestAnswerSchema = object({ q: text, suggestions: listOf(suggestionSchema) });

export type SuggestAnswer = Of<typeof suggestAnswerSchema>;
