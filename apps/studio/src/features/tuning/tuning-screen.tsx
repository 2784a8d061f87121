'use client';

import type { Card, Collection } from '@yucca/contract';
import { createClient } from '@yucca/kit';
import { useCallback, useState } from 'react';
import { ProbeInput } from '@/features/probe/probe-input';
import { useParam } from '@/ui/use-param';
import { Bench } from './bench';
import { useDraft } from './draft';
import { DraftBar } from './draft-bar';
import { History } from './history';
import { KeptQueries } from './kept-queries';
import { LeverPanel } from './lever-panel';

/** The tuning bench: levers on the left, and the query in the probe answered by live and draft side by side. */
export function TuningScreen({ collection, card }: { collection: Collection; card: Card }) {
  const [{ saves }] = useDraft();
  const [text, setText] = useParam('probe');
  const [client] = useState(() => createClient({ cache: { most: 0 } }));
  const choose = useCallback((next: string) => setText(next), [setText]);
  const { name, generation } = collection;
  if (collection.records === 0)
    return (
      <p className="p-6 text-soft">
        No records yet, so there is nothing to tune. Drop a JSON, JSON Lines or CSV file anywhere on this window.
      </p>
    );
  return (
    <section className="flex min-w-0 flex-1 flex-col">
      <h1 className="sr-only">Tuning of {collection.title}</h1>
      <div className="flex min-h-0 flex-1">
        <LeverPanel collection={name} />
        <div className="flex min-h-0 min-w-0 flex-1 flex-col">
          <div className="flex shrink-0 items-center gap-4 border-b border-line px-4 py-2">
            <label className="w-72 shrink-0">
              <span className="sr-only">Probe</span>
              <ProbeInput id="probe" text={text} onText={setText} placeholder="Type what a visitor would type ( / )" />
            </label>
            <KeptQueries client={client} collection={name} text={text} state={generation + saves} onText={choose} />
            <span className="ml-auto shrink-0">
              <History collection={name} />
            </span>
          </div>
          <Bench client={client} collection={name} card={card} text={text} generation={generation} saves={saves} />
        </div>
      </div>
      <DraftBar collection={name} />
    </section>
  );
}
