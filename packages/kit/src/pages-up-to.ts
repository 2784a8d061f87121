import { QUERIES_PER_CALL, type SearchAnswer } from '@yucca/contract';
import { withPage, type Query } from './query.ts';

/** An answer, and the query it answers. */
export interface Answered {
  answer: SearchAnswer;
  answered: Query;
}

/** Pages asked for at once: a link to page 300 shows the first of them, and goes on from there. */
const MOST_AT_ONCE = QUERIES_PER_CALL;

const samePages = (a: Query, b: Query): boolean =>
  JSON.stringify({ ...a, page: 1 }) === JSON.stringify({ ...b, page: 1 });

/**
 * All pages up to the one a query names, as one answer whose `page` is the last of them. Pages that `known` holds are
 * not asked for again, unless the collection has changed meanwhile: then they might not fit together, and all are asked
 * for. `search` asks for one page.
 */
export async function pagesUpTo(
  query: Query,
  search: (page: Query) => Promise<SearchAnswer>,
  known: Answered | null = null,
): Promise<SearchAnswer> {
  if (known !== null && samePages(query, known.answered)) {
    const { answer, answered } = known;
    const { size } = answer;
    if (query.page < answered.page)
      return { ...answer, page: query.page, results: answer.results.slice(0, size * query.page) };
    if (query.page > answered.page && query.page <= answered.page + MOST_AT_ONCE) {
      const added = await pages(query, search, answered.page + 1);
      const fits = added.every(({ generation }) => generation === answer.generation);
      if (fits) return joined([answer, ...added], query.page);
    }
  }
  const first = withPage(query, Math.min(query.page, MOST_AT_ONCE));
  return joined(await pages(first, search, 1), first.page);
}

const pages = (query: Query, search: (page: Query) => Promise<SearchAnswer>, from: number): Promise<SearchAnswer[]> =>
  Promise.all(Array.from({ length: query.page - from + 1 }, (_, i) => search(withPage(query, from + i))));

/** One answer with the results of all, none of them twice. */
function joined(answers: SearchAnswer[], page: number): SearchAnswer {
  const results = new Map(answers.flatMap((answer) => answer.results).map((result) => [result.id, result]));
  return { ...answers.at(-1)!, page, results: [...results.values()] };
}
