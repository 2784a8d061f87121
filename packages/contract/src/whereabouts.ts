import type { FromSchema } from 'json-schema-to-ts';
import { searchRequestSchema, type SearchResult } from './search.ts';

const word = { type: 'string', minLength: 1, maxLength: 512 } as const;

/** A search, and the record that is looked for in it. */
export const whereaboutsRequestSchema = {
  $id: 'WhereaboutsRequest',
  type: 'object',
  additionalProperties: false,
  required: ['id'],
  properties: { ...searchRequestSchema.properties, id: { ...word, description: 'The key of the record.' } },
} as const;

export type WhereaboutsRequest = FromSchema<typeof whereaboutsRequestSchema>;

/** What keeps a record out of the results. */
export type Reason =
  /** There is no such record. */
  | { kind: 'absent' }
  /** It does not fulfil the request's condition. */
  | { kind: 'filter' }
  /** It lies further away than was asked for, or has no place. */
  | { kind: 'near' }
  /** It does not have what was chosen in a facet. */
  | { kind: 'choice'; facet: string }
  /** It holds what was excluded with a minus. */
  | { kind: 'excluded'; word: string }
  /** A required word of the query, with the word of the record that comes nearest to it. */
  | { kind: 'word'; word: string; typosAllowed: number; nearest: NearestWord | null }
  /** A placement hides it. */
  | { kind: 'hidden'; placement: string }
  /** Another record of its group stands for it. */
  | { kind: 'group'; field: string }
  /** It is among the results, further down than places are counted. */
  | { kind: 'far' };

/** A word of a record that is spelt nearly like one of a query. */
export interface NearestWord {
  text: string;
  field: string;
  /** Typos between the two. */
  typos: number;
  /** What was typed is its beginning. */
  begins: boolean;
}

/** Where a record stands among the results of a search, or all that keeps it out of them. */
export interface Whereabouts {
  id: string;
  /** From 1; null when it is not among the results. */
  place: number | null;
  total: number;
  /** With its explanation, when it is among them. */
  result: SearchResult | null;
  reasons: Reason[];
}
