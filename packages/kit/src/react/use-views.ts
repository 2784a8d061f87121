import { useEffect, type RefObject } from 'react';
import { watchViews, type Viewing } from './watch-views.ts';

/**
 * Tells of results that come into sight. They are the children of `list`, in the order of `ids`; `firstPlace` results
 * stand before them on earlier pages.
 */
export function useViews(
  list: RefObject<HTMLElement | null>,
  ids: readonly string[],
  queryId: string,
  insights: Viewing,
  firstPlace = 0,
): void {
  const all = ids.join('\n');
  useEffect(() => {
    if (list.current) return watchViews(list.current, all, queryId, insights, firstPlace);
  }, [list, all, queryId, insights, firstPlace]);
}
