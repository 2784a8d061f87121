import fc from 'fast-check';
import { newStemmer } from 'snowball-stemmers';
import { stemmerFor } from '../src/text/stem.ts';
import { runs } from './arbitraries.ts';

const ENDINGS =
  'eed eedly ed edly ing ingly tional enci anci abli entli izer ization ational ation ator alism aliti alli fulness ousli ousness iveness iviti biliti bli ogi fulli lessli li alize icate iciti ical ful ness ative al ance ence er ic able ible ant ement ment ent ism ate iti ous ive ize ion e l ll s ss us ies ied y ly'.split(
    ' ',
  );
const letters = fc.string({ unit: fc.constantFrom(...'abcdefghijklmnopqrstuvwxyz'), minLength: 1, maxLength: 9 });
const word = fc
  .tuple(letters, fc.constantFrom('', ...ENDINGS), fc.constantFrom('', ...ENDINGS))
  .map((parts) => parts.join(''))
  .filter(({ length }) => length >= 3 && length <= 32);

test('words whose endings say that they stay as they are do so by the algorithm', () => {
  const english = newStemmer('english');
  const stem = stemmerFor('en')!;
  fc.assert(
    fc.property(word, (text) => {
      expect(stem(text)).toBe(english.stem(text));
    }),
    runs(3_000),
  );
});
