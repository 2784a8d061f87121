import fc from 'fast-check';
import { applyMergePatch } from '../src/server/records/merge-patch';

// The examples of RFC 7396, Appendix A.
test.each([
  [{ a: 'b' }, { a: 'c' }, { a: 'c' }],
  [{ a: 'b' }, { b: 'c' }, { a: 'b', b: 'c' }],
  [{ a: 'b' }, { a: null }, {}],
  [{ a: 'b', b: 'c' }, { a: null }, { b: 'c' }],
  [{ a: ['b'] }, { a: 'c' }, { a: 'c' }],
  [{ a: 'c' }, { a: ['b'] }, { a: ['b'] }],
  [{ a: { b: 'c' } }, { a: { b: 'd', c: null } }, { a: { b: 'd' } }],
  [{ a: [{ b: 'c' }] }, { a: [1] }, { a: [1] }],
  [
    ['a', 'b'],
    ['c', 'd'],
    ['c', 'd'],
  ],
  [{ a: 'b' }, ['c'], ['c']],
  [{ a: 'foo' }, null, null],
  [{ a: 'foo' }, 'bar', 'bar'],
  [{ e: null }, { a: 1 }, { e: null, a: 1 }],
  [[1, 2], { a: 'b', c: null }, { a: 'b' }],
  [{}, { a: { bb: { ccc: null } } }, { a: { bb: {} } }],
])('%j patched with %j is %j', (target, patch, expected) => {
  const before = JSON.stringify(target);
  expect(applyMergePatch(target, patch)).toEqual(expected);
  expect(JSON.stringify(target)).toBe(before);
});

test('a field called __proto__ is a field', () => {
  const patched = applyMergePatch({ a: 1 }, JSON.parse('{"__proto__":{"polluted":true}}'));
  expect(JSON.stringify(patched)).toBe('{"a":1,"__proto__":{"polluted":true}}');
  expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
});

test('patching twice is patching once', () => {
  fc.assert(
    fc.property(fc.jsonValue(), fc.jsonValue(), (target, patch) => {
      const once = applyMergePatch(target, patch);
      expect(applyMergePatch(once, patch)).toEqual(once);
    }),
  );
});
