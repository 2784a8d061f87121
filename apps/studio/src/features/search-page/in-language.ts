import type { InterfacePage } from '@yucca/contract';

type Languages = Pick<InterfacePage, 'locale' | 'languages'>;

/** The parameter that an address says the language of its page with; null for the first one, which needs no mention. */
export const languageParam = ({ locale, languages = [] }: Languages): string | null =>
  locale === undefined || languages.length === 0 || locale === languages[0] ? null : `lang=${locale}`;

/** An address of a page without parameters, in the language that the page is in. */
export function inLanguage(address: string, page: Languages): string {
  const param = languageParam(page);
  return param === null ? address : `${address}?${param}`;
}

/** The same address in each language that a page may be had in; nothing for one language. */
export const inLanguages = (address: string, { languages = [] }: Languages): Record<string, string> =>
  languages.length < 2
    ? {}
    : Object.fromEntries(languages.map((locale) => [locale, inLanguage(address, { locale, languages })]));
