import { isCertain } from '../src/react/composition.ts';

test.each([
  // A phone's keyboard composes every word and does not tell its keys.
  ['lav', 'Unidentified', true],
  ['gärt', 'Unidentified', true],
  // On a desk an input method says that it processes a key: Latin letters on the way to other ones.
  ['zhi', 'Process', false],
  ["zhi'wu", 'Process', false],
  ["zhi'wu", 'Unidentified', false],
  // An accent waits for its letter.
  ['´', 'Dead', false],
  ['か', 'Process', false],
  ['植物', 'Process', false],
  // Syllables, and letters that stand for themselves, are what will be written.
  ['장ㅁ', 'Process', true],
  ['сад', 'Unidentified', true],
  ['', 'Unidentified', false],
])('%j, composed after the key %s: %s', (composed, key, certain) => {
  expect(isCertain(composed, key)).toBe(certain);
});
