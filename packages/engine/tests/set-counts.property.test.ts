import fc from 'fast-check';
import { smallest } from '../src/query/rank/quickselect.ts';
import { tierNumbers, tiersOf } from '../src/query/rank/tiers.ts';
import { DocSet } from '../src/sets/doc-set.ts';
import { SetCounts } from '../src/sets/set-counts.ts';
import { runs } from './arbitraries.ts';

const DOCS = 70;
const setOf = (members: readonly boolean[]): DocSet =>
  DocSet.of(
    DOCS,
    members.flatMap((held, doc) => (held ? [doc] : [])),
  );
const members = fc.array(fc.boolean(), { minLength: DOCS, maxLength: DOCS });

test('documents are told by how many sets hold them', () => {
  fc.assert(
    fc.property(fc.array(members, { maxLength: 40 }), members, (sets, among) => {
      const counts = new SetCounts(DOCS, sets.map(setOf));
      const own = Array.from({ length: DOCS }, (_, doc) => sets.filter((set) => set[doc]).length);
      const left = setOf(among);
      const wanted = own.filter((_, doc) => among[doc]);
      fc.pre(wanted.length > 0);
      for (const [found, count] of [
        [counts.most(left), Math.max(...wanted)],
        [counts.fewest(left), Math.min(...wanted)],
      ] as const) {
        expect(found.count).toBe(count);
        expect([...found.set.list()]).toEqual(own.flatMap((one, doc) => (among[doc] && one === count ? [doc] : [])));
      }
      expect(left.count()).toBe(wanted.length);
    }),
    runs(200),
  );
});

test('as many sets as can be counted are counted', () => {
  const all = DocSet.all(DOCS);
  const counts = new SetCounts(
    DOCS,
    Array.from({ length: 127 }, () => all),
  );
  expect(counts.most(all)).toMatchObject({ count: 127 });
  expect(counts.fewest(all).set.count()).toBe(DOCS);
});

test('tiers part the results by words lacking and typos spent, best first, few documents or many', () => {
  // For each word: how many typos each document spends in it, 3 = it lacks the word; and how many the word may have.
  const docs = 600;
  const word = fc.tuple(fc.array(fc.nat({ max: 3 }), { minLength: 40, maxLength: 40 }), fc.nat({ max: 2 }));
  fc.assert(
    fc.property(fc.array(word, { minLength: 1, maxLength: 5 }), fc.constantFrom(40, docs), (words, count) => {
      const matches = words.map(([spent, most]) => ({
        expansions: [],
        asWritten: 0,
        within: Array.from({ length: most + 1 }, (_, typos) =>
          DocSet.of(
            docs,
            Array.from({ length: count }, (_, doc) => doc).filter((doc) => spent[doc % 40]! <= typos),
          ),
        ),
      }));
      const results = DocSet.of(
        docs,
        Array.from({ length: count }, (_, doc) => doc),
      );
      const numbers = tierNumbers(results.list(), matches);
      const tiers = [...tiersOf(results, matches)].map(({ tier, set }) => ({ tier, docs: [...set.list()] }));
      const expected = [...new Set(numbers)]
        .sort((a, b) => a - b)
        .map((tier) => ({ tier, docs: [...numbers.keys()].filter((doc) => numbers[doc] === tier) }));
      expect(tiers).toEqual(expected);
      expect(results.count()).toBe(count);
      // One by one: a document lacks a word when it would take more typos than the word may have.
      words.forEach(([spent, most]) => {
        for (let doc = 0; doc < count; doc++) numbers[doc]! -= spent[doc % 40]! > most ? 128 : spent[doc % 40]!;
      });
      expect([...numbers].every((left) => left === 0)).toBe(true);
    }),
    runs(100),
  );
});

test('the number of a rank is the one sorting would put there', () => {
  const number = fc.oneof(fc.integer({ min: 0, max: 5 }), fc.double({ noNaN: true }), fc.constant(Infinity));
  fc.assert(
    fc.property(fc.array(number, { minLength: 1, maxLength: 300 }), fc.nat(), (numbers, at) => {
      const rank = 1 + (at % numbers.length);
      const sorted = Float64Array.from(numbers).sort();
      expect(smallest(Float64Array.from(numbers), rank) - sorted[rank - 1]! || 0).toBe(0);
    }),
    runs(500),
  );
});

test('of very many numbers, too, whether a sample tells what to expect or misleads', () => {
  const count = 30_000;
  const mixed = Float64Array.from({ length: count }, (_, i) => (Math.imul(i + 1, 2_654_435_761) >>> 0) % 9_973);
  // Every 64th is large: the sample knows nothing of the small ones.
  const misleading = mixed.map((number, i) => (i % 64 === 0 ? 100_000 : number));
  // And here only those are small.
  const few = mixed.map((number, i) => (i % 64 === 0 ? 0 : number + 1));
  for (const numbers of [mixed, misleading, few, mixed.slice().fill(3), mixed.slice().sort()]) {
    const sorted = numbers.slice().sort();
    const before = numbers.slice();
    for (const rank of [1, 2, 20, 469, 470, 10_000, count]) expect(smallest(numbers, rank)).toBe(sorted[rank - 1]);
    expect(numbers).toEqual(before);
  }
});
