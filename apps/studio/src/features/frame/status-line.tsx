'use client';

import type { Collection, Page, Readiness, Task } from '@yucca/contract';
import { useRouter } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { api } from '@/ui/api';
import { bytes, count, counted, milliseconds, moment, roughly } from '@/ui/format';
import { usePolled } from '@/ui/use-polled';
import { useLastProbe } from '../probe/last-probe';

/** The line at the foot of the studio: the state of the collection, what runs, how fast the last probe was. */
export function StatusLine({ collection, total }: { collection: Collection | null; total: number }) {
  const now = usePolled(
    async (signal) => (collection ? await api<Collection>(`/collections/${collection.name}`, { signal }) : null),
    collection,
    3000,
  );
  const running = usePolled(
    async (signal) => {
      const { items } = await api<Page<Task>>(`/tasks${collection ? `?collection=${collection.name}` : ''}`, {
        signal,
      });
      return items.filter(({ state }) => state === 'running');
    },
    [] as Task[],
    1500,
  );
  const probe = useLastProbe();
  useRefreshOnChange(now?.generation);
  return (
    <footer className="figures flex h-8 shrink-0 items-center gap-5 overflow-hidden border-t border-line bg-sunk px-4 text-xs whitespace-nowrap text-soft">
      {now ? (
        <>
          <span>{counted(now.records, 'record')}</span>
          <span title="Grows with every change of records or tuning">generation {count(now.generation)}</span>
          <span>index {bytes(now.bytes)}</span>
          {now.changedAt && <span>changed {moment(now.changedAt)}</span>}
          <span className={now.draftChanged ? 'text-clay' : ''}>
            {now.draftChanged ? '◇ draft waiting' : `◆ live version ${now.liveVersion}`}
          </span>
        </>
      ) : (
        <span>{counted(total, 'collection')}</span>
      )}
      {running.map((task) => (
        <span key={task.id} className="text-agave">
          {workOf(task)}
        </span>
      ))}
      <Trouble collection={collection?.name ?? null} />
      {probe && collection && <span className="ml-auto">last probe {milliseconds(probe.engineMs)} in the engine</span>}
    </footer>
  );
}

const DOING = {
  load: 'loading',
  repair: 'reading anew',
  index: 'indexing',
  'feed-compare': 'comparing with its source',
  'feed-repair': 'repairing from its source',
};

/** What a task does, in a few words. */
function workOf(task: Task): string {
  if (task.kind === 'backup') return `making a backup: ${task.done} %`;
  if (task.kind === 'check') return 'checking the database';
  return `${DOING[task.kind]} ${task.collection}: ${count(task.done)} of about ${roughly(task.total)}`;
}

/** What keeps something from being stored or found just now. */
function Trouble({ collection }: { collection: string | null }) {
  const readiness = usePolled(fetchReadiness, null, 4000);
  const troubles = readiness === null ? [] : troublesOf(readiness, collection);
  if (troubles.length === 0) return null;
  return (
    <span role="status" className="truncate text-madder" title={troubles.join(' ')}>
      ⚠ {troubles.join(' ')}
    </span>
  );
}

/** Not ready is an answer too, with status 503. */
async function fetchReadiness(signal: AbortSignal): Promise<Readiness> {
  return (await (await fetch('/api/v1/ready', { signal })).json()) as Readiness;
}

/** Sentences for a person; those of other collections are left out. */
export function troublesOf({ storage, integrity, collections }: Readiness, collection: string | null): string[] {
  const partial = collections.filter(({ name, state }) => state === 'partial' && (collection ?? name) === name);
  return [
    ...(storage.reason === null ? [] : [storage.reason]),
    ...(integrity.state === 'damaged'
      ? [`The database is damaged: ${integrity.problems[0] ?? 'see /api/v1/ready'}.`]
      : []),
    ...partial.map(
      ({ name, progress }) =>
        `The index of ${name} is built again; ${Math.round(progress * 100)} % of its records can be found meanwhile.`,
    ),
  ];
}

/** Draws the screen again when the collection has changed elsewhere: in another tab, or through the API. */
function useRefreshOnChange(generation: number | undefined): void {
  const router = useRouter();
  const seen = useRef(generation);
  useEffect(() => {
    if (generation === undefined || generation === seen.current) return;
    seen.current = generation;
    router.refresh();
  }, [generation, router]);
}
