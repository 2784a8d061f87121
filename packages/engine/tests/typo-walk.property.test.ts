import fc from 'fast-check';
import { typoDistances } from '../src/text/distance.ts';
import { walkTypos } from '../src/query/match/typo-walk.ts';
import { buildTrie, endWord, findNode, firstWord, wordAt } from '../src/segment/trie.ts';
import { distance } from './reference/reference.ts';

const word = fc.oneof(
  fc.stringMatching(/^[abc]{1,7}$/),
  fc.string({ minLength: 1, maxLength: 9, unit: fc.constantFrom('a', 'b', 'é', '木', 'z') }),
);
const dictionary = fc.uniqueArray(word, { maxLength: 40 }).map((list) => list.sort());

const leastPrefix = (query: string, written: string): number =>
  Math.min(...Array.from({ length: written.length }, (_, n) => distance(query, written.slice(0, n + 1))));

test('the walk finds every word within the distance and no other, at its least distance', () => {
  fc.assert(
    fc.property(
      dictionary,
      word,
      fc.constantFrom(1, 2),
      fc.boolean(),
      fc.boolean(),
      (sorted, query, maxTypos, prefix, firstLetter) => {
        const best = new Map<string, number>();
        const whole = new Map<string, number>();
        walkTypos(buildTrie(sorted), query, { maxTypos, prefix, firstLetter }, (run) => {
          for (let number = run.from; number < run.to; number++) {
            const target = run.whole ? whole : best;
            target.set(sorted[number]!, Math.min(run.typos, target.get(sorted[number]!) ?? 9));
          }
        });
        const allowed = sorted.filter((written) => firstLetter || written[0] === query[0]);
        expect(whole).toEqual(
          new Map(allowed.map((w) => [w, distance(query, w)] as const).filter(([, d]) => d <= maxTypos)),
        );
        const prefixes = prefix
          ? allowed.map((w) => [w, leastPrefix(query, w)] as const).filter(([, d]) => d <= maxTypos)
          : [];
        expect(best).toEqual(new Map(prefixes));
      },
    ),
    { numRuns: 1500 },
  );
});

test('the distance used for marks is the reference distance', () => {
  fc.assert(
    fc.property(word, word, (a, b) => {
      expect(typoDistances(a, b)).toEqual({ whole: distance(a, b), prefix: Math.min(leastPrefix(a, b), a.length) });
    }),
    { numRuns: 1000 },
  );
});

test('the trie gives back its words and finds every beginning as one run', () => {
  fc.assert(
    fc.property(dictionary, word, (sorted, letters) => {
      const trie = buildTrie(sorted);
      sorted.forEach((written, number) => expect(wordAt(trie, number)).toBe(written));
      const node = findNode(trie, letters);
      const expected = sorted.filter((written) => written.startsWith(letters));
      const found = node === -1 ? [] : sorted.slice(firstWord(trie, node), endWord(trie, node));
      expect(found).toEqual(expected);
    }),
    { numRuns: 1000 },
  );
});
