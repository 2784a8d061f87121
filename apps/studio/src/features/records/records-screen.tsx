'use client';

import type { Card, Collection, Page, RecordJson, Task } from '@yucca/contract';
import clsx from 'clsx';
import Link from 'next/link';
import { DropdownMenu } from 'radix-ui';
import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { useLoading } from '@/features/load/drop-zone';
import { ServerFiles } from '@/features/load/server-files';
import { Probe } from '@/features/probe/probe';
import { ProfileView } from '@/features/profile/profile-view';
import { useProfile } from '@/features/profile/use-profile';
import { api } from '@/ui/api';
import { Button, buttonLook } from '@/ui/button';
import { count, counted } from '@/ui/format';
import { useParam } from '@/ui/use-param';
import { ColumnChooser } from './column-chooser';
import { columnsOf } from './columns';
import { LoadHistory } from './load-history';
import { PAGE, RecordPages } from './record-pages';
import { RecordSheet } from './record-sheet';
import { RecordTable } from './record-table';

export interface RecordsScreenProps {
  collection: Collection;
  /** The first page of all records. */
  listing: Page<RecordJson>;
  card: Card;
  facets: string[];
  loads: Task[];
}

/** The records of a collection as a table or as a profile of their fields, with the probe beside them. */
export function RecordsScreen({ collection, listing, card, facets, loads }: RecordsScreenProps) {
  const [open, setOpen] = useParam('record');
  const [view, setView] = useParam('view');
  const [adding, setAdding] = useState<RecordJson | null>(null);
  const { choose } = useLoading();
  const asProfile = view === 'profile';
  return (
    <>
      <section className="flex min-w-0 flex-1 flex-col">
        <div className="flex items-center gap-4 px-6 pt-4 pb-3">
          <h1 className="text-[20px] leading-7">{collection.title}</h1>
          <span className="figures text-soft">{counted(collection.records, 'record')}</span>
          {listing.total > 0 && (
            <div role="group" aria-label="View" className="flex rounded-md border border-line">
              {['Table', 'Profile'].map((name) => (
                <button
                  key={name}
                  type="button"
                  aria-pressed={asProfile === (name === 'Profile')}
                  className="min-h-7 rounded-[5px] px-3 aria-pressed:bg-ink aria-pressed:text-paper"
                  onClick={() => setView(name === 'Profile' ? 'profile' : '', 'push')}
                >
                  {name}
                </button>
              ))}
            </div>
          )}
          <span className="ml-auto flex gap-2">
            <LoadHistory loads={loads} />
            {listing.total > 0 && <ExportMenu collection={collection.name} />}
            <ServerFiles />
            <Button onClick={choose}>Load a file</Button>
            <Link href={`/s/${collection.name}`} className={buttonLook('primary')}>
              Open search page
            </Link>
          </span>
        </div>
        {listing.total === 0 ? (
          <Empty choose={choose} />
        ) : asProfile ? (
          <Profiled collection={collection} />
        ) : (
          <Table
            key={collection.name}
            collection={collection}
            listing={listing}
            card={card}
            open={open}
            onOpen={(id) => setOpen(id, 'push')}
            onAdd={() => setAdding(templateOf(listing.items, collection.key))}
          />
        )}
      </section>
      <Probe
        key={collection.name}
        collection={collection.name}
        card={card}
        facets={facets}
        generation={collection.generation}
        onOpen={(id) => setOpen(id, 'push')}
      />
      {open !== '' && (
        <RecordSheet
          key={open}
          collection={collection.name}
          keyField={collection.key}
          id={open}
          onClose={() => setOpen('')}
          onCopy={(record) => {
            setOpen('');
            setAdding({ ...record, [collection.key]: '' });
          }}
        />
      )}
      {adding && (
        <RecordSheet
          collection={collection.name}
          keyField={collection.key}
          id={null}
          start={adding}
          onClose={() => setAdding(null)}
          onOpen={(id) => {
            setAdding(null);
            setOpen(id, 'push');
          }}
        />
      )}
    </>
  );
}

/** A new record like the others: the same plain fields, empty. */
function templateOf(records: readonly RecordJson[], key: string): RecordJson {
  const fields = Object.entries(records[0] ?? {}).map(([name, value]): [string, unknown] => [
    name,
    Array.isArray(value) ? [] : typeof value === 'number' ? 0 : typeof value === 'boolean' ? false : '',
  ]);
  return { [key]: '', ...Object.fromEntries(fields) };
}

function Profiled({ collection }: { collection: Collection }) {
  return <ProfileView collection={collection.name} state={useProfile(collection.name, collection.generation)} />;
}

const WAIT_MS = 250;

function Table({
  collection,
  listing,
  card,
  open,
  onOpen,
  onAdd,
}: {
  collection: Collection;
  listing: Page<RecordJson>;
  card: Card;
  open: string;
  onOpen: (id: string) => void;
  onAdd: () => void;
}) {
  const { name, key } = collection;
  const [filter, setFilter] = useParam('filter');
  const asked = filter.trim();
  const [chosen, setChosen] = useParam('columns');
  /** What is being typed and not asked for yet. */
  const [typed, setTyped] = useState<string | null>(null);
  const [first] = useState(listing);
  const pages = useMemo(() => {
    const load = (page: number, signal: AbortSignal): Promise<Page<RecordJson>> => {
      const condition = asked === '' ? '' : `&filter=${encodeURIComponent(asked)}`;
      return api<Page<RecordJson>>(`/collections/${name}/records?page=${page}&size=${PAGE}${condition}`, { signal });
    };
    return new RecordPages(load, asked === '' ? first : null);
  }, [name, asked, first]);
  useEffect(() => () => pages.stop(), [pages]);
  const generation = useRef(collection.generation);
  useEffect(() => {
    if (generation.current === collection.generation) return;
    generation.current = collection.generation;
    pages.renew();
  }, [pages, collection.generation]);
  useEffect(() => {
    pages.look(0, 0);
  }, [pages]);
  useEffect(() => {
    if (typed === null) return;
    const timer = setTimeout(() => {
      setFilter(typed);
      setTyped(null);
    }, WAIT_MS);
    return () => clearTimeout(timer);
  }, [typed, setFilter]);
  const rows = useSyncExternalStore(pages.subscribe, pages.snapshot, pages.snapshot);
  const fields = useMemo(() => [...new Set(listing.items.flatMap((record) => Object.keys(record)))], [listing.items]);
  const columns =
    chosen === '' ? columnsOf(listing.items, key, card) : [key, ...chosen.split(',').filter((one) => one !== key)];
  return (
    <>
      <div className="flex items-center gap-3 px-6 pb-3">
        <label className="relative min-w-0 flex-1">
          <span className="sr-only">Filter records</span>
          <input
            className={clsx('field figures text-[13px]', rows.problem && 'border-madder')}
            placeholder={`Filter, such as: ${exampleFilter(listing.items[0], key, card.number)}`}
            title="A CQL2-Text condition: =, <, BETWEEN, IN, LIKE, IS NULL, AND, OR, NOT"
            spellCheck={false}
            autoComplete="off"
            value={typed ?? filter}
            aria-invalid={rows.problem !== null}
            onChange={(event) => setTyped(event.target.value)}
          />
        </label>
        <p role="status" className="figures shrink-0 text-xs text-soft">
          {asked !== '' && rows.problem === null && `${count(rows.total)} of ${count(collection.records)}`}
        </p>
        <ColumnChooser
          fields={fields}
          columns={columns}
          keyField={key}
          onColumns={(next) => setChosen(next === null ? '' : next.join(','))}
        />
        <Button onClick={onAdd}>Add record</Button>
      </div>
      {rows.problem && (
        <p role="alert" className="px-6 pb-2 text-madder">
          {rows.problem}
        </p>
      )}
      {rows.total === 0 && rows.problem === null && asked !== '' ? (
        <p className="border-t border-line p-6 text-soft">No record fulfils this condition.</p>
      ) : (
        <RecordTable pages={pages} columns={columns} keyField={key} open={open} onOpen={onOpen} />
      )}
    </>
  );
}

/** A condition that fits the data at hand. */
function exampleFilter(record: RecordJson | undefined, key: string, wanted: string | null): string {
  const fields = Object.entries(record ?? {}).filter(([name]) => name !== key && /^[A-Za-z_][A-Za-z0-9_]*$/.test(name));
  const numbers = fields.filter(([, value]) => typeof value === 'number');
  const number = numbers.find(([name]) => name === wanted) ?? numbers[0];
  const words = fields
    .map(([name, value]): [string, unknown] => [name, Array.isArray(value) ? value[0] : value])
    .filter((pair): pair is [string, string] => typeof pair[1] === 'string' && /^\p{L}+$/u.test(pair[1]));
  const word = words.sort((a, b) => a[1].length - b[1].length)[0];
  const parts = [
    number && `${number[0]} < ${Math.ceil((number[1] as number) + 1)}`,
    word && `${word[0]} = '${word[1]}'`,
  ].filter(Boolean);
  return parts.join(' AND ') || `${key} LIKE 'a%'`;
}

function ExportMenu({ collection }: { collection: string }) {
  const link = (format: string): string => {
    const filter = new URLSearchParams(window.location.search).get('filter') ?? '';
    return `/api/v1/collections/${collection}/records?format=${format}${filter && `&filter=${encodeURIComponent(filter)}`}`;
  };
  const formats = [
    ['ndjson', 'JSON Lines: every record as it is'],
    // Spreadsheets run what looks like a formula, whoever wrote it into a record.
    ['csv&spreadsheet=true', 'CSV for a spreadsheet: formulas become text'],
    ['csv', 'CSV: one column a field, values as they are'],
  ] as const;
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button>Export</Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={6} className="z-20 rounded-md border border-line bg-paper p-1">
          {formats.map(([format, words]) => (
            <DropdownMenu.Item
              key={format}
              className="cursor-pointer rounded px-3 py-1.5 data-highlighted:bg-sunk"
              onSelect={() => window.location.assign(link(format))}
            >
              {words}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
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
