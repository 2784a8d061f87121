'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import clsx from 'clsx';
import { useEffect, useRef, useSyncExternalStore } from 'react';
import { cellText } from '@/features/load/sample-table';
import { count } from '@/ui/format';
import type { RecordPages } from './record-pages';
import { valuesAt } from '@yucca/contract';

const ROW_PX = 30;
/** Taller than this many rows no browser lays out a page. */
const MOST_ROWS = 1_000_000;

/** All records as one long table. Only the rows on screen exist; the arrow keys move from one to the next. */
export function RecordTable({
  pages,
  columns,
  keyField,
  open,
  onOpen,
}: {
  pages: RecordPages;
  columns: string[];
  keyField: string;
  open: string;
  onOpen: (id: string) => void;
}) {
  const rows = useSyncExternalStore(pages.subscribe, pages.snapshot, pages.snapshot);
  const box = useRef<HTMLDivElement>(null);
  const shown = Math.min(rows.total, MOST_ROWS);
  // eslint-disable-next-line react-hooks/incompatible-library -- its functions are used here only, in the render that made them
  const virtual = useVirtualizer({
    count: shown,
    getScrollElement: () => box.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
    initialRect: { width: 900, height: 600 },
  });
  const items = virtual.getVirtualItems();
  const [first, last] = [items[0]?.index ?? 0, items.at(-1)?.index ?? 0];
  useEffect(() => pages.look(first, last), [pages, first, last]);
  const isNumber = (column: string): boolean =>
    items.some(({ index }) => typeof (rows.at(index) && valuesAt(rows.at(index)!, column)) === 'number');
  const above = items[0]?.start ?? 0;
  const below = virtual.getTotalSize() - (items.at(-1)?.end ?? 0);
  return (
    <div
      ref={box}
      className="min-h-0 flex-1 overflow-auto border-t border-line"
      tabIndex={0}
      role="region"
      aria-label="Records"
    >
      <table className="w-full table-fixed text-[13px]" aria-rowcount={rows.total + 1}>
        <thead className="sticky top-0 z-10 bg-sunk text-left">
          <tr aria-rowindex={1}>
            {columns.map((column, i) => (
              <th
                key={column}
                scope="col"
                title={column}
                className={clsx(
                  'figures truncate px-3 py-1.5 text-xs font-medium',
                  i === 0 && 'w-32 pl-6',
                  i === 1 && 'w-[24%]',
                  i > 1 && isNumber(column) && 'text-right',
                )}
              >
                {column}
              </th>
            ))}
          </tr>
        </thead>
        <tbody onKeyDown={(event) => moveFocus(event.nativeEvent)}>
          {above > 0 && (
            <tr aria-hidden="true">
              <td style={{ height: above, padding: 0 }} colSpan={columns.length} />
            </tr>
          )}
          {items.map(({ index }) => {
            const record = rows.at(index);
            const id = record ? cellText(record[keyField]) : '';
            return (
              <tr
                key={index}
                aria-rowindex={index + 2}
                style={{ height: ROW_PX }}
                className={clsx('border-b border-line', id !== '' && id === open ? 'bg-agave-tint' : 'hover:bg-raised')}
              >
                {columns.map((column, i) => {
                  const value = record && valuesAt(record, column);
                  if (i > 0)
                    return (
                      <td
                        key={column}
                        className={clsx('truncate px-3', typeof value === 'number' && 'figures text-right')}
                      >
                        {record ? cellText(value).slice(0, 160) : ''}
                      </td>
                    );
                  return (
                    <td key={column} className="figures truncate pr-3 pl-6">
                      {record ? (
                        <button
                          type="button"
                          className="min-h-6 max-w-full truncate text-left hover:text-agave hover:underline"
                          onClick={() => onOpen(id)}
                        >
                          {id}
                        </button>
                      ) : (
                        <span className="text-soft">…</span>
                      )}
                    </td>
                  );
                })}
              </tr>
            );
          })}
          {below > 0 && (
            <tr aria-hidden="true">
              <td style={{ height: below, padding: 0 }} colSpan={columns.length} />
            </tr>
          )}
        </tbody>
      </table>
      {rows.total > MOST_ROWS && (
        <p className="px-6 py-3 text-soft">
          {count(rows.total - MOST_ROWS)} more records follow. A filter brings them into view.
        </p>
      )}
    </div>
  );
}

/** Up and Down go from record to record. */
function moveFocus(event: KeyboardEvent): void {
  if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
  const row = (event.target as HTMLElement).closest('tr');
  const next = event.key === 'ArrowDown' ? row?.nextElementSibling : row?.previousElementSibling;
  const button = next?.querySelector('button');
  if (!button) return;
  event.preventDefault();
  button.focus();
}
