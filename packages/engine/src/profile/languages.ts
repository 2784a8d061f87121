import type { FieldProfile, FieldProposal } from '@yucca/contract';
import { fieldWords } from '../text/field-words.ts';
import { primaryLanguage } from '../text/languages.ts';
import { stemAlgorithm } from '../text/stem-languages.ts';
import type { Looked } from './warnings.ts';

/** Last words of names of fields that tell a record's language. */
const TELLS = new Set(['lang', 'language', 'locale', 'sprache', 'langue', 'idioma', 'lingua', 'taal']);
/** More values than this are no list of languages. */
const MOST_LANGUAGES = 40;
const TAG = /^[a-z]{2,3}([-_][a-z0-9]{2,8}){0,2}$/i;

/** Languages whose tags are words or marks of their own at the end of a name: `part_no`, `user.id`. */
const MISTAKABLE = new Set(['no', 'id', 'is', 'am', 'to', 'or', 'as', 'so', 'se']);

const names = new Intl.DisplayNames('en', { type: 'language', fallback: 'none' });

/** Whether a tag is one of a language that there is. */
function isLanguage(tag: string): boolean {
  if (!TAG.test(tag)) return false;
  try {
    return names.of(tag.replaceAll('_', '-')) !== undefined;
  } catch (error) {
    if (error instanceof RangeError) return false;
    throw error;
  }
}

const nameOf = (tag: string): string => names.of(tag) ?? tag;

/**
 * Which fields tell the language of their record, and which hold texts of one language each: those that are called
 * alike but for it, as `title_de` beside `title` or `title.fr`.
 */
export function proposeLanguages(looked: readonly Looked[], fields: readonly FieldProfile[]): void {
  const byPath = new Map(fields.map((field) => [field.path, field]));
  for (const one of looked) {
    const languages = languagesIn(one);
    const field = byPath.get(one.facts.path);
    if (languages.length > 0 && field) field.proposal.language = ofRecords(languages);
  }
  const named = fields.flatMap((field) => {
    const tag = fieldWords(field.path).at(-1) ?? '';
    return isNamedBy(field, tag) ? [{ field, tag, base: baseOf(field.path, tag) }] : [];
  });
  for (const { field, tag, base } of named) {
    const tags = named.filter((one) => one.base === base).map((one) => one.tag);
    const hasSibling = tags.some((other) => other !== tag) || isText(byPath.get(base));
    const isSure = hasSibling && tags.some((one) => !MISTAKABLE.has(one));
    if (isSure) field.proposal.language = ofTexts(tag);
  }
}

function languagesIn({ facts }: Looked): string[] {
  const name = fieldWords(facts.path).at(-1) ?? '';
  const { distinct } = facts;
  if (!TELLS.has(name) || facts.lists > 0 || distinct.size > MOST_LANGUAGES) return [];
  const values = distinct.top(MOST_LANGUAGES).map(({ value }) => value);
  if (!values.every(isLanguage)) return [];
  const languages = [...new Set(values.map(primaryLanguage))].filter((tag) => stemAlgorithm(tag) !== null);
  return languages.length > 1 ? languages : [];
}

const isText = (field: FieldProfile | undefined): boolean => (field?.types.string ?? 0) > 0;

/** Whether the last word of a path is a language, and its values are texts that are searched. */
const isNamedBy = (field: FieldProfile, tag: string): boolean =>
  field.proposal.search !== null && isText(field) && tag.length === 2 && stemAlgorithm(tag) !== null;

/** The path without its last word: `title` of `title_de`, `title.fr`, `titleIt` and `title (nl)`. */
const baseOf = (path: string, word: string): string =>
  path.slice(0, path.toLowerCase().lastIndexOf(word)).replace(/[^\p{L}\p{N}]+$/u, '');

const ofTexts = (tag: string): NonNullable<FieldProposal['language']> => ({
  of: 'texts',
  languages: [tag],
  reason: `by its name its texts are in ${nameOf(tag)}`,
});

const ofRecords = (languages: string[]): NonNullable<FieldProposal['language']> => ({
  of: 'records',
  languages,
  reason: `it tells each record’s language: ${languages.map(nameOf).join(', ')}`,
});
