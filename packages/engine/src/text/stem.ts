import { newStemmer } from 'snowball-stemmers';
import { LIGHT_STEMS } from './light-stems.ts';
import { stemAlgorithm } from './stem-languages.ts';

/** Words remembered for each language: a collection's small fresh part is stemmed again with every write. */
const REMEMBERED = 200_000;

/**
 * Stems by the Snowball algorithms (Porter 1980, Porter and Boulton 2001) of the package snowball-stemmers, and by
 * those of light-stems.ts. They are given folded words, since folded words are what is compared; a stem is only ever
 * compared with another stem.
 */
export type Stemmer = (word: string) => string;

const stemmers = new Map<string, Stemmer>();

/** The stemmer of a language (BCP 47 tag), or null when it has none. */
export function stemmerFor(language: string): Stemmer | null {
  const algorithm = stemAlgorithm(language);
  if (algorithm === null) return null;
  let stemmer = stemmers.get(algorithm);
  if (stemmer === undefined) stemmers.set(algorithm, (stemmer = remembering(algorithm)));
  return stemmer;
}

function snowball(algorithm: string): Stemmer {
  const stemmer = newStemmer(algorithm);
  return (word) => stemmer.stem(word);
}

/**
 * How a word ends that an algorithm may change: in the last letters of one of its endings. Most words of a list of
 * names end otherwise, and need not be gone through.
 */
const MAY_CHANGE: Readonly<Record<string, RegExp>> = {
  english: /(?:[sey]|ed|ing|ion|[eo]r|nt|ism|ic|[alu]l|[cglt]i)$/,
};

function remembering(algorithm: string): Stemmer {
  const mayChange = MAY_CHANGE[algorithm];
  const stemOf = LIGHT_STEMS[algorithm] ?? snowball(algorithm);
  const known = new Map<string, string>();
  return (word) => {
    // Codes and very long words have no forms; and the algorithms are made for letters.
    if (word.length < 3 || word.length > 32 || /[0-9]/.test(word)) return word;
    if (mayChange?.test(word) === false) return word;
    const found = known.get(word);
    if (found !== undefined) return found;
    if (known.size >= REMEMBERED) known.clear();
    const stem = stemOf(word);
    known.set(word, stem);
    return stem;
  };
}
