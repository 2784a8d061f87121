import type { Segment } from '../segment/segment.ts';
import { findWord } from '../segment/trie.ts';
import { eachWord } from '../text/words.ts';

/** What ends a word whatever stands before it: signs and spaces of ASCII, but for those that words go on behind. */
const ENDS_WORD = /[\0-\x7f]/;
const GOES_ON = /[a-zA-Z0-9'$]/;

/**
 * The documents of which a text in a searched field may begin so, some of them twice: those that hold the rarest of the
 * words which end inside of the beginning. Null when it ends none, or the words of the field's texts are not known.
 */
export function docsWithWordsOf(segment: Segment, path: string, beginning: string): Uint32Array | null {
  const { meta, trie, groupStarts, groupFields, groupPosts, postDocs } = segment;
  const field = meta.searchFields.indexOf(path);
  // What no tuning has named is searched in part, and tags are no words.
  if (field === -1 || !meta.planned.includes(path) || meta.html.includes(path)) return null;
  let fewest: Uint32Array | null = null;
  for (const word of wholeWords(beginning)) {
    const term = findWord(trie, word);
    let docs: Uint32Array = NONE;
    for (let group = term === -1 ? 0 : groupStarts[term]!; term !== -1 && group < groupStarts[term + 1]!; group++)
      if (groupFields[group] === field) docs = postDocs.subarray(groupPosts[group], groupPosts[group + 1]);
    if (fewest === null || docs.length < fewest.length) fewest = docs;
  }
  return fewest;
}

const NONE = new Uint32Array(0);

/** The words of a text that stay what they are, whatever comes behind it. */
function wholeWords(text: string): string[] {
  const found: string[] = [];
  eachWord(text, {
    word(word, _start, end) {
      const next = text.charAt(end);
      if (ENDS_WORD.test(next) && !GOES_ON.test(next)) found.push(word);
    },
    // How a run without spaces is parted depends on what comes.
    run: () => undefined,
    symbol: () => undefined,
  });
  return found;
}
