import fc from 'fast-check';
import { Spending } from '../src/query/spending.ts';
import { DocSet } from '../src/sets/doc-set.ts';
import { runs } from './arbitraries.ts';

const DOCS = 40;

test('documents by typos spent are those that counting them one by one finds', () => {
  // For each word: how many typos each document spends in it, 3 = it lacks the word; and how many the word may have.
  const word = fc.tuple(fc.array(fc.nat({ max: 3 }), { minLength: DOCS, maxLength: DOCS }), fc.nat({ max: 2 }));
  fc.assert(
    fc.property(fc.array(word, { minLength: 1, maxLength: 4 }), (words) => {
      const matches = words.map(([spent, most]) => ({
        readings: [],
        asWritten: 0,
        within: Array.from({ length: most + 1 }, (_, typos) =>
          DocSet.of(
            DOCS,
            spent.flatMap((own, doc) => (own <= typos ? [doc] : [])),
          ),
        ),
      }));
      const spending = new Spending(matches);
      expect(spending.most).toBe(words.reduce((sum, [, most]) => sum + most, 0));
      for (let typos = 0; typos <= spending.most; typos++) {
        const expected = Array.from({ length: DOCS }, (_, doc) => doc).filter((doc) => {
          const holdsAll = words.every(([spent, most]) => spent[doc]! <= most);
          return holdsAll && words.reduce((sum, [spent]) => sum + spent[doc]!, 0) <= typos;
        });
        expect([...spending.atMost(typos).list()]).toEqual(expected);
      }
    }),
    runs(200),
  );
});
