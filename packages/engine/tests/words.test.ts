import fc from 'fast-check';
import { MAX_WORD, sourceEnd, words } from '../src/text/words.ts';
import { tokens } from './reference/reference.ts';

const texts = (source: string): string[] => words(source).map(({ text }) => text);

test.each([
  ['Ficus Á, Père & Straße', ['ficus', 'a', 'pere', 'strasse']],
  ["O'Neill's and d’Ivoire", ['oneills', 'and', 'divoire']],
  ["'quoted' rock 'n' roll", ['quoted', 'rock', 'n', 'roll']],
  ['ﬁg ① Ｆｕｌｌ ½', ['fig', '1', 'full', '12']],
  ['Ærø Łódź ŒUVRE', ['aero', 'lodz', 'oeuvre']],
  ['ΟΔΟΣ οδός', ['οδοσ', 'οδοσ']],
  ['İstanbul', ['istanbul']],
  ['AG-204/B 3.5mm', ['ag', '204', 'b', '3', '5mm']],
  ['한국어 отдых', ['한국어', 'отдых']],
  ['💐🌷 rose🌹red', ['rose', 'red']],
  ['', []],
  ['…—!', []],
])('%j is split into %j', (source, expected) => {
  expect(texts(source)).toEqual(expected);
});

test('scripts without spaces are split into words', () => {
  expect(texts('東京の花屋').length).toBeGreaterThan(1);
  expect(texts('ดอกไม้สวย').length).toBeGreaterThan(1);
  expect(texts('花屋2026')).toContain('2026');
});

test('composed and decomposed letters are the same word', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme' }), (source) => {
      const plain = source.replace(/[\uac00-\ud7af\u1100-\u11ff]/g, '');
      expect(texts(plain.normalize('NFD'))).toEqual(texts(plain.normalize('NFC')));
    }),
  );
});

test('whatever the bytes, ranges are in order, inside the text, and never cut a character', () => {
  fc.assert(
    fc.property(fc.string({ unit: fc.nat({ max: 0xffff }).map((code) => String.fromCharCode(code)) }), (source) => {
      let last = 0;
      for (const { text, start, end } of words(source)) {
        expect(start).toBeGreaterThanOrEqual(last);
        expect(end).toBeGreaterThan(start);
        expect(end).toBeLessThanOrEqual(source.length);
        expect(text.length).toBeLessThanOrEqual(MAX_WORD);
        expect(source.slice(start, end).isWellFormed()).toBe(true);
        last = end;
      }
    }),
    { numRuns: 500 },
  );
});

test('for plain text the splitter agrees with the reference', () => {
  fc.assert(
    fc.property(fc.stringMatching(/^[a-zA-Zéüñßæø0-9 .,'-]{0,40}$/), (source) => {
      expect(words(source)).toEqual(tokens(source));
    }),
  );
});

test('a word of ten thousand letters is cut, and its range is whole', () => {
  const [word] = words('x'.repeat(10_000));
  expect(word).toEqual({ text: 'x'.repeat(MAX_WORD), start: 0, end: 10_000 });
});

test('the typed part of a word takes the accent of its last letter along', () => {
  const source = 'pe\u0300re';
  expect(source.slice(0, sourceEnd(source, 0, source.length, 2))).toBe('pe\u0300');
  expect(sourceEnd('straße', 0, 6, 5)).toBe(5);
  expect(sourceEnd("o'neill", 0, 7, 1)).toBe(1);
  expect(sourceEnd("o'neill", 0, 7, 3)).toBe(4);
});
