import type { ReactNode } from 'react';
import { counted } from '../../figures.ts';
import { isRange, type Query } from '../../query.ts';
import { useSheet } from '../view/use-sheet.ts';

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
        Filters{chosen > 0 && ` (${chosen})`}
      </a>
      <div
        id="filters"
        ref={ref}
        data-part="sheet"
        tabIndex={-1}
        {...(open && { role: 'dialog', 'aria-modal': true, 'aria-label': 'Filters' })}
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
            See {counted(total, 'result')}
          </a>
        </p>
        <noscript>
          <button type="submit" data-part="button">
            Apply filters
          </button>
        </noscript>
      </div>
    </div>
  );
}
