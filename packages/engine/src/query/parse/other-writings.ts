import { foldLetters } from '../../text/fold.ts';
import { primaryLanguage } from '../../text/languages.ts';
import type { Word } from '../../text/words.ts';

/** Another way to write a word of the query: words that stand together, and how far that is trusted. */
export interface Writing {
  how: 'joined' | 'stem';
  words: string[];
  /** The rest of a longer word may follow. */
  prefix: boolean;
  /** A number in `languagesOf`: in texts of this language alone. */
  language?: number;
}

/** What loses its vowel before another one: articles, pronouns and the like, folded, by language. */
const ELIDED: Readonly<Record<string, ReadonlySet<string>>> = {
  fr: new Set('l d j m t s n c qu jusqu lorsqu puisqu quoiqu'.split(' ')),
  it: new Set('l d un m t s c v dell all nell sull dall coll quest quell bell sant dev gl'.split(' ')),
  ca: new Set('l d m t s n'.split(' ')),
};

/** Letters and what is written for them where a keyboard lacks them, folded: what people take each other for. */
const SPELLINGS: Readonly<Record<string, readonly (readonly [letter: RegExp, as: string, folded: string])[]>> = {
  de: umlauts('äa', 'öo', 'üu'),
  sv: [[/å/gi, 'aa', 'a'], ...umlauts('äa', 'öo')],
  da: [[/å/gi, 'aa', 'a']],
  nb: [[/å/gi, 'aa', 'a']],
  fi: umlauts('äa', 'öo'),
};

function umlauts(...pairs: string[]): [RegExp, string, string][] {
  return pairs.map(([letter, folded]) => [new RegExp(letter!, 'gi'), `${folded!}e`, folded!]);
}

/** Languages without rules, the ones that are asked for most. */
const PLAIN = new Set(['en', 'und', 'es', 'pt']);

/**
 * Other ways to write a word that was typed, some of them in texts of one language (BCP 47 tags) alone:
 *
 * - a run without spaces by its pairs of letters, so that it is found inside longer runs, however those are parted;
 * - kana of the other kind;
 * - without an article that is run together with it: `l'érable` is `érable`;
 * - German `mueller` and `Müller`, and what is like it elsewhere.
 *
 * @param typed the word as typed
 */
export function otherWritings(word: Word, typed: string, prefix: boolean, languages: readonly string[]): Writing[] {
  const { letters, text } = word;
  const found: Writing[] = [];
  if (letters) {
    if (letters.length > 2) found.push({ how: 'joined', words: pairsOf(letters), prefix: false });
    const other = letters.map(otherKana);
    if (other.join('') !== text)
      found.push({ how: 'stem', words: pairsOf(other), prefix: prefix || other.length === 1 });
    return found;
  }
  if (languages.length === 1) return writingsIn(languages[0]!, word, typed, prefix);
  return languages.flatMap((tag, language) =>
    writingsIn(tag, word, typed, prefix).map((writing) => ({ ...writing, language })),
  );
}

function writingsIn(language: string, { parts, text }: Word, typed: string, prefix: boolean): Writing[] {
  const found: Writing[] = [];
  if (parts === undefined && PLAIN.has(language)) return found;
  const primary = primaryLanguage(language);
  if (parts?.length === 2 && ELIDED[primary]?.has(parts[0]!)) found.push({ how: 'stem', words: [parts[1]!], prefix });
  const spelt = spellingsOf(
    text,
    typed.normalize('NFC'),
    SPELLINGS[primary === 'no' || primary === 'nn' ? 'nb' : primary] ?? [],
  );
  for (const one of spelt) found.push({ how: 'stem', words: [one], prefix });
  return found;
}

/** The pairs of neighbours; of one letter, itself. */
export const pairsOf = (letters: readonly string[]): string[] =>
  letters.length === 1 ? [...letters] : letters.slice(1).map((letter, i) => letters[i]! + letter);

const HIRAGANA = /[ぁ-ゖゝゞ]/g;
const KATAKANA = /[ァ-ヶヽヾ]/g;
/** How far katakana stand behind hiragana in Unicode. */
const KANA_STEP = 0x60;

function otherKana(letters: string): string {
  const moved = (by: number) => (kana: string) => String.fromCharCode(kana.charCodeAt(0) + by);
  const katakana = letters.replace(HIRAGANA, moved(KANA_STEP));
  return katakana === letters ? letters.replace(KATAKANA, moved(-KANA_STEP)) : katakana;
}

/** The word with its letters written out, and with what may be letters written out as those. */
function spellingsOf(text: string, typed: string, spellings: (typeof SPELLINGS)[string]): string[] {
  const out = foldLetters(spellings.reduce((all, [letter, as]) => all.replace(letter, as), typed));
  const back = spellings.reduce((all, [, as, folded]) => all.replaceAll(as, folded), text);
  return [...new Set([out, back])].filter((one) => one !== text);
}
