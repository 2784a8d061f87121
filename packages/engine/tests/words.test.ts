import fc from 'fast-check';
import { tokensInPlace } from '../src/text/tokens.ts';
import { MAX_WORD, sourceEnd, words } from '../src/text/words.ts';
import { placedTokens, tokens } from './reference/text.ts';
import { anyText } from './scripts.ts';

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
  ['한국 отдых', ['ㅎ\u1161ㄴㄱ\u116eㄱ', 'отдых']],
  ['💐🌷 rose🌹red © $', ['💐', '🌷', 'rose', 'red', '©', '$']],
  ['й и\u0306 ё', ['й', 'й', 'е']],
  ['١٩٨٧ १२', ['1987', '12']],
  ['5㎏ Ⅳ ﬁn', ['5kg', 'iv', 'fin']],
  ['👩🏽‍🌾 ❤️ 🇩🇪 1️⃣', ['👩‍🌾', '❤', '🇩🇪', '1']],
  ['soft\u00adhyphen می\u200cشود', ['softhyphen', 'ميشود']],
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
    fc.property(fc.oneof(fc.string({ unit: 'grapheme' }), anyText), (source) => {
      expect(texts(source.normalize('NFD'))).toEqual(texts(source.normalize('NFC')));
    }),
    { numRuns: 500 },
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
      expect(words(source).map(({ text, start, end }) => ({ text, start, end }))).toEqual(tokens(source));
    }),
  );
});

test('in every script all that a text can be found by is what the reference says', () => {
  const list = (all: { text: string; start: number; end: number; position: number }[]): string[] =>
    all.map(({ text, start, end, position }) => `${text} ${start}-${end} @${position}`).sort();
  fc.assert(
    fc.property(anyText, (source) => {
      const expected = placedTokens(source).map(({ place, ...token }) => ({ ...token, position: place }));
      expect(list(tokensInPlace(source))).toEqual(list(expected));
      // The word of each position comes first, whatever else stands there.
      const firsts = tokensInPlace(source).filter(({ position }, i, all) => position !== all[i - 1]?.position);
      const mains = placedTokens(source).filter(({ main }) => main);
      expect(firsts.map(({ text }) => text)).toEqual(mains.map(({ text }) => text));
    }),
    { numRuns: 1_000 },
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
