import { completeTuning } from '@yucca/contract';
import { search } from '../../src/index.ts';
import { generationOf } from '../arbitraries.ts';
import { PAIRS } from './pairs.ts';

interface Pair {
  language: string;
  text: string;
  typed: string;
  marked: string | null;
}

const pairs = Object.entries(PAIRS).flatMap(([language, table]) =>
  table
    .trim()
    .split('\n')
    .map((line): Pair => {
      const [text, typed, marked] = line.trim().split(' | ');
      return { language, text: text!, typed: typed!.replace('␣', ' '), marked: marked === '-' ? null : marked! };
    }),
);

test('the table is as large as it shall be', () => {
  expect(pairs.length).toBeGreaterThanOrEqual(300);
  expect(Object.keys(PAIRS).length).toBeGreaterThanOrEqual(25);
});

test.each(pairs)('$language: “$typed” in “$text” finds “$marked”', ({ language, text, typed, marked }) => {
  const tuning = completeTuning({ search: [{ field: 'name' }], language, stems: true, typos: { enabled: false } });
  const records = [
    { id: 'other', name: 'zzz qqq' },
    { id: 'it', name: text },
  ];
  const { results } = search(generationOf(records, tuning), tuning, { q: typed });
  expect(results.map(({ id }) => id)).toEqual(marked === null ? [] : ['it']);
  if (marked === null) return;
  const ranges = results[0]!.marks['/name'] ?? [];
  const whole = text.slice(ranges[0]![0], ranges.at(-1)![1]);
  expect(whole.replace(/^[ -]+/, '')).toBe(marked);
  // No mark begins or ends inside what a reader sees as one letter.
  const borders = new Set([...new Intl.Segmenter().segment(text)].map(({ index }) => index).concat(text.length));
  for (const [start, end] of ranges) expect([borders.has(start), borders.has(end)]).toEqual([true, true]);
});
