import type { FromSchema } from 'json-schema-to-ts';
import { LIMITS } from './limits.ts';
import { count, listOf, object, share, text, type Of } from './schema-of.ts';

/** Some queries, answered by the draft and by another tuning that nobody has saved. */
export const trialSchema = {
  $id: 'Trial',
  type: 'object',
  additionalProperties: false,
  required: ['tuning', 'queries'],
  properties: {
    tuning: { type: 'object', description: 'A whole tuning document.' },
    queries: {
      type: 'array',
      minItems: 1,
      maxItems: 200,
      items: { type: 'string', maxLength: LIMITS.queryLength },
    },
  },
} as const;

export type Trial = FromSchema<typeof trialSchema>;

const foundSchema = object({ total: count, ids: listOf(text) });

/** What the tuning on trial does to one query. */
const trialEffectSchema = object({
  query: text,
  /** Rank-biased overlap of both rankings, 0 to 1. */
  alike: share,
  before: foundSchema,
  after: foundSchema,
});

export type TrialEffect = Of<typeof trialEffectSchema>;

export const trialAnswerSchema = object({
  /** In the order of the queries. */
  effects: listOf(trialEffectSchema),
});

export type TrialAnswer = Of<typeof trialAnswerSchema>;
