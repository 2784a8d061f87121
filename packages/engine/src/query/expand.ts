import type { Segment } from '../segment/segment.ts';
import { endsWord, endWord, findNode, firstWord } from '../segment/trie.ts';
import type { QueryWord } from './parse.ts';
import { walkTypos, type WordRun } from './typo-walk.ts';

/** The dictionary words a query word stands for in one segment, by typos ascending, whole words before beginnings. */
export function expandWord(segment: Segment, word: QueryWord, firstLetter: boolean): WordRun[] {
  const { trie } = segment;
  const runs: WordRun[] = [];
  const node = findNode(trie, word.text);
  if (node > 0) {
    const from = firstWord(trie, node);
    if (endsWord(trie, node)) runs.push({ from, to: from + 1, typos: 0, whole: true });
    if (word.prefix) runs.push({ from, to: endWord(trie, node), typos: 0, whole: false });
  }
  if (word.typos > 0) {
    walkTypos(trie, word.text, { maxTypos: word.typos, prefix: word.prefix, firstLetter }, (run) => {
      if (run.typos > 0) runs.push(run);
    });
  }
  // A stable sort: within one distance the order of the dictionary stays.
  return runs.sort((a, b) => a.typos - b.typos || Number(b.whole) - Number(a.whole));
}

/** How many postings the runs hold: the measure of how common a word is. Runs of one distance may overlap. */
export function countPostings(segment: Segment, runs: readonly WordRun[]): number {
  let count = 0;
  for (const { from, to } of runs) count += segment.postStarts[to]! - segment.postStarts[from]!;
  return count;
}
