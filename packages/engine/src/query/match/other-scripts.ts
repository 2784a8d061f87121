import { endsWord, findNode, firstWord, type Trie } from '../../segment/trie.ts';
import { LATIN_SPELLINGS } from '../../text/latin-spellings.ts';

/** Letters of other scripts, one or two together, and how each is written in Latin ones. */
const SPELLINGS: ReadonlyMap<string, readonly string[]> = new Map(
  LATIN_SPELLINGS.split(';').map((line) => {
    const [letters, spellings] = line.split(' ') as [string, string];
    return [letters, spellings.split(',')];
  }),
);
const MOST_LETTERS = 2;

/** Scripts that leave most vowels out (Unicode Standard 6.1: abjads). */
const ABJAD = /[\p{Script=Hebrew}\p{Script=Arabic}]/u;
const VOWELS = ['a', 'e', 'i', 'o', 'u'];
const PLAIN_LATIN = /^[a-z]+$/;

/** Nodes looked at for one word: a name has few readings; what has more is no name. */
const MOST_NODES = 20_000;

/**
 * The words of a dictionary that are one word with `typed` in another script, by number: `moskva` and `москва`. Each
 * letter may be spelt by any of the systems of the Unicode CLDR; vowels between letters of an abjad may be missing.
 *
 * @param typed folded
 */
export function inOtherScripts(trie: Trie, typed: string): number[] {
  const found = new Set<number>();
  const walk = PLAIN_LATIN.test(typed) ? fromLatin : intoLatin;
  walk(trie, typed, (node) => {
    if (endsWord(trie, node)) found.add(firstWord(trie, node));
  });
  return [...found];
}

/** Down the dictionary by letters of other scripts whose spellings make up what is typed. */
function fromLatin(trie: Trie, typed: string, visit: (node: number) => void): void {
  let left = MOST_NODES;
  const down = (node: number, at: number, before: string): void => {
    if (at === typed.length && node > 0) visit(node);
    for (let child = node + 1; child < trie.ends[node]!; child = trie.ends[child]!) {
      if (left-- <= 0) return;
      const letter = String.fromCharCode(trie.labels[child]!);
      for (const spelling of SPELLINGS.get(letter) ?? []) take(child, at, letter, spelling);
      for (let next = child + 1; next < trie.ends[child]!; next = trie.ends[next]!) {
        const letters = letter + String.fromCharCode(trie.labels[next]!);
        for (const spelling of SPELLINGS.get(letters) ?? []) take(next, at, letters, spelling);
      }
    }
    // A vowel that is typed and not written.
    if (ABJAD.test(before) && VOWELS.includes(typed[at]!)) down(node, at + 1, before);
  };
  const take = (node: number, at: number, letters: string, spelling: string): void => {
    if (typed.startsWith(spelling, at)) down(node, at + spelling.length, letters);
  };
  down(0, 0, '');
}

/** Down the dictionary by the spellings of the letters that are typed. */
function intoLatin(trie: Trie, typed: string, visit: (node: number) => void): void {
  let left = MOST_NODES;
  const down = (node: number, at: number): void => {
    if (left-- <= 0) return;
    if (at === typed.length && node > 0) visit(node);
    for (let count = 1; count <= MOST_LETTERS && at + count <= typed.length; count++)
      for (const spelling of SPELLINGS.get(typed.slice(at, at + count)) ?? []) {
        const next = findNode(trie, spelling, node);
        if (next !== -1) down(next, at + count);
      }
    if (at > 0 && ABJAD.test(typed[at - 1]!))
      for (const vowel of VOWELS) {
        const next = findNode(trie, vowel, node);
        if (next !== -1) down(next, at);
      }
  };
  down(0, 0);
}
