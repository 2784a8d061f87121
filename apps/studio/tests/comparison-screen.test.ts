import fc from 'fast-check';
import type { TuningDocument } from '@yucca/contract';
import type { YuccaClient } from '@yucca/kit';
import { likenessOf } from '../src/features/tuning/kept-queries';
import {
  printSynonym,
  readSynonym,
  withFieldWeight,
  withSignalPart,
  withTypos,
  withWords,
  wordList,
} from '../src/features/tuning/levers';
import { movedWords, movements } from '../src/features/tuning/comparison/movement';
import { checkTuning } from '../src/server/tuning/tuning';

describe('movement', () => {
  const ranking = fc.uniqueArray(fc.constantFrom(...'abcdefghijklmnop'), { maxLength: 12 });

  test('every line ends where its result stands in both answers, and every result has one', () => {
    fc.assert(
      fc.property(ranking, ranking, (live, draft) => {
        const moved = movements(live, draft);
        expect(new Set(moved.map(({ id }) => id)).size).toBe(moved.length);
        expect(moved.map(({ id }) => id).sort()).toEqual([...new Set([...live, ...draft])].sort());
        for (const one of moved) {
          expect(one.left === null ? -1 : one.left).toBe(live.indexOf(one.id));
          expect(one.right === null ? -1 : one.right).toBe(draft.indexOf(one.id));
          const expected =
            one.left === null
              ? 'enters'
              : one.right === null
                ? 'leaves'
                : one.left > one.right
                  ? 'rises'
                  : one.left < one.right
                    ? 'falls'
                    : 'same';
          expect(one.kind).toBe(expected);
        }
      }),
    );
  });

  test('in a sign and in words', () => {
    const said = movements(['a', 'b', 'c', 'd'], ['c', 'b', 'x', 'a']).map((one) => [
      one.id,
      movedWords(one, 'version 3', 'the draft'),
    ]);
    expect(said).toEqual([
      ['c', { sign: '▲ 2', words: 'up 2 ranks' }],
      ['b', { sign: '', words: 'same rank' }],
      ['x', { sign: 'new', words: 'not near the top of version 3' }],
      ['a', { sign: '▼ 3', words: 'down 3 ranks' }],
      ['d', { sign: 'gone', words: 'not near the top of the draft' }],
    ]);
  });
});

describe('levers', () => {
  test('every change is one the server takes', () => {
    const start: TuningDocument = { search: [{ field: 'name' }], signals: [{ field: 'sales' }] };
    const changed = withSignalPart(withFieldWeight(withWords(start, { require: 'most' }), 'name', 7.5), 'sales', {
      weight: 3,
      shape: 'log',
    });
    expect(checkTuning(changed)).toEqual({
      words: { require: 'most' },
      search: [{ field: 'name', weight: 7.5 }],
      signals: [{ field: 'sales', weight: 3, shape: 'log' }],
    });
  });

  test('two typos are never allowed in shorter words than one, whichever is moved', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 12 }),
        fc.integer({ min: 1, max: 16 }),
        fc.boolean(),
        (one, two, oneFirst) => {
          const moves = oneFirst ? [{ oneFrom: one }, { twoFrom: two }] : [{ twoFrom: two }, { oneFrom: one }];
          const document = moves.reduce<TuningDocument>(withTypos, {});
          expect(() => checkTuning(document)).not.toThrow();
          const last = moves[1]!;
          expect(document.typos).toMatchObject(last);
        },
      ),
    );
  });

  test('synonyms as they are written, and back', () => {
    expect(readSynonym('snake plant = sansevieria, mother-in-law')).toEqual({
      ok: true,
      group: { kind: 'same', words: ['snake plant', 'sansevieria', 'mother-in-law'] },
    });
    expect(readSynonym(' succulent > agave , aloe')).toEqual({
      ok: true,
      group: { kind: 'oneWay', from: ['succulent'], to: ['agave', 'aloe'] },
    });
    for (const wrong of ['', 'alone', 'a =', 'a = a', '> b', 'a >', 'a > b > c'])
      expect(readSynonym(wrong).ok).toBe(false);
    for (const text of ['a b = c', 'a, b > c, d']) {
      const reading = readSynonym(text);
      expect(reading.ok && printSynonym(reading.group)).toBe(text);
    }
    expect(wordList(' a,b\n\nb , c ')).toEqual(['a', 'b', 'c']);
  });
});

test('kept queries are asked five at a time, both versions together', async () => {
  const calls: number[] = [];
  const results = (...ids: string[]) => ({ results: ids.map((id) => ({ id })) });
  const multiSearch = ((queries: readonly { q?: string; version?: string }[]) => {
    calls.push(queries.length);
    return Promise.resolve(
      queries.map(({ q, version }) =>
        q === 'broken' ? { status: 422 } : version === 'draft' && q === 'moved' ? results('b', 'a') : results('a', 'b'),
      ),
    );
  }) as unknown as YuccaClient['multiSearch'];
  const queries = ['same', 'moved', 'broken', 'x', 'y', 'z'];
  const found = await likenessOf({ multiSearch }, 'plants', queries, new AbortController().signal);
  expect(calls).toEqual([10, 2]);
  expect(Object.keys(found)).toEqual(queries);
  expect([found.same, found.broken]).toEqual([1, 1]);
  expect(found.moved).toBeLessThan(0.95);
});
