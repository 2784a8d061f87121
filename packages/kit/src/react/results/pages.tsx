import type { SearchAnswer } from '@yucca/contract';
import { pageNumbers } from '../../pages.ts';
import { withPage, type Query } from '../../query.ts';
import { useTexts } from '../use-texts.ts';
import { linkTo, type Navigation } from '../navigation.ts';

/** The results a search goes through at most, page by page. */
const WINDOW = 10_000;

/** The last page that can be asked for. */
export const lastPage = ({ pages, size }: SearchAnswer): number =>
  Math.min(pages, Math.floor(WINDOW / Math.max(1, size)));

/** Numbered pages, as links. */
export function Pages({ query, answer, ...navigation }: Navigation & { query: Query; answer: SearchAnswer }) {
  const { say, count } = useTexts();
  const pages = lastPage(answer);
  if (pages < 2) return null;
  return (
    <nav data-part="pages" aria-label={say('pages')}>
      {pageNumbers(answer.page, pages).map((n, i) =>
        n === 0 ? (
          <span key={`gap${i}`}>…</span>
        ) : (
          <a
            key={n}
            {...linkTo(withPage(query, n), navigation)}
            aria-current={n === answer.page ? 'page' : undefined}
            aria-label={say('pageNumber', { page: n })}
          >
            {count(n)}
          </a>
        ),
      )}
    </nav>
  );
}
