import type { Range } from '@yucca/contract';
import fc from 'fast-check';
import { excerpt, markedPieces, pageNumbers } from '../src/index.ts';

test('the pieces put together are the text', () => {
  fc.assert(
    fc.property(fc.string(), fc.array(fc.nat({ max: 30 }), { maxLength: 6 }), (text, cuts) => {
      const edges = [...new Set(cuts.filter((cut) => cut <= text.length))].sort((a, b) => a - b);
      const ranges: Range[] = [];
      for (let i = 0; i + 1 < edges.length; i += 2) ranges.push([edges[i]!, edges[i + 1]!]);
      const pieces = markedPieces(text, ranges);
      expect(pieces.map((piece) => piece.text).join('')).toBe(text);
      expect(pieces.filter(({ marked }) => marked).map((piece) => piece.text)).toEqual(
        ranges.map(([start, end]) => text.slice(start, end)),
      );
    }),
  );
});

test('an excerpt holds the first mark and cuts between words', () => {
  const text = `${'word '.repeat(60)}agave ${'after '.repeat(60)}`;
  const at = text.indexOf('agave');
  const { text: part, ranges } = excerpt(text, [[at, at + 5]], 80);
  expect(part.slice(...ranges[0]!)).toBe('agave');
  expect(part).toMatch(/^… word /);
  expect(part).toMatch(/ after …$/);
  expect(part.length).toBeLessThan(90);
});

test('a short text is its own excerpt', () => {
  expect(excerpt('a rose', [[2, 6]])).toEqual({ text: 'a rose', ranges: [[2, 6]] });
});

test('page numbers show the ends, the neighbours and the gaps', () => {
  expect(pageNumbers(1, 1)).toEqual([1]);
  expect(pageNumbers(6, 12)).toEqual([1, 0, 5, 6, 7, 0, 12]);
  expect(pageNumbers(3, 5)).toEqual([1, 2, 3, 4, 5]);
  expect(pageNumbers(1, 0)).toEqual([]);
});
