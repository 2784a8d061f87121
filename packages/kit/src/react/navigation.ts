import type { MouseEvent } from 'react';
import type { Query } from '../query.ts';

/** How the parts of a page lead from one query to the next: as links that a browser can follow by itself. */
export interface Navigation {
  /** The address of a query. */
  hrefOf: (query: Query) => string;
  /** Goes to a query in place; a step of the history. */
  go: (query: Query) => void;
}

/** A click that asks for this tab: a plain one, with no key or button that means another. */
export const isPlainClick = (event: MouseEvent): boolean =>
  !event.metaKey && !event.ctrlKey && !event.shiftKey && !event.altKey && event.button === 0;

/**
 * A link to a query: followed in place by a plain click, by the browser with any key or button that means another tab.
 */
export function linkTo(query: Query, { hrefOf, go }: Navigation) {
  return {
    href: hrefOf(query),
    /** Goes there in place, if that is what the click asks for. */
    onClick: (event: MouseEvent): void => {
      if (!isPlainClick(event)) return;
      event.preventDefault();
      go(query);
    },
  };
}

/** Where a result leads; `onOpen` remembers and tells of whoever goes there. */
export interface Lead {
  href: string | undefined;
  /** To be called when the link is pressed. */
  onOpen: (event: MouseEvent) => void;
}
