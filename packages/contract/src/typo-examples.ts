import { count, listOf, object, text, type Of } from './schema-of.ts';

/** A word as somebody types it, and a word of the data that it is taken for in one version and not in the other. */
const typoExampleSchema = object({
  typed: text,
  as: text,
  typos: count,
  /** Records that hold the word it is taken for. */
  records: count,
});

export type TypoExample = Of<typeof typoExampleSchema>;

/** What the typo rules of the draft let in, and keep out, against those of live. */
export const typoExamplesSchema = object({
  /** Common words of the data that were tried. */
  tried: count,
  gained: listOf(typoExampleSchema),
  lost: listOf(typoExampleSchema),
  /** Of all that were tried, the examples left out included. */
  gainedCount: count,
  lostCount: count,
});

export type TypoExamples = Of<typeof typoExamplesSchema>;
