'use client';

import type { Card, Collection, InsightItem, Insights, InsightSort, Page } from '@yucca/contract';
import clsx from 'clsx';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { Probe } from '@/features/probe/probe';
import { count } from '@/ui/format';
import { later } from '@/ui/later';
import { useParam } from '@/ui/use-param';
import { Curve } from './curve';
import { LISTS, listNamed } from './lists';
import { ListTable } from './list-table';
import { lastDaysOf, LAST_DAYS, rangeOf } from './range';
import { Repair } from './repair';
import { Totals } from './totals';
import { Trial } from './trial';
import { useTold } from '@/ui/use-told';

const ROWS = 50;

/** What visitors look for, what they miss, and the way from each failure to its repair. */
export function InsightsScreen({ collection, card, today }: { collection: Collection; card: Card; today: string }) {
  const { name, generation } = collection;
  const router = useRouter();
  const recordAt = (id: string): string => `/c/${name}/records?record=${encodeURIComponent(id)}`;
  const [days, setDays] = useParam('days');
  const [tag, setTag] = useParam('tag');
  const [listName, setList] = useParam('list');
  const [sort, setSort] = useParam('sort');
  const [probe, setProbe] = useParam('probe');
  const [page, setPage] = useState(1);
  const [typed, setTyped] = useState('');
  const [q, setQ] = useState('');
  useEffect(
    () =>
      later(250, () => {
        setQ(typed);
        setPage(1);
      }),
    [typed],
  );

  const range = rangeOf(days, today);
  const list = listNamed(listName);
  const asked = new URLSearchParams({ from: range.from, to: range.to, ...(tag !== '' && { tag }) });
  const interval = range.from === range.to ? 'hour' : 'day';
  const told = useTold<Insights>(`/collections/${name}/insights?${asked}&interval=${interval}`);
  const more = new URLSearchParams({
    ...{ size: String(ROWS), page: String(page) },
    ...(sort !== '' && { sort }),
    ...(q !== '' && { q }),
  });
  const rows = useTold<Page<InsightItem>>(`/collections/${name}/insights/${list.name}?${asked}&${more}`);
  const insights = told.value;
  const isEmpty = insights !== null && insights.totals.searches === 0 && insights.totalsBefore.searches === 0;
  return (
    <section className="flex min-w-0 flex-1">
      <div className="flex min-w-0 flex-1 flex-col">
        <header className="border-b border-line px-4 py-2">
          <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
            <h1 className="text-[20px] leading-7">Insights</h1>
            <RangeChoice days={days} range={range} today={today} onDays={setDays} />
            {insights !== null && insights.tags.length > 0 && (
              <label className="flex items-center gap-2 text-soft">
                Searches
                <select
                  className="field h-8 w-auto py-0"
                  value={tag}
                  onChange={(event) => {
                    setTag(event.target.value, 'push');
                    setPage(1);
                  }}
                >
                  <option value="">of all visitors</option>
                  {(tag === '' || insights.tags.includes(tag) ? insights.tags : [tag, ...insights.tags]).map((one) => (
                    <option key={one} value={one}>
                      {tagWords(one)}
                    </option>
                  ))}
                </select>
              </label>
            )}
            {insights?.sampled && (
              <span className="text-xs text-clay">Under pressure a part of the visits was counted for all.</span>
            )}
          </div>
          {insights && !isEmpty && (
            <div className="mt-2 grid gap-2">
              <Totals insights={insights} />
              <Curve key={`${asked}`} insights={insights} />
            </div>
          )}
        </header>
        <Trial collection={name} hasDraft={collection.draftChanged} />
        {(told.problem ?? rows.problem) && (
          <p role="alert" className="border-b border-line px-4 py-2 text-madder">
            {told.problem ?? rows.problem}
          </p>
        )}
        {isEmpty ? (
          <Nobody collection={name} tag={tag} />
        ) : (
          <div className="flex min-h-0 flex-1">
            <nav aria-label="Lists" className="w-[168px] shrink-0 overflow-y-auto border-r border-line py-2">
              <ul>
                {LISTS.map((one) => (
                  <li key={one.name}>
                    <button
                      type="button"
                      aria-current={one.name === list.name ? 'true' : undefined}
                      title={one.what}
                      className={clsx(
                        'min-h-8 w-full px-4 text-left',
                        one.name === list.name ? 'bg-sunk font-semibold' : 'text-soft hover:text-ink',
                      )}
                      onClick={() => {
                        setSort('');
                        setList(one.name, 'push');
                        setTyped('');
                        setQ('');
                        setPage(1);
                      }}
                    >
                      {one.label}
                    </button>
                  </li>
                ))}
              </ul>
            </nav>
            <div className="flex min-w-0 flex-1 flex-col">
              <div className="flex items-center gap-3 border-b border-line px-4 py-1.5 text-soft">
                <span className="truncate">{list.what}</span>
                <input
                  type="search"
                  aria-label="Only rows with"
                  placeholder="Only rows with …"
                  className="field ml-auto h-7 w-40 shrink-0 py-0 text-[13px]"
                  value={typed}
                  onChange={(event) => setTyped(event.target.value)}
                />
                <a
                  className="link shrink-0"
                  href={`/api/v1/collections/${name}/insights/${list.name}?${asked}&format=csv`}
                  download
                >
                  CSV
                </a>
              </div>
              <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} role="region" aria-label={list.label}>
                {rows.value?.total === 0 && (
                  <p className="p-4 text-soft">
                    {q === '' ? 'Nothing stands here for these days.' : `No row holds “${q}”.`}
                  </p>
                )}
                {rows.value && rows.value.total > 0 && (
                  <ListTable
                    list={list}
                    page={rows.value}
                    sort={sort as InsightSort | ''}
                    chosen={probe}
                    onSort={(next) => {
                      setSort(next);
                      setPage(1);
                    }}
                    onPage={setPage}
                    onChoose={(query) => setProbe(query, 'push')}
                    records={recordAt}
                  />
                )}
              </div>
              <p className="sr-only" role="status">
                {rows.value ? `${count(rows.value.total)} rows` : ''}
              </p>
            </div>
          </div>
        )}
      </div>
      <div className="flex w-[360px] shrink-0 flex-col">
        {probe !== '' && <Repair key={probe} collection={name} query={probe} range={range} />}
        <div className="flex min-h-0 flex-1">
          <Probe
            collection={name}
            card={card}
            facets={[]}
            generation={generation}
            onOpen={(id) => router.push(recordAt(id))}
          />
        </div>
      </div>
    </section>
  );
}

/** “page:nursery” as “on the page nursery”. */
function tagWords(tag: string): string {
  if (tag.startsWith('page:')) return `on the page ${tag.slice(5)}`;
  if (tag.startsWith('width:')) return `on a ${tag.slice(6)}`;
  return `with the tag ${tag}`;
}

function RangeChoice({
  days,
  range: { from, to },
  today,
  onDays,
}: {
  days: string;
  range: { from: string; to: string };
  today: string;
  onDays: (days: string, how: 'push') => void;
}) {
  const last = lastDaysOf(days);
  return (
    <div role="group" aria-label="Days" className="flex items-center gap-1">
      {LAST_DAYS.map((one) => (
        <button
          key={one}
          type="button"
          aria-pressed={one === last}
          className={clsx(
            'min-h-8 rounded-md border px-2',
            one === last ? 'border-ink bg-ink text-paper' : 'border-line hover:border-field-line',
          )}
          onClick={() => onDays(String(one), 'push')}
        >
          {one} days
        </button>
      ))}
      <input
        type="date"
        aria-label="From"
        className="field ml-2 h-8 w-auto py-0"
        value={from}
        max={to}
        onChange={(event) => event.target.value && onDays(`${event.target.value}..${to}`, 'push')}
      />
      <span aria-hidden="true">–</span>
      <input
        type="date"
        aria-label="To"
        className="field h-8 w-auto py-0"
        value={to}
        min={from}
        max={today}
        onChange={(event) => event.target.value && onDays(`${from}..${event.target.value}`, 'push')}
      />
    </div>
  );
}

function Nobody({ collection, tag }: { collection: string; tag: string }) {
  return (
    <div className="max-w-[60ch] p-6">
      <h2 className="text-[17px]">Nobody has searched yet{tag === '' ? '' : ' with this tag'}</h2>
      <p className="mt-2 text-soft">
        Searches are counted once visitors make them on a page of Yucca, or on your own page with the kit’s insights.
        Your own searches in the studio never count.
      </p>
      <p className="mt-2">
        <a className="link" href={`/c/${collection}/page`}>
          Design the search page
        </a>
      </p>
    </div>
  );
}
