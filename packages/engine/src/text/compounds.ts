import { memoByObject } from '../memo/by-object.ts';
import { primaryLanguage } from './languages.ts';

/** Languages that write compounds as one word, by primary language subtag (BCP 47). */
const LANGUAGES = new Set(['da', 'de', 'fi', 'nb', 'nl', 'nn', 'no', 'sv']);

/** What stands between the parts of a compound, folded: linking letters and the endings of cases. */
const LINKS = ['', 's', 'es', 'n', 'en', 'ens', 'er', 'e'] as const;

/** Letters of the shortest word that is looked for inside others, and of what may stand beside it. */
export const LEAST_PART = 4;
const LEAST_REST = 3;
/** The shortest word that can be one of two. */
export const LEAST_COMPOUND = LEAST_PART + LEAST_REST;

export const writesCompounds = (language: string): boolean => LANGUAGES.has(primaryLanguage(language));

/** Numbers of those of some languages that write compounds as one word. */
export const compoundLanguages = memoByObject((languages: readonly string[]): readonly number[] =>
  languages.flatMap((language, number) => (writesCompounds(language) ? [number] : [])),
);

/**
 * Whether something is a word that others may follow: one that the collection holds, with or without a link behind it
 * (`garten`, `blumen`, `wirtschafts`), or two of those.
 */
export function beginsCompound(text: string, isWord: (text: string) => boolean): boolean {
  if (isLinked(text, isWord)) return true;
  for (let at = LEAST_REST; at <= text.length - LEAST_REST; at++)
    if (isLinked(text.slice(0, at), isWord) && isLinked(text.slice(at), isWord)) return true;
  return false;
}

function isLinked(text: string, isWord: (text: string) => boolean): boolean {
  return LINKS.some((link) => {
    const word = text.slice(0, text.length - link.length);
    return word.length >= LEAST_REST && text.endsWith(link) && isWord(word);
  });
}

/** Whether something is what may follow a word in a compound: a link or none, then a word or two. */
export function endsCompound(text: string, isWord: (text: string) => boolean): boolean {
  return LINKS.some((link) => {
    const rest = text.slice(link.length);
    if (rest.length < LEAST_REST || !text.startsWith(link)) return false;
    if (isWord(rest)) return true;
    for (let at = LEAST_REST; at <= rest.length - LEAST_REST; at++)
      if (isLinked(rest.slice(0, at), isWord) && isWord(rest.slice(at))) return true;
    return false;
  });
}
