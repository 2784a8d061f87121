'use client';

import { tuningChanges, type Card, type Collection, type TuningDocument } from '@yucca/contract';
import { createClient } from '@yucca/kit';
import { useCallback, useState } from 'react';
import { History } from '@/features/draft/history';
import { ProbeInput } from '@/features/probe/probe-input';
import { api } from '@/ui/api';
import { useParam } from '@/ui/use-param';
import { Comparison } from './comparison/comparison';
import { versionFrom } from './comparison/versions';
import { useDraft } from './draft';
import { TuningDraftBar } from './draft-bar';
import { KeptQueries } from './kept-queries';
import { LeverPanel } from './levers/panel';
import { RecordField } from './where/where-is';

const ISO_DAY = /^\d{4}-\d{2}-\d{2}$/;

/** The tuning screen: levers on the left, and the query in the probe answered by two versions side by side. */
export function TuningScreen({ collection, card }: { collection: Collection; card: Card }) {
  const draft = useDraft();
  const [{ saves }] = draft;
  const [text, setText] = useParam('probe');
  const [left, setLeft] = useParam('left');
  const [right, setRight] = useParam('right');
  const [day, setDay] = useParam('on');
  const [sought, setSought] = useParam('record');
  const [client] = useState(() => createClient({ cache: { most: 0 } }));
  const choose = useCallback((next: string) => setText(next), [setText]);
  const { name, generation } = collection;
  const on = ISO_DAY.test(day) ? day : '';
  if (collection.records === 0)
    return (
      <p className="p-6 text-soft">
        No records yet, so there is nothing to tune. Drop a file of JSON, CSV, Excel, YAML, XML or Parquet anywhere on
        this window.
      </p>
    );
  return (
    <section className="flex min-w-0 flex-1 flex-col">
      <h1 className="sr-only">Tuning of {collection.title}</h1>
      <div className="flex min-h-0 flex-1">
        <LeverPanel
          collection={name}
          text={text}
          generation={generation}
          on={on}
          onShow={(query, date) => {
            setText(query);
            setDay(date);
          }}
        />
        <div className="flex min-h-0 min-w-0 flex-1 flex-col">
          <div className="grid shrink-0 gap-2 border-b border-line px-4 py-2">
            <div className="flex items-center gap-4">
              <label className="min-w-0 flex-1">
                <span className="sr-only">Probe</span>
                <ProbeInput
                  id="probe"
                  text={text}
                  onText={setText}
                  placeholder="Type what a visitor would type ( / )"
                />
              </label>
              <RecordField client={client} collection={name} card={card} sought={sought} onSought={setSought} />
              <label
                className="flex items-center gap-1.5 text-[13px] text-soft"
                title="What a visitor would see on that day"
              >
                As on
                <input
                  type="date"
                  className="field figures h-8 w-[136px] py-0 text-[13px]"
                  value={on}
                  onChange={(event) => setDay(event.target.value)}
                />
              </label>
              <History
                path={`/collections/${name}/tuning/versions`}
                read={(version) => api<TuningDocument>(`/collections/${name}/tuning?version=${version}`)}
                draft={draft}
                changesOf={tuningChanges}
              />
            </div>
            <KeptQueries client={client} collection={name} text={text} state={generation + saves} onText={choose} />
          </div>
          <Comparison
            client={client}
            collection={name}
            keyField={collection.key}
            card={card}
            text={text}
            generation={generation}
            left={versionFrom(left, 'live')}
            right={versionFrom(right, 'draft')}
            onLeft={(version) => setLeft(version === 'live' ? '' : String(version))}
            onRight={(version) => setRight(version === 'draft' ? '' : String(version))}
            on={on}
            sought={sought}
            onSought={setSought}
          />
        </div>
      </div>
      <TuningDraftBar collection={name} />
    </section>
  );
}
