import type { SearchAnswer } from '@yucca/contract';
import { EMPTY_QUERY, pagesUpTo, withPage, withText, type Query } from '../src/index.ts';

/** A collection of 25 results in pages of 4; the record of each is its number. */
function collection(generation = 1) {
  const asked: number[] = [];
  const search = async ({ page }: Query): Promise<SearchAnswer> => {
    asked.push(page);
    const ids = Array.from({ length: 25 }, (_, i) => String(i + 1)).slice((page - 1) * 4, page * 4);
    return { page, size: 4, pages: 7, total: 25, generation, results: ids.map((id) => ({ id })) } as SearchAnswer;
  };
  return { asked, search };
}

const ids = ({ results }: SearchAnswer): string[] => results.map(({ id }) => id);
const upTo = (n: number): string[] => Array.from({ length: n }, (_, i) => String(i + 1));

test('the answer to page 3 holds pages 1 to 3', async () => {
  const { asked, search } = collection();
  const answer = await pagesUpTo(withPage(EMPTY_QUERY, 3), search);
  expect(ids(answer)).toEqual(upTo(12));
  expect([answer.page, asked]).toEqual([3, [1, 2, 3]]);
});

test('one page more asks for that page alone; one less for none', async () => {
  const { asked, search } = collection();
  const answered = withPage(EMPTY_QUERY, 2);
  const known = { answer: await pagesUpTo(answered, search), answered };
  asked.length = 0;
  const more = await pagesUpTo(withPage(EMPTY_QUERY, 3), search, known);
  expect([ids(more), asked]).toEqual([upTo(12), [3]]);
  const less = await pagesUpTo(withPage(EMPTY_QUERY, 1), search, known);
  expect([ids(less), less.page, asked]).toEqual([upTo(4), 1, [3]]);
});

test('another question, or a collection that has changed, starts from the first page', async () => {
  const { search } = collection(1);
  const answered = withPage(EMPTY_QUERY, 2);
  const known = { answer: await pagesUpTo(answered, search), answered };
  const other = collection(1);
  await pagesUpTo(withText(answered, 'rose'), other.search, known);
  expect(other.asked).toEqual([1]);
  const changed = collection(2);
  await pagesUpTo(withPage(EMPTY_QUERY, 3), changed.search, known);
  expect(changed.asked).toEqual([3, 1, 2, 3]);
});

test('a link to a page far down shows the first ten, and says so', async () => {
  const { asked, search } = collection();
  const answer = await pagesUpTo(withPage(EMPTY_QUERY, 300), search);
  expect([answer.page, asked.length]).toEqual([10, 10]);
});

test('a result that moved from one page to the next meanwhile is there once', async () => {
  const search = async ({ page }: Query): Promise<SearchAnswer> =>
    ({
      page,
      size: 2,
      generation: 1,
      results: page === 1 ? [{ id: 'a' }, { id: 'b' }] : [{ id: 'b' }, { id: 'c' }],
    }) as SearchAnswer;
  expect(ids(await pagesUpTo(withPage(EMPTY_QUERY, 2), search))).toEqual(['a', 'b', 'c']);
});
