import fc from 'fast-check';
import { compareNatural } from '../src/text/natural-order.ts';
import { runs } from './arbitraries.ts';

const collator = new Intl.Collator('en', { numeric: true });
const plain = fc.string({ unit: 'grapheme-ascii', maxLength: 12 });
// Alike enough that the order hangs on a digit, a case, a sign.
const alike = fc.string({
  unit: fc.constantFrom('a', 'A', 'b', 'B', '0', '1', '2', '9', ' ', '-', '.', '_'),
  maxLength: 8,
});
const number = fc.tuple(fc.constantFrom('', 'size ', 'Size ', '0', '000'), fc.bigInt({ min: 0n, max: 10n ** 30n }), fc.constantFrom('', ' cm', ' CM', '.5')).map((parts) => parts.join('')); // prettier-ignore
const any = fc.oneof(plain, alike, number, fc.string({ unit: 'grapheme', maxLength: 6 }), fc.constantFrom('', 'é', 'e', 'E', '1'.repeat(300), `${'1'.repeat(300)}2`, '\u0001a')); // prettier-ignore

test('names stand in the order of the collator', () => {
  fc.assert(
    fc.property(any, any, (a, b) => {
      expect(Math.sign(compareNatural(a, b))).toBe(Math.sign(collator.compare(a, b)));
    }),
    runs(5_000),
  );
  fc.assert(
    fc.property(fc.array(fc.oneof(alike, number), { maxLength: 30 }), (names) => {
      expect([...names].sort(compareNatural)).toEqual([...names].sort(collator.compare));
    }),
    runs(300),
  );
});
