import { completeTuning } from '@yucca/contract';
import fc from 'fast-check';
import { askedWords, readName } from '../src/query/facet-search.ts';
import { NameIndex } from '../src/query/name-index.ts';
import { words } from '../src/text/words.ts';
import { runs, word } from './arbitraries.ts';

const { typos } = completeTuning({ typos: { oneFrom: 2, twoFrom: 5 } });
const tuning = { ...completeTuning({}), typos };
const name = fc.array(word, { maxLength: 4 }).map((list) => list.join(' '));
const misspelt = word.map((written) => written.slice(0, 1) + written.slice(2));
const typed = fc.array(fc.oneof(word, misspelt), { minLength: 1, maxLength: 3 }).map((list) => list.join(' '));

test('the names that an index finds are those that fit when each is looked at', () => {
  fc.assert(
    fc.property(fc.array(name, { maxLength: 30 }), typed, (names, q) => {
      const written = names.map((one) => words(one));
      const asked = askedWords(q, tuning);
      const index = new NameIndex(written);
      const fitting = names.flatMap((one, i) => (readName(one, written[i]!, asked) === null ? [] : [i]));
      expect(index.find(asked)).toEqual(asked.length === 0 ? [] : fitting);
      expect(index.isOf([...written])).toBe(true);
      expect(index.isOf(names.map((one) => words(one)))).toBe(names.length === 0);
    }),
    runs(400),
  );
});
