/** The languages of a page: which is meant, what it says in it, and what is wrong with its texts. */
import type { InterfaceDocument, Message, Messages, PageLanguage } from '@yucca/contract';
import { ENGLISH, LANGUAGES, type TextKey } from '@yucca/kit/texts';
import { LRUCache } from 'lru-cache';
import { fromIcu, namesIn, TextError } from './icu';

export type LanguageDocument = NonNullable<InterfaceDocument['languages']>[number];

const USUAL: LanguageDocument[] = [{ locale: 'en' }];

/** The languages of a design, the first one for who asks for none. */
export const languagesOf = ({ languages }: InterfaceDocument): readonly LanguageDocument[] =>
  languages !== undefined && languages.length > 0 ? languages : USUAL;

const primary = (locale: string): string => locale.toLowerCase().split('-')[0]!;

/** Languages written from right to left (Unicode CLDR, characterOrder), by the first part of their tags. */
const RIGHT_TO_LEFT = new Set(['ar', 'ckb', 'dv', 'fa', 'he', 'ps', 'sd', 'ug', 'ur', 'yi']);

/** The texts that come along in a language; undefined = they have to be written. */
export const shippedTexts = (locale: string): Record<TextKey, Message> | undefined => {
  const name = primary(locale);
  return Object.hasOwn(LANGUAGES, name) ? LANGUAGES[name] : undefined;
};

/** The texts of which nothing in this language is known: they are in English. */
export function missingTexts({ locale, texts = {} }: LanguageDocument): TextKey[] {
  if (shippedTexts(locale)) return [];
  return (Object.keys(ENGLISH) as TextKey[]).filter((key) => !Object.hasOwn(texts, key));
}

/** The language that is meant: the same tag, else another of the same language, else the first. */
export function meantLanguage(document: InterfaceDocument, wanted: string | null): LanguageDocument {
  const all = languagesOf(document);
  const tag = wanted?.toLowerCase() ?? '';
  return (
    all.find(({ locale }) => locale.toLowerCase() === tag) ??
    all.find(({ locale }) => tag !== '' && primary(locale) === primary(tag)) ??
    all[0]!
  );
}

/**
 * What a page says in a language. `isWhole`: all texts, for pages that bring none along; else those that are other than
 * the English ones. What cannot be read of a text (a design that is being written) is passed over.
 */
export function pageLanguage(document: InterfaceDocument, wanted: string | null, isWhole: boolean): PageLanguage {
  const { locale, texts = {}, labels = {} } = meantLanguage(document, wanted);
  const all: Record<string, Message> = { ...ENGLISH, ...shippedTexts(locale) };
  for (const [key, text] of Object.entries(texts)) {
    const { message } = read.memo(text);
    if (Object.hasOwn(ENGLISH, key) && message !== null) all[key] = message;
  }
  const english = ENGLISH as Messages;
  const own = isWhole ? all : Object.fromEntries(Object.entries(all).filter(([key, one]) => !isSame(one, english[key]!))); // prettier-ignore
  const named = Object.entries(labels).map(([name, label]) => [`label:${name}`, label] as const);
  return {
    locale,
    languages: languagesOf(document).map((one) => one.locale),
    dir: RIGHT_TO_LEFT.has(primary(locale)) ? 'rtl' : 'ltr',
    texts: { ...own, ...Object.fromEntries(named) },
    label(name) {
      if (Object.hasOwn(labels, name)) return labels[name]!;
      const said = Object.hasOwn(SECTION_TEXTS, name) ? all[SECTION_TEXTS[name]!] : undefined;
      return typeof said === 'string' ? said : name;
    },
  };
}

/** What sections of completions are called when a design does not say. */
export const SECTION_TEXTS: Readonly<Record<string, TextKey>> = {
  'Asked before': 'askedBefore',
  'Looked at before': 'lookedAt',
  'Go on with': 'goOnWith',
  'Popular now': 'popularNow',
};

const isSame = (a: Message, b: Message): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** Taken apart once, asked for with every page. */
const read = new LRUCache<string, { message: Message | null }>({
  max: 5_000,
  memoMethod: (text) => ({ message: messageOrNull(text) }),
});

function messageOrNull(text: string): Message | null {
  try {
    return fromIcu(text);
  } catch (error) {
    if (error instanceof TextError) return null;
    throw error;
  }
}

/** What is wrong with one text, as the end of a sentence; null when it can be used. */
export function textProblem(key: string, text: string): string | null {
  if (!Object.hasOwn(ENGLISH, key)) return `there is no text called “${key}”`;
  try {
    const known = namesIn(ENGLISH[key as TextKey]);
    const unknown = [...namesIn(fromIcu(text))].filter((name) => !known.has(name));
    if (unknown.length === 0) return null;
    const has = known.size === 0 ? 'has no values' : `has ${[...known].map((name) => `{${name}}`).join(', ')}`;
    return `the text names {${unknown[0]}}, and ${has}`;
  } catch (error) {
    if (error instanceof TextError) return `the text ${error.message}`;
    throw error;
  }
}

/** The tag of a language in its usual spelling (BCP 47); null for what is none. */
export function languageTag(text: string): string | null {
  try {
    const [tag] = Intl.getCanonicalLocales(text);
    // Numbers are written by the language: one that is not known here would be written as English.
    return tag !== undefined && Intl.NumberFormat.supportedLocalesOf(tag).length > 0 ? tag : null;
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}

/** What is wrong with the languages of a design. */
export function languageProblems({ languages = [] }: InterfaceDocument): { pointer: string; detail: string }[] {
  return languages.flatMap(({ locale, texts = {} }, i) => {
    const at = `/languages/${i}`;
    const isTwice = languages.findIndex((other) => other.locale === locale) < i;
    return [
      ...(languageTag(locale) === null ? [{ pointer: `${at}/locale`, detail: `“${locale}” is no language tag, such as de or pt-BR` }] : []), // prettier-ignore
      ...(isTwice ? [{ pointer: `${at}/locale`, detail: `“${locale}” is in the list twice` }] : []),
      ...Object.entries(texts).flatMap(([key, text]) => {
        const detail = textProblem(key, text);
        return detail === null ? [] : [{ pointer: `${at}/texts/${key}`, detail }];
      }),
    ];
  });
}
