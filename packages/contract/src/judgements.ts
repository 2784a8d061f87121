import type { FromSchema } from 'json-schema-to-ts';
import { LIMITS } from './limits.ts';
import { count, listOf, object, share, text, type Of } from './schema-of.ts';

/** What each grade says, from 0 on. */
export const GRADES = ['wrong', 'related', 'good', 'best'] as const;

const query = { type: 'string', minLength: 1, maxLength: LIMITS.queryLength } as const;
const grade = { type: 'integer', minimum: 0, maximum: GRADES.length - 1 } as const;

/** All judgements of a collection: for a query, how well records answer it. */
export const judgementsSchema = {
  $id: 'Judgements',
  type: 'object',
  additionalProperties: false,
  required: ['judgements'],
  properties: {
    judgements: {
      type: 'array',
      maxItems: 10_000,
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['query', 'grades'],
        properties: {
          query,
          grades: {
            type: 'object',
            maxProperties: 1_000,
            additionalProperties: grade,
            description: 'By record key: 0 wrong, 1 related, 2 good, 3 best. A record without a grade counts as 0.',
          },
        },
      },
    },
  },
} as const;

export interface Judgement {
  query: string;
  grades: { [recordId: string]: number };
}

export interface Judgements {
  judgements: Judgement[];
}

const merged = judgementsSchema.properties.judgements.items;

/** Some grades changed: null takes one back, and a query without grades is gone. */
export const judgementChangesSchema = {
  ...judgementsSchema,
  $id: 'JudgementChanges',
  properties: {
    judgements: {
      ...judgementsSchema.properties.judgements,
      items: {
        ...merged,
        properties: {
          query,
          grades: {
            ...merged.properties.grades,
            type: ['object', 'null'],
            additionalProperties: { ...grade, type: ['integer', 'null'] },
            description: 'Grades by record key; null takes one back. null for all of them removes the query.',
          },
        },
      },
    },
  },
} as const;

export interface JudgementChanges {
  judgements: { query: string; grades: { [recordId: string]: number | null } | null }[];
}

export const judgementRunSchema = {
  $id: 'JudgementRun',
  type: 'object',
  additionalProperties: false,
  properties: {
    queries: { type: 'array', maxItems: 1_000, items: query, description: 'Default: all that are judged.' },
    by: { enum: ['hand', 'visitors'], description: 'Whose judgements. Default: those made by hand.' },
  },
} as const;

export type JudgementRun = FromSchema<typeof judgementRunSchema>;

/** How well an answer does, each from 0 to 1. */
const scoresSchema = object({
  /** Normalised discounted cumulative gain of the first ten. */
  ndcg: share,
  /** Share of the first five that are good or best. */
  precision: share,
  /** 1 divided by the rank of the first good one; 0 when there is none in the first ten. */
  reciprocalRank: share,
  /** 1 when anything was found. */
  found: share,
});

export type Scores = Of<typeof scoresSchema>;

const judgedQuerySchema = object({
  query: text,
  /** Records with a grade. */
  judged: count,
  live: scoresSchema,
  draft: scoresSchema,
});

export type JudgedQuery = Of<typeof judgedQuerySchema>;

/** The scores of live and draft, for each query and on average. */
export const judgementScoresSchema = object({
  queries: listOf(judgedQuerySchema),
  live: scoresSchema,
  draft: scoresSchema,
});

export type JudgementScores = Of<typeof judgementScoresSchema>;
