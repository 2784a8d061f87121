import { primaryLanguage } from './languages.ts';

/**
 * Names of the algorithms (Snowball's, and those of light-stems.ts) by primary language subtag (BCP 47). Apart from the
 * algorithms, which are large.
 */
const ALGORITHMS: Readonly<Record<string, string>> = {
  ar: 'arabic',
  ca: 'catalan',
  da: 'danish',
  de: 'german',
  en: 'english',
  es: 'spanish',
  fi: 'finnish',
  fr: 'french',
  he: 'hebrew',
  hu: 'hungarian',
  it: 'italian',
  ko: 'korean',
  nb: 'norwegian',
  nl: 'dutch',
  nn: 'norwegian',
  no: 'norwegian',
  pt: 'portuguese',
  ro: 'romanian',
  ru: 'russian',
  sv: 'swedish',
  tr: 'turkish',
};

/** The languages that have stems, by primary subtag. */
export const STEMMED: readonly string[] = Object.keys(ALGORITHMS);

/** The name of the algorithm that makes the stems of a language (BCP 47 tag), or null when it has none. */
export const stemAlgorithm = (language: string): string | null => ALGORITHMS[primaryLanguage(language)] ?? null;
