/** The script that comes after the page: it tells the server, and the site around the element, what visitors do. */
import type { SearchRequest } from '@yucca/contract';
import { watchViews } from '../react/watch-views.ts';
import { createInsights, type Insights, type InsightsOptions } from '../insights.ts';

/** What `yucca-search` says of an answer: what was asked, and what was found. */
export interface SearchDetail {
  request: SearchRequest;
  answer: unknown;
}

/** What `yucca-click` says of a result that was opened; `position` counts from 1 over all pages. */
export interface ClickDetail {
  id: string;
  position: number;
  queryId: string;
}

/** Insights that bring along what watches for them. */
export interface WatchingInsights extends Insights {
  watch: typeof watchViews;
}

/**
 * Insights that the site hears of too: each answer to what the visitor asks is a `yucca-search` of the element, each
 * result that is opened a `yucca-click`. Both bubble, and keep to the page: with `page: null` nobody else is told.
 */
export function insightsOf(element: Element, options: InsightsOptions): WatchingInsights {
  const insights = createInsights(options);
  const say = (name: string, detail: SearchDetail | ClickDetail): void =>
    void element.dispatchEvent(new CustomEvent(`yucca-${name}`, { detail, bubbles: true }));
  return {
    ...insights,
    watch: watchViews,
    noting: (client, ...more) => {
      const noted = insights.noting(client, ...more);
      return {
        ...noted,
        async search(collection, request, signal) {
          const answer = await noted.search(collection, request, signal);
          say('search', { request, answer });
          return answer;
        },
        // What stands beside the results of a page was not asked for by itself.
        async multiSearch(queries, signal) {
          const answers = await noted.multiSearch(queries, signal);
          if (queries.length > 0) say('search', { request: queries[0]!, answer: answers[0] });
          return answers;
        },
      };
    },
    click(queryId, id, position) {
      say('click', { id, position, queryId });
      insights.click(queryId, id, position);
    },
  };
}
