/** Names of the Snowball algorithms by primary language subtag (BCP 47). Apart from the algorithms, which are large. */
const ALGORITHMS: Readonly<Record<string, string>> = {
  ca: 'catalan',
  da: 'danish',
  de: 'german',
  en: 'english',
  es: 'spanish',
  fi: 'finnish',
  fr: 'french',
  hu: 'hungarian',
  it: 'italian',
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

/** The name of the algorithm that makes the stems of a language (BCP 47 tag), or null when it has none. */
export const stemAlgorithm = (language: string): string | null =>
  ALGORITHMS[language.toLowerCase().split('-')[0]!] ?? null;
