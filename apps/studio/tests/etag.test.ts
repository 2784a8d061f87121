import fc from 'fast-check';
import { etagOf } from '../src/http/etag';

test('the same text has the same validator, other texts others', () => {
  const seen = new Map<string, string>();
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme', maxLength: 60 }), (text) => {
      const etag = etagOf(text);
      expect(etag).toMatch(/^"[0-9a-z-]+"$/);
      expect(etagOf(text)).toBe(etag);
      expect(seen.get(etag) ?? text).toBe(text);
      seen.set(etag, text);
    }),
    { numRuns: 5_000 },
  );
});

test('a digit more or less in the state is another validator', () => {
  const states = Array.from({ length: 20_000 }, (_, i) => etagOf(`4711/1795790000000/${i}/2026-11-27?q=rose`));
  expect(new Set(states).size).toBe(states.length);
});
