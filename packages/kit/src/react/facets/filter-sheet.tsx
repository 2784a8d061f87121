import type { ReactNode } from 'react';
import { isRange, type Query } from '../../query.ts';
import { useTexts } from '../use-texts.ts';
import { useSheet } from '../view/use-sheet.ts';
import { IN_PACKAGE } from '../in-package.ts';

/** What `FilterSheet` is given. */
export interface FilterSheetProps {
  /** What is chosen: `query.select`. */
  select: Query['select'];
  /** Results of what is chosen. */
  total: number;
  /** The facets. */
  children: ReactNode;
}

/**
 * Holds the facets of a page: beside the results, or on a narrow screen in a sheet that a button opens. Without
 * JavaScript a link leads to them.
 */
export function FilterSheet({ select, total, children }: FilterSheetProps) {
  const { say } = useTexts();
  const { ref, open, show, close } = useSheet();
  const chosen = Object.values(select).reduce((sum, choice) => sum + (isRange(choice) ? 1 : choice.length), 0);
  return (
    <div data-part="filters" data-open={open}>
      <a
        href="#filters"
        data-part="button"
        data-role="open"
        onClick={(event) => {
          event.preventDefault();
          show();
        }}
      >
        {chosen > 0 ? say('filtersChosen', { count: chosen }) : say('filters')}
      </a>
      <div
        id="filters"
        ref={ref}
        data-part="sheet"
        tabIndex={-1}
        {...(open && { role: 'dialog', 'aria-modal': true, 'aria-label': say('filters') })}
      >
        <div data-part="facets">{children}</div>
        <p data-part="sheet-end">
          <a
            href="#results"
            data-part="button"
            onClick={(event) => {
              if (!open) return;
              event.preventDefault();
              close();
            }}
          >
            {say('seeResults', { total })}
          </a>
        </p>
        {IN_PACKAGE && (
          <noscript>
            <button type="submit" data-part="button">
              {say('applyFilters')}
            </button>
          </noscript>
        )}
      </div>
    </div>
  );
}
