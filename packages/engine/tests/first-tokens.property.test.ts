/** Of a text only as many tokens are read as are wanted: they are those of the whole text. */
import fc from 'fast-check';
import { tokensInPlace } from '../src/text/tokens.ts';
import { runs } from './arbitraries.ts';
import { anyText } from './scripts.ts';

const codes = fc
  .array(
    fc.constantFrom(
      'ag',
      '204',
      'b',
      '3.5',
      'mm',
      "l'",
      'érable',
      '€',
      '®',
      '🌱',
      '植物',
      ' ',
      '-',
      '/',
      "'",
      '.',
      '…',
    ),
    {
      maxLength: 14,
    },
  )
  .map((parts) => parts.join(''));

test('in every script, and with all that stands at the position of its neighbour', () => {
  fc.assert(
    fc.property(fc.oneof(anyText, codes), fc.nat(12), (text, count) => {
      const all = tokensInPlace(text);
      const first = tokensInPlace(text, count);
      expect(first.length).toBeGreaterThanOrEqual(Math.min(count, all.length));
      expect(first).toEqual(all.slice(0, first.length));
    }),
    runs(2_000),
  );
});

test('it does stop', () => {
  expect(tokensInPlace('one two three four five', 2)).toHaveLength(2);
  // Whether a chain goes on shows at the word behind it.
  expect(tokensInPlace('wi-fi for all the rest', 1)).toHaveLength(4);
});
