/** Stands in the drop-in for what watches results come into sight: it lies in the script that tells of visitors. */
import type { watchViews as WatchViews } from '../../react/watch-views.ts';
import type { WatchingInsights } from '../insights.ts';

export const watchViews: typeof WatchViews = (list, ids, queryId, insights, firstPlace) =>
  (insights as Partial<WatchingInsights>).watch?.(list, ids, queryId, insights, firstPlace);
