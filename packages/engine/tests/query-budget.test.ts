import { completeTuning, type RecordJson } from '@yucca/contract';
import { parseQuery } from '../src/query/parse/parse-query.ts';
import { withinBudget } from '../src/query/match/query-budget.ts';
import { generationOf } from './arbitraries.ts';

const tuning = completeTuning({ search: [{ field: 'name' }] });
const names = ['red rose', 'red fern', 'red rose tall', 'tall fern', 'white agave'];
const records: RecordJson[] = names.map((name, i) => ({ id: String(i), name }));
const segments = generationOf(records, tuning, [2]).segments.map(({ segment }) => segment);

const kept = (q: string, mostRead: number) => {
  const { words, excluded, dropped } = withinBudget(parseQuery(q, tuning), segments, { mostRead });
  return { words: words.map(({ typed }) => typed), excluded: excluded.map(({ typed }) => typed), dropped };
};

test('a phrase counts the documents of its rarest word, over all segments', () => {
  // "red rose" may stand in one document of each segment, "tall fern" and "white agave" in one of the second.
  expect(kept('"red rose" "tall fern" "white agave"', 4).dropped).toEqual([]);
  expect(kept('"red rose" "tall fern" "white agave"', 3).dropped).toEqual(['"white agave"']);
  expect(kept('"tall fern" "red rose" "white agave"', 2)).toEqual({
    words: ['"tall fern"', '"white agave"'],
    excluded: [],
    dropped: ['"red rose"'],
  });
});

test('the first phrase is looked for whatever it costs, and excluded ones are the first to go', () => {
  expect(kept('-"tall fern" "red rose"', 1)).toEqual({
    words: ['"red rose"'],
    excluded: [],
    dropped: ['-"tall fern"'],
  });
  expect(kept('-"tall fern" red', 0)).toEqual({ words: ['red'], excluded: ['-"tall fern"'], dropped: [] });
});

test('words, phrases of one word and phrases that stand nowhere cost nothing', () => {
  expect(kept('"red rose" "fern" "blue moon" -agave rose', 2).dropped).toEqual([]);
});

test('what was dropped before stays named', () => {
  const many = '"red rose" "tall fern" "white agave" "red fern"';
  expect(kept(many, 2).dropped).toEqual(['"red fern"', '"tall fern"', '"white agave"']);
});

test('the larger a collection, the fewer words of a very long query count, but never fewer than eight', () => {
  const q = Array.from({ length: 14 }, (_, i) => `w${i}`).join(' ');
  // Five documents in both segments.
  const laid = (text: string, mostLaid: number) => withinBudget(parseQuery(text, tuning), segments, { mostLaid });
  expect(laid(q, 70).words).toHaveLength(14);
  expect(laid(q, 50)).toMatchObject({ words: { length: 10 }, dropped: ['w10', 'w11', 'w12', 'w13'] });
  expect(laid(q, 1).words).toHaveLength(8);
  // What is excluded is the first to go.
  expect(laid(`-x -y ${q}`, 75)).toMatchObject({ words: { length: 14 }, excluded: [{ text: 'x' }], dropped: ['-y'] });
  expect(withinBudget(parseQuery(q, tuning), []).words).toHaveLength(14);
});
