import { useEffect, type RefObject } from 'react';
import type { Insights } from '../insights.ts';

/** A result counts as seen when half of it was in sight for this long, in milliseconds. */
const SEEN_AFTER_MS = 1_000;

/**
 * Tells of results that come into sight. They are the children of `list`, in the order of `ids`; `firstPlace` results
 * stand before them on earlier pages.
 */
export function useViews(
  list: RefObject<HTMLElement | null>,
  ids: readonly string[],
  queryId: string,
  insights: Pick<Insights, 'active' | 'view'>,
  firstPlace = 0,
): void {
  const all = ids.join('\n');
  useEffect(() => {
    if (!insights.active || !list.current || typeof IntersectionObserver === 'undefined') return;
    const children = [...list.current.children];
    const timers = new Map<Element, ReturnType<typeof setTimeout>>();
    const observer = new IntersectionObserver(
      (entries) => {
        for (const { target, isIntersecting } of entries) {
          clearTimeout(timers.get(target));
          const at = children.indexOf(target);
          const id = all.split('\n')[at];
          if (isIntersecting && id !== undefined)
            timers.set(target, setTimeout(() => insights.view(queryId, id, firstPlace + at + 1), SEEN_AFTER_MS)); // prettier-ignore
        }
      },
      { threshold: 0.5 },
    );
    children.forEach((child) => observer.observe(child));
    return () => {
      observer.disconnect();
      timers.forEach((timer) => clearTimeout(timer));
    };
  }, [list, all, queryId, insights, firstPlace]);
}
