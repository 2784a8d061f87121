import type { SearchAnswer } from '@yucca/contract';
import { useEffect, useRef } from 'react';
import { withPage, type Query } from '../../query.ts';
import { useTexts } from '../use-texts.ts';
import { lastPage } from './pages.tsx';

/**
 * Scrolling loads this many pages by itself between two presses of the button, so that the foot of the page can be
 * reached.
 */
const BY_ITSELF = 3;

/** What `MoreResults` is given. */
export interface MoreResultsProps {
  query: Query;
  answer: SearchAnswer;
  loading: boolean;
  /** Scrolling to it is enough. */
  endless?: boolean;
  /** The address of a query, for whoever has no JavaScript. */
  hrefOf: (query: Query) => string;
  /** Adds the next page below; no step of the history. */
  onMore: (query: Query) => void;
}

/** A link to more results below the ones there are; with `endless` it follows itself when it comes into sight. */
export function MoreResults({ query, answer, loading, endless = false, hrefOf, onMore }: MoreResultsProps) {
  const { say } = useTexts();
  const link = useRef<HTMLAnchorElement>(null);
  const left = answer.total - answer.results.length;
  const hasMore = left > 0 && answer.page < lastPage(answer);
  const next = withPage(query, answer.page + 1);
  const more = useRef<() => void>(() => {});
  useEffect(() => {
    more.current = () => !loading && onMore(next);
  });
  const byItself = endless && hasMore && answer.page % (BY_ITSELF + 1) !== 0;
  useEffect(() => {
    if (!byItself || !link.current || typeof IntersectionObserver === 'undefined') return;
    const observer = new IntersectionObserver(
      (entries) => entries.some(({ isIntersecting }) => isIntersecting) && more.current(),
      { rootMargin: '400px' },
    );
    observer.observe(link.current);
    return () => observer.disconnect();
    // Observed anew with each page: what is in sight still must be told again.
  }, [byItself, answer.page]);
  if (!hasMore) return null;
  return (
    <p data-part="more">
      <a
        ref={link}
        data-part="button"
        href={hrefOf(next)}
        aria-disabled={loading}
        onClick={(event) => {
          event.preventDefault();
          more.current();
        }}
      >
        {loading ? say('loadingMore') : say('showMore', { count: Math.min(left, answer.size), left })}
      </a>
    </p>
  );
}
