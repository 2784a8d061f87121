import { as, listOf, object, saying, text, type Of } from './schema-of.ts';

/** One bad part of a request: where (JSON Pointer, RFC 6901) and why. */
const problemPartSchema = object({ pointer: text, detail: text });

export type ProblemPart = Of<typeof problemPartSchema>;

export const problemSchema = saying(
  'Problem Details (RFC 9457).',
  object(
    {
      type: text,
      title: text,
      status: as<number>({ type: 'integer', minimum: 400, maximum: 599 }),
      detail: text,
      errors: listOf(problemPartSchema),
    },
    'errors',
  ),
);

/** Problem Details (RFC 9457). */
export type ProblemJson = Of<typeof problemSchema>;
