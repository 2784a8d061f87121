/** The texts of a page in one language, as a JSON file that leaves the studio and comes back. */
import type { InterfacePage, Message } from '@yucca/contract';
import { readableName } from '@yucca/contract';
import { ENGLISH, type TextKey } from '@yucca/kit/texts';
import { toIcu } from './icu';
import { languageTag, SECTION_TEXTS, shippedTexts, textProblem, type LanguageDocument } from './page-language';

/** What stands for a text when a design says nothing of it, as it is written. */
export const usualText = (locale: string, key: TextKey): string =>
  toIcu(shippedTexts(locale)?.[key] ?? (ENGLISH[key] as Message));

/** A longer text is a language’s own: see `label` in the contract. */
const MOST_OF_A_LABEL = 200;

/** The names that a page has of its own: what can be called otherwise in another language. */
export function pageNames(page: InterfacePage): string[] {
  const { title, header, facets, sorts, autocomplete, card, shelves = [], badges = [], table = [], start } = page;
  const fields = [card.number].filter((field): field is string => field !== null).map(readableName);
  const names = [
    title,
    header?.name ?? title,
    ...[...facets, ...sorts, ...autocomplete, ...(header?.links ?? []), ...shelves, ...badges, ...table].map(
      ({ label }) => label,
    ),
    ...(start?.text === undefined || start.text.length > MOST_OF_A_LABEL ? [] : [start.text]),
    ...fields,
  ];
  return [...new Set(names)].filter((name) => !Object.hasOwn(SECTION_TEXTS, name));
}

interface LanguageFile {
  locale: string;
  /** By key, in ICU MessageFormat. */
  texts: Record<string, string>;
  /** By what they are called in the page's first language. */
  labels: Record<string, string>;
}

/** All texts of a language, as they are written, and the names of the page. */
export function languageFile(
  { locale, texts = {}, labels = {} }: LanguageDocument,
  names: readonly string[],
): LanguageFile {
  const keys = Object.keys(ENGLISH) as TextKey[];
  return {
    locale,
    texts: Object.fromEntries(keys.map((key) => [key, texts[key] ?? usualText(locale, key)])),
    labels: { ...Object.fromEntries(names.map((name) => [name, name])), ...labels },
  };
}

const isMap = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * Reads such a file: what in it is other than usual, and what was left out of it, with why. Throws an Error with a
 * sentence for a file that is none.
 */
export function readLanguageFile(value: unknown): { language: LanguageDocument; left: string[] } {
  if (!isMap(value) || typeof value.locale !== 'string')
    throw new Error('it has no “locale” that says which language it is');
  const locale = languageTag(value.locale);
  if (locale === null) throw new Error(`“${value.locale}” is no language tag, such as de or pt-BR`);
  const left: string[] = [];
  const texts: Record<string, string> = {};
  for (const [key, text] of Object.entries(isMap(value.texts) ? value.texts : {})) {
    const problem = typeof text === 'string' && text !== '' ? textProblem(key, text) : 'it is no text';
    if (problem !== null) left.push(`${key}: ${problem}`);
    else if (text !== usualText(locale, key as TextKey)) texts[key] = text as string;
  }
  const labels: Record<string, string> = {};
  for (const [name, label] of Object.entries(isMap(value.labels) ? value.labels : {})) {
    if (typeof label !== 'string' || label === '') left.push(`${name}: it is no text`);
    else if (label !== name) labels[name] = label;
  }
  return { language: languageOf(locale, texts, labels), left };
}

/** A language of a design, without what says nothing. */
export const languageOf = (
  locale: string,
  texts: Record<string, string>,
  labels: Record<string, string>,
): LanguageDocument => ({
  locale,
  ...(Object.keys(texts).length > 0 && { texts }),
  ...(Object.keys(labels).length > 0 && { labels }),
});
