import fc from 'fast-check';
import { WordTable } from '../src/segment/word-table.ts';
import { runs } from './arbitraries.ts';

/** Words that stand in their slots, words that are too long for one, and words of other letters, often again. */
const word = fc.oneof(
  fc.string({ unit: fc.constantFrom(...'ab019z'), maxLength: 20 }),
  fc.string({ unit: fc.constantFrom('a', 'z', '0', 'é', '植', '{', '-', 'A', '\u0000', '😀'), maxLength: 8 }),
);

test('words get numbers in the order they come, are found again, and are sorted as texts are', () => {
  fc.assert(
    fc.property(fc.array(word, { maxLength: 200 }), fc.array(word, { maxLength: 20 }), (coming, asked) => {
      const table = new WordTable();
      const known = new Map<string, number>();
      for (const text of coming) {
        if (!known.has(text)) known.set(text, known.size);
        expect(table.numberOf(text)).toBe(known.get(text));
      }
      expect(table.size).toBe(known.size);
      for (const text of [...coming, ...asked]) expect(table.find(text)).toBe(known.get(text) ?? -1);
      const { words, numbers } = table.sorted();
      expect(words).toEqual([...known.keys()].sort());
      expect([...numbers]).toEqual(words.map((text) => known.get(text)));
    }),
    runs(500),
  );
});

test('a table that grows forgets nothing', () => {
  const table = new WordTable();
  const words = Array.from({ length: 20_000 }, (_, i) => ((i * 2_654_435_761) >>> 0).toString(36));
  words.forEach((text, number) => expect(table.numberOf(text)).toBe(number));
  expect(words.every((text, number) => table.find(text) === number)).toBe(true);
  expect(table.sorted().words).toEqual([...words].sort());
});
