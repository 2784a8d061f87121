'use client';

import type { Card, Collection, Page, RecordJson, Task } from '@yucca/contract';
import Link from 'next/link';
import { pageNumbers } from '@yucca/kit';
import clsx from 'clsx';
import { useLoading } from '@/features/load/drop-zone';
import { cellText } from '@/features/load/sample-table';
import { Probe } from '@/features/probe/probe';
import { Button, buttonLook } from '@/ui/button';
import { count, counted } from '@/ui/format';
import { useParam } from '@/ui/use-param';
import { LoadHistory } from './load-history';
import { RecordSheet } from './record-sheet';

const COLUMNS = 5;

/** The fields worth a column: the key, what the card shows, then the first short ones. */
function columnsOf(records: RecordJson[], key: string, card: Card): string[] {
  const fields = [...new Set(records.slice(0, 20).flatMap((record) => Object.keys(record)))];
  const shown = [card.title, card.detail, card.number].filter(
    (field): field is string => field !== null && fields.includes(field),
  );
  const short = fields.filter((field) => {
    const longest = Math.max(0, ...records.slice(0, 20).map((record) => cellText(record[field]).length));
    return longest > 0 && longest <= 40;
  });
  return [...new Set([key, ...shown, ...short])].slice(0, COLUMNS);
}

export interface RecordsScreenProps {
  collection: Collection;
  listing: Page<RecordJson>;
  card: Card;
  facets: string[];
  loads: Task[];
}

/** The records of a collection, with the probe beside them. */
export function RecordsScreen({ collection, listing, card, facets, loads }: RecordsScreenProps) {
  const [open, setOpen] = useParam('record');
  const { choose } = useLoading();
  return (
    <>
      <section className="flex min-w-0 flex-1 flex-col">
        <div className="flex items-center gap-4 px-6 pt-5 pb-3">
          <h1 className="text-[20px] leading-7">{collection.title}</h1>
          <span className="figures text-soft">{counted(collection.records, 'record')}</span>
          <span className="ml-auto flex gap-2">
            <LoadHistory loads={loads} />
            <Button onClick={choose}>Load a file</Button>
            <Link href={`/s/${collection.name}`} className={buttonLook('primary')}>
              Open search page
            </Link>
          </span>
        </div>
        {listing.total === 0 ? (
          <Empty choose={choose} />
        ) : (
          <RecordsTable
            listing={listing}
            columns={columnsOf(listing.items, collection.key, card)}
            keyField={collection.key}
            open={open}
            onOpen={(id) => setOpen(id, 'push')}
          />
        )}
        <Pager listing={listing} name={collection.name} />
      </section>
      <Probe
        key={collection.name}
        collection={collection.name}
        card={card}
        facets={facets}
        generation={collection.generation}
        onOpen={(id) => setOpen(id, 'push')}
      />
      {open !== '' && <RecordSheet key={open} collection={collection.name} id={open} onClose={() => setOpen('')} />}
    </>
  );
}

function RecordsTable({
  listing,
  columns,
  keyField,
  open,
  onOpen,
}: {
  listing: Page<RecordJson>;
  columns: string[];
  keyField: string;
  open: string;
  onOpen: (id: string) => void;
}) {
  return (
    <div className="min-h-0 flex-1 overflow-auto border-t border-line" tabIndex={0} role="region" aria-label="Records">
      <table className="w-full text-[13px]">
        <thead className="sticky top-0 bg-sunk text-left">
          <tr>
            {columns.map((column, i) => (
              <th
                key={column}
                scope="col"
                className={clsx('px-3 py-2 font-medium whitespace-nowrap', i === 0 && 'pl-6')}
              >
                {column}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {listing.items.map((record) => {
            const id = cellText(record[keyField]);
            return (
              <tr key={id} className={clsx('border-b border-line', id === open ? 'bg-agave-tint' : 'hover:bg-raised')}>
                {columns.map((column, i) => (
                  <td
                    key={column}
                    className={clsx(
                      'max-w-60 truncate px-3 py-1.5',
                      i === 0 && 'figures pl-6',
                      typeof record[column] === 'number' && i > 0 && 'figures text-right',
                    )}
                  >
                    {i === 0 ? (
                      <button
                        type="button"
                        className="min-h-6 max-w-full truncate text-left hover:text-agave hover:underline"
                        onClick={() => onOpen(id)}
                      >
                        {id}
                      </button>
                    ) : (
                      cellText(record[column]).slice(0, 160)
                    )}
                  </td>
                ))}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

function Pager({ listing, name }: { listing: Page<RecordJson>; name: string }) {
  if (listing.pages < 2) return null;
  return (
    <nav
      aria-label="Pages of records"
      className="figures flex items-center gap-1 border-t border-line px-6 py-2 text-[13px]"
    >
      {pageNumbers(listing.page, listing.pages).map((n, i) =>
        n === 0 ? (
          <span key={`gap${i}`} className="px-1 text-soft">
            …
          </span>
        ) : (
          <Link
            key={n}
            href={`/c/${name}/records?page=${n}`}
            aria-current={n === listing.page ? 'page' : undefined}
            className={clsx(
              'min-w-7 rounded px-2 py-1 text-center',
              n === listing.page ? 'bg-ink text-paper' : 'hover:bg-sunk',
            )}
          >
            {count(n)}
          </Link>
        ),
      )}
    </nav>
  );
}

function Empty({ choose }: { choose: () => void }) {
  return (
    <div className="grid flex-1 place-items-center border-t border-line p-8">
      <div className="text-center">
        <p className="mb-4 text-soft">No records yet. Drop a file anywhere on this window.</p>
        <Button kind="primary" onClick={choose}>
          Choose a file
        </Button>
      </div>
    </div>
  );
}
