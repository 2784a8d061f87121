'use client';

import type { Collection, Feed, FeedWithSecret, Page } from '@yucca/contract';
import clsx from 'clsx';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from '@/ui/button';
import { counted } from '@/ui/format';
import { Sparkline } from '@/ui/sparkline';
import { useParam } from '@/ui/use-param';
import { useTold } from '@/ui/use-told';
import { FeedPanel } from './feed-panel';
import { lastWords, stateWords } from './feed-words';
import { FeedForm } from './feed-form';
import { sourceWords } from './source-forms';

/** Feeds are looked at again so often. */
const EVERY_MS = 2_000;

/** Sources that keep a collection in step: how each does, what came, and how to connect another. */
export function FeedsScreen({ collection }: { collection: Collection }) {
  const { name } = collection;
  const router = useRouter();
  const { value, problem, again } = useTold<Page<Feed>>(`/feeds?collection=${name}&size=200`, '', () => EVERY_MS);
  const [chosen, setChosen] = useParam('feed');
  const [connecting, setConnecting] = useState(false);
  const [changing, setChanging] = useState(false);
  const [made, setMade] = useState<FeedWithSecret | null>(null);
  if (problem !== null && value === null)
    return (
      <p role="alert" className="p-6 text-madder">
        {problem}
      </p>
    );
  if (value === null) return <p className="p-6 text-soft">Looking for feeds …</p>;
  const feeds = value.items;
  const feed = feeds.find(({ id }) => id === chosen) ?? feeds[0] ?? null;
  const onMade = (next: FeedWithSecret): void => {
    setMade(next);
    setConnecting(false);
    setChanging(false);
    setChosen(next.feed.id, 'push');
    again();
    // The trail shows that there is a feed now.
    router.refresh();
  };
  const isConnecting = connecting || changing || feeds.length === 0;
  return (
    <section className="flex min-w-0 flex-1">
      <div className="flex w-[300px] shrink-0 flex-col border-r border-line">
        <header className="flex items-center gap-3 border-b border-line px-4 py-2">
          <h1 className="text-[20px] leading-7">Feeds</h1>
          {feeds.length > 0 && (
            <Button
              className="ml-auto"
              onClick={() => {
                setConnecting(!isConnecting);
                setChanging(false);
              }}
            >
              {isConnecting ? 'Cancel' : 'Connect another'}
            </Button>
          )}
        </header>
        <ul aria-label="Feeds" className="min-h-0 flex-1 overflow-y-auto">
          {feeds.map((one) => (
            <li key={one.id} className="border-b border-line">
              <button
                type="button"
                aria-current={!isConnecting && one.id === feed?.id ? 'true' : undefined}
                className={clsx(
                  'grid w-full gap-1 px-4 py-2 text-left',
                  !isConnecting && one.id === feed?.id ? 'bg-sunk' : 'hover:bg-sunk',
                )}
                onClick={() => {
                  setConnecting(false);
                  setChanging(false);
                  setChosen(one.id, 'push');
                }}
              >
                <span className="truncate font-semibold">{one.name}</span>
                {one.source.kind === 'webhook' ? (
                  <span className="flex items-center gap-3">
                    <Sparkline values={one.perMinute} />
                    <span className="figures text-xs text-soft">events a minute</span>
                  </span>
                ) : (
                  <span className="figures truncate text-xs leading-6 text-soft">{sourceWords(one.source)}</span>
                )}
                <span
                  className={clsx(
                    'text-[13px]',
                    one.dead > 0 || one.state === 'failing' || one.run?.state === 'asking'
                      ? 'text-madder'
                      : 'text-soft',
                  )}
                >
                  {stateWords(one)}
                </span>
                <span className="text-[13px] text-soft">{lastWords(one)}</span>
              </button>
            </li>
          ))}
          {feeds.length === 0 && (
            <li className="p-4 text-soft">
              No source is connected. Records come by loading files until then ({counted(collection.records, 'record')}{' '}
              now).
            </li>
          )}
        </ul>
      </div>
      {isConnecting ? (
        <FeedForm key={changing ? feed?.id : ''} collection={name} feed={changing ? feed : null} onDone={onMade} />
      ) : (
        <FeedPanel
          key={feed!.id}
          feed={feed!}
          secret={made?.feed.id === feed!.id ? (made.secret ?? null) : null}
          onSecret={setMade}
          onSettings={() => setChanging(true)}
          onChanged={() => {
            again();
            router.refresh();
          }}
        />
      )}
    </section>
  );
}
