import type { FromSchema } from 'json-schema-to-ts';
import { LIMITS } from './limits.ts';

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

/** What the tuning on trial does to one query. */
export interface TrialEffect {
  query: string;
  /** Rank-biased overlap of both rankings, 0 to 1. */
  alike: number;
  before: { total: number; ids: string[] };
  after: { total: number; ids: string[] };
}

export interface TrialAnswer {
  /** In the order of the queries. */
  effects: TrialEffect[];
}
