import type { Insights } from '../insights.ts';

/** A result counts as seen when half of it was in sight for this long, in milliseconds. */
const SEEN_AFTER_MS = 1_000;

/** What of insights hears of results in sight. */
export type Viewing = Pick<Insights, 'active' | 'view'>;

/**
 * Tells of elements that come into sight: of the n-th child of `list` as the n-th of `ids`, which stand one a line.
 * `firstPlace` results stand before them. Returns what ends it.
 */
export function watchViews(
  list: HTMLElement,
  ids: string,
  queryId: string,
  insights: Viewing,
  firstPlace: number,
): (() => void) | undefined {
  if (!insights.active || typeof IntersectionObserver === 'undefined') return;
  const children = [...list.children];
  const timers = new Map<Element, ReturnType<typeof setTimeout>>();
  const observer = new IntersectionObserver(
    (entries) => {
      for (const { target, isIntersecting } of entries) {
        clearTimeout(timers.get(target));
        const at = children.indexOf(target);
        const id = ids.split('\n')[at];
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
}
