import { RecentMatches } from '../src/query/match/recent-matches.ts';
import type { WordMatch } from '../src/query/match/word-match.ts';
import { DocSet } from '../src/sets/doc-set.ts';

/** A match whose one set takes 1 MB. */
const large = (): WordMatch => ({ expansions: [], within: [new DocSet(8 * 2 ** 20)], asWritten: 0 });

test('a match is made once, and the least recently used are given up when memory is short', () => {
  const recent = new RecentMatches(16 * 2 ** 20);
  const made: string[] = [];
  const get = (key: string): WordMatch =>
    recent.get(key, () => {
      made.push(key);
      return large();
    });
  expect(get('a')).toBe(get('a'));
  get('b');
  get('c');
  get('a');
  // A fourth does not fit into a quarter of 16 MB beside what comes with each; "b" was used longest ago.
  get('d');
  get('a');
  get('c');
  expect(made).toEqual(['a', 'b', 'c', 'd']);
  get('b');
  expect(made).toEqual(['a', 'b', 'c', 'd', 'b']);
});

test('sets that are remembered outlive the search they were made in', () => {
  const recent = new RecentMatches(0);
  const match = DocSet.scoped(() => {
    const found = recent.get('a', large);
    found.within[0]!.add(7);
    return found;
  });
  DocSet.scoped(() => new DocSet(8 * 2 ** 20).add(9));
  expect([...match.within[0]!.list()]).toEqual([7]);
});
