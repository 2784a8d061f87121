import type { FromSchema } from 'json-schema-to-ts';
import { count, kinds, listOf, object, oneOf, ordinal, orNull, text, yesOrNo, type Of } from './schema-of.ts';
import { searchRequestSchema, searchResultSchema } from './search.ts';

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

/** A word of a record that is spelt nearly like one of a query. */
const nearestWordSchema = object({
  text,
  field: text,
  /** Typos between the two. */
  typos: count,
  /** What was typed is its beginning. */
  begins: yesOrNo,
});

export type NearestWord = Of<typeof nearestWordSchema>;

/** What keeps a record out of the results. */
const reasonSchema = kinds(
  // There is no such record.
  object({ kind: oneOf('absent') }),
  // It does not fulfil the request's condition.
  object({ kind: oneOf('filter') }),
  // It lies further away than was asked for, or has no position.
  object({ kind: oneOf('near') }),
  // It does not have what was chosen in a facet.
  object({ kind: oneOf('choice'), facet: text }),
  // It holds what was excluded with a minus.
  object({ kind: oneOf('excluded'), word: text }),
  // A required word of the query, with the word of the record that comes nearest to it.
  object({ kind: oneOf('word'), word: text, typosAllowed: count, nearest: orNull(nearestWordSchema) }),
  // A placement hides it.
  object({ kind: oneOf('hidden'), placement: text }),
  // Another record of its group stands for it.
  object({ kind: oneOf('group'), field: text }),
  // It is among the results, further down than ranks are counted.
  object({ kind: oneOf('far') }),
);

export type Reason = Of<typeof reasonSchema>;

/** Where a record stands among the results of a search, or all that keeps it out of them. */
export const whereaboutsSchema = object({
  id: text,
  /** From 1; null when it is not among the results. */
  place: orNull(ordinal),
  total: count,
  /** With its explanation, when it is among them. */
  result: orNull(searchResultSchema),
  reasons: listOf(reasonSchema),
});

export type Whereabouts = Of<typeof whereaboutsSchema>;
