'use client';

import type { Collection, Page, Task } from '@yucca/contract';
import { useRouter } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { api } from '@/ui/api';
import { bytes, count, counted, milliseconds, moment, roughly } from '@/ui/format';
import { usePolled } from '@/ui/use-polled';
import { useLastProbe } from '../probe/last-probe';

/** The line at the foot of the studio: the state of the collection, what runs, how fast the last probe was. */
export function StatusLine({ collection, total }: { collection: Collection | null; total: number }) {
  const now = usePolled(
    async () => (collection ? await api<Collection>(`/collections/${collection.name}`) : null),
    collection,
    3000,
  );
  const running = usePolled(
    async () => {
      const { items } = await api<Page<Task>>(`/tasks${collection ? `?collection=${collection.name}` : ''}`);
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
          loading {task.collection}: {count(task.done)} of about {roughly(task.total)}
        </span>
      ))}
      {probe && collection && <span className="ml-auto">last probe {milliseconds(probe.engineMs)} in the engine</span>}
    </footer>
  );
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
