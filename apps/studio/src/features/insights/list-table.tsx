import type { InsightItem, InsightSort, Page } from '@yucca/contract';
import clsx from 'clsx';
import { Button } from '@/ui/button';
import { count } from '@/ui/format';
import type { listNamed } from './lists';

/** What tells a row apart: its query, or its value. */
export const keyOf = ({ query, facet = '', value = '' }: InsightItem): string => query ?? `${facet} ${value}`;

/** A page of a list. Its columns sort it; a row of a query opens what can be done about it. */
export function ListTable({
  list,
  page,
  sort,
  chosen,
  onSort,
  onPage,
  onChoose,
  records,
}: {
  list: ReturnType<typeof listNamed>;
  page: Page<InsightItem>;
  sort: InsightSort | '';
  chosen: string;
  onSort: (sort: InsightSort) => void;
  onPage: (page: number) => void;
  onChoose: (query: string) => void;
  /** Where a record is looked at. */
  records: (id: string) => string;
}) {
  const sorted = sort === '' ? list.columns[0]?.sort : sort;
  return (
    <>
      <table className="w-full text-[13px]">
        <thead className="sticky top-0 z-1 bg-sunk text-left">
          <tr>
            <th scope="col" className="px-4 py-1 font-medium">
              {list.head}
            </th>
            {list.columns.map((column) => (
              <th
                key={column.label}
                scope="col"
                aria-sort={column.sort === sorted ? 'descending' : 'none'}
                className="py-1 text-right font-medium whitespace-nowrap"
              >
                <button type="button" className="min-h-6 px-3 hover:text-ink" onClick={() => onSort(column.sort)}>
                  {column.label} <span aria-hidden="true">{column.sort === sorted ? '↓' : ''}</span>
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {page.items.map((item) => (
            <tr
              key={keyOf(item)}
              aria-current={item.query !== undefined && item.query === chosen ? true : undefined}
              className={clsx(
                'border-b border-line',
                item.query !== undefined && item.query === chosen ? 'bg-sunk' : 'hover:bg-raised',
              )}
            >
              <th scope="row" className="max-w-0 px-4 py-0.5 text-left font-normal" style={{ width: '60%' }}>
                <Head item={item} onChoose={onChoose} records={records} />
              </th>
              {list.columns.map(({ label, read }) => (
                <td key={label} className="figures px-3 py-0.5 text-right whitespace-nowrap">
                  {read(item)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {page.pages > 1 && (
        <p className="flex items-center gap-3 px-4 py-2 text-soft">
          <Button disabled={page.page === 1} onClick={() => onPage(page.page - 1)}>
            Earlier rows
          </Button>
          <span className="figures">
            {count((page.page - 1) * page.size + 1)} to {count(Math.min(page.page * page.size, page.total))} of{' '}
            {count(page.total)}
          </span>
          <Button disabled={page.page === page.pages} onClick={() => onPage(page.page + 1)}>
            Further rows
          </Button>
        </p>
      )}
    </>
  );
}

function Head({
  item,
  onChoose,
  records,
}: {
  item: InsightItem;
  onChoose: (query: string) => void;
  records: (id: string) => string;
}) {
  const { query, facet, value = '', next = [], finds, nothing = 0, fixedSince } = item;
  if (facet !== undefined)
    return (
      <span className="block truncate">
        <span className="text-soft">{facet}</span> {value === '' ? 'a range' : value}
      </span>
    );
  if (query === undefined)
    return (
      <a className="link block truncate font-mono text-xs leading-6" href={records(value)}>
        {value}
      </a>
    );
  return (
    <button
      type="button"
      className="flex min-h-7 w-full items-baseline gap-3 overflow-hidden text-left"
      onClick={() => onChoose(query)}
    >
      <span className="shrink-0 truncate font-medium">{query}</span>
      {fixedSince !== undefined && nothing > 0 ? (
        <span className="truncate text-xs text-agave">
          ✓ fixed since {fixedSince.slice(0, 10)}, finds {count(finds ?? 0)} now
        </span>
      ) : (
        next.length > 0 && (
          <span className="truncate text-xs text-soft">then {next.map(({ text }) => `“${text}”`).join(', ')}</span>
        )
      )}
    </button>
  );
}
