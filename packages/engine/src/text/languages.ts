import type { Tuning } from '@yucca/contract';
import { memoByObject } from '../memo/by-object.ts';

/**
 * The languages of a collection's texts (BCP 47 tags), the one of all that names no other first. Words of a query are
 * tried by the rules of each, because nobody says in which language they type; see query/match/text-languages.ts for
 * what that reaches.
 */
export const languagesOf = memoByObject(({ language, otherLanguages, languageField }: Tuning): readonly string[] => [
  language,
  ...otherLanguages.filter(({ fields }) => languageField !== null || fields.length > 0).map((other) => other.language),
]);

/** The first part of a tag, `de` of `de-AT`: what tells languages apart. */
export const primaryLanguage = (tag: string): string => tag.trim().toLowerCase().split(/[-_]/, 1)[0]!;

/** Which of some languages a value of a record names; the first where it names none. */
export function namedLanguage(languages: readonly string[], value: string): number {
  const tag = value.trim().toLowerCase().replaceAll('_', '-');
  const asWritten = languages.findIndex((language) => language.toLowerCase() === tag);
  if (asWritten !== -1) return asWritten;
  const primary = primaryLanguage(tag);
  return Math.max(
    0,
    languages.findIndex((language) => primaryLanguage(language) === primary),
  );
}

/** Of what depends on a language: a number in `languagesOf`, or nothing where there is but one. */
export interface OnlyIn {
  language?: number;
}

/** What tells that something counts in one of several languages alone. */
export const only = (number: number, { length }: readonly string[]): OnlyIn =>
  length === 1 ? {} : { language: number };
