import { foldLetters } from './fold.ts';

/** Makes the stem of a folded word. */
type Stem = (word: string) => string;

const folded = (list: string): string[] =>
  list
    .split(' ')
    .map(foldLetters)
    .sort((a, b) => b.length - a.length);

/** Takes off the longest of some endings that leaves at least so many letters. */
function withoutEnding(word: string, endings: readonly string[], least: number): string {
  const ending = endings.find((one) => word.endsWith(one) && word.length - one.length >= least);
  return ending === undefined ? word : word.slice(0, -ending.length);
}

const ARABIC_BEGINNINGS = folded('وال بال كال فال لل ال');
const ARABIC_ENDINGS = folded('ها ان ات ون ين يه ية ه ي');

/** The light stemmer of Larkey, Ballesteros and Connell, "Light Stemming for Arabic Information Retrieval" (2007). */
const arabic: Stem = (word) => {
  const own = word.startsWith('و') && word.length > 3 ? word.slice(1) : word;
  const beginning = ARABIC_BEGINNINGS.find((one) => own.startsWith(one) && own.length - one.length >= 2);
  return withoutEnding(beginning === undefined ? own : own.slice(beginning.length), ARABIC_ENDINGS, 2);
};

/** Letters that are words of their own and written together with the next: and, that, the, as, to, in, from. */
const HEBREW_BEGINNINGS = 'ושהכלבמ';
const HEBREW_ENDINGS = folded('ים ות');

/** Plural endings, then up to two of those letters where a root of three letters is left. */
const hebrew: Stem = (word) => {
  let stem = withoutEnding(word, HEBREW_ENDINGS, 3);
  for (let taken = 0; taken < 2 && stem.length > 3 && HEBREW_BEGINNINGS.includes(stem[0]!); taken++)
    stem = stem.slice(1);
  return stem;
};

const KOREAN_PARTICLES = folded(
  '에서는 에서도 으로는 으로도 으로서 으로써 에게서 이라고 에서 에게 한테 으로 까지 부터 처럼 보다 마다 조차 밖에 ' +
    '하고 이나 라고 에는 에도 은 는 이 가 을 를 의 에 도 만 와 과 로 나',
);
/** Letters of the shortest noun that takes one: a syllable with a consonant at its end. */
const KOREAN_NOUN = 3;

/**
 * Particles (josa) behind a noun, up to two. Words come as letters (see fold.ts): a particle begins with a consonant
 * that a vowel follows, so it is always a syllable of its own.
 */
const korean: Stem = (word) =>
  withoutEnding(withoutEnding(word, KOREAN_PARTICLES, KOREAN_NOUN), KOREAN_PARTICLES, KOREAN_NOUN);

/** Stemmers for languages that Snowball has none for, by the names of stem-languages.ts. */
export const LIGHT_STEMS: Readonly<Record<string, Stem>> = { arabic, hebrew, korean };
