/** The texts of a page in the languages that come along, by the tag of the language (BCP 47). */
import type { Message } from '@yucca/contract';
import { ARABIC } from './arabic.ts';
import { ENGLISH } from './english.ts';
import { FRENCH } from './french.ts';
import { GERMAN } from './german.ts';
import { JAPANESE } from './japanese.ts';
import { SPANISH } from './spanish.ts';
import type { TextKey } from './texts.ts';

export { ARABIC, ENGLISH, FRENCH, GERMAN, JAPANESE, SPANISH };
export { textsOf, type Texts, type TextsOf, type TextValues } from './texts.ts';
export type { TextKey };

/** The languages that come along, by the first part of their tags. */
export const LANGUAGES: Readonly<Record<string, Record<TextKey, Message>>> = {
  en: ENGLISH,
  de: GERMAN,
  fr: FRENCH,
  es: SPANISH,
  ja: JAPANESE,
  ar: ARABIC,
};
