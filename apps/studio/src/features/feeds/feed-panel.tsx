import type { Feed, FeedEvent, FeedRun, FeedWithSecret, Page } from '@yucca/contract';
import clsx from 'clsx';
import Link from 'next/link';
import { useState } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { ConfirmByName } from '@/ui/confirm-by-name';
import { CopyButton } from '@/ui/copy-button';
import { counted, moment } from '@/ui/format';
import { useTold } from '@/ui/use-told';
import { Compare } from './compare';
import { BECAME, DOES, lastWords, stateWords } from './feed-words';
import { Mapping } from './mapping';
import { Runs, Triggers } from './runs';
import { scheduleWords, sourceWords } from './source-forms';
import { SenderCode } from './sender-code-view';
import { TestEvent } from './test-event';

const ROWS = 50;

/** One feed: what came and what became of it, how to send to it, and what can be done with it. */
export function FeedPanel({
  feed,
  secret,
  onSecret,
  onSettings,
  onChanged,
}: {
  feed: Feed;
  /** Its secret while it is told; null later. */
  secret: string | null;
  onSecret: (made: FeedWithSecret) => void;
  /** How it is asked is to be changed. */
  onSettings: () => void;
  onChanged: () => void;
}) {
  const path = `/feeds/${feed.id}`;
  const [only, setOnly] = useState<'any' | 'dead'>('any');
  const came = `${feed.events} ${feed.lastEventAt} ${feed.dead} ${feed.early} ${feed.lagS > 0}`;
  const { value: events, again } = useTold<Page<FeedEvent>>(`${path}/events?state=${only}&size=${ROWS}`, came);
  const [problem, setProblem] = useState<string | null>(null);
  const [said, setSaid] = useState('');
  const [ending, setEnding] = useState(false);
  const [asking, setAsking] = useState(false);
  /** Does something and says what came of it, when it has a sentence. */
  const doing = (work: Promise<string | object>): void => {
    setProblem(null);
    setSaid('');
    work.then(
      (told) => {
        if (typeof told === 'string') setSaid(told);
        onChanged();
        again();
      },
      (error: Error) => setProblem(error.message),
    );
  };
  const post = <T = Feed,>(what: string, json?: object): Promise<T> =>
    api<T>(`${path}/${what}`, { method: 'POST', ...(json && { json }) });
  const isAsked = feed.source.kind !== 'webhook';
  const run = (query = ''): void => doing(post<FeedRun>(`run${query}`));
  const address = `${typeof window === 'undefined' ? '' : window.location.origin}/api/v1${path}/events`;
  return (
    <div className="relative min-w-0 flex-1 overflow-y-auto">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-2">
        <h2 className="truncate text-[17px]">{feed.name}</h2>
        <span className={feed.dead > 0 ? 'text-madder' : 'text-soft'} role="status">
          {said || `${stateWords(feed)}. ${lastWords(feed)}.`}
        </span>
        <span className="ml-auto flex gap-2">
          {feed.state === 'running' ? (
            <Button onClick={() => doing(post('pause'))}>Pause</Button>
          ) : (
            <Button onClick={() => doing(post('resume'))}>Resume</Button>
          )}
          {isAsked ? (
            <Button disabled={feed.state === 'paused' || feed.run?.state === 'running'} onClick={() => run()}>
              Run now
            </Button>
          ) : (
            <Button aria-expanded={asking} onClick={() => setAsking(!asking)}>
              Send a test event
            </Button>
          )}
          <Button onClick={onSettings}>Settings …</Button>
          <Button kind="danger" onClick={() => setEnding(true)}>
            End …
          </Button>
        </span>
      </header>
      {problem && (
        <p role="alert" className="border-b border-line px-4 py-2 text-madder">
          {problem}
        </p>
      )}
      {asking && (
        <TestEvent
          collection={feed.collection}
          onSend={(event) =>
            doing(
              post<FeedEvent>('test', event).then(
                ({ state, reason }) => `The test event: ${reason?.replace(/\.$/, '') ?? BECAME[state]}.`,
              ),
            )
          }
        />
      )}
      {secret !== null && (
        <div className="grid gap-2 border-b border-line bg-agave-tint px-4 py-3">
          <p>
            <strong>The secret that {feed.name} signs with.</strong> It is told this once; put it where its settings
            are.
          </p>
          <p className="flex items-center gap-3">
            <code className="figures min-w-0 flex-1 truncate rounded-md border border-line bg-raised px-2 py-1">
              {secret}
            </code>
            <CopyButton text={secret} />
          </p>
        </div>
      )}
      {isAsked && (
        <p className="flex flex-wrap gap-x-4 border-b border-line px-4 py-2 text-[13px] text-soft">
          <span className="figures min-w-0 truncate">{sourceWords(feed.source)}</span>
          <span>
            Asked {scheduleWords(feed.source)}
            {feed.nextRunAt !== null && `, next ${moment(feed.nextRunAt)}`}.
          </span>
          {feed.reason !== null && <span className="text-madder">{feed.reason}</span>}
        </p>
      )}
      {isAsked && <Runs feed={feed} onRun={run} />}
      {(!isAsked || feed.events > 0) && (
        <section aria-label="Events" className={clsx('px-4 py-3', isAsked && 'border-t border-line')}>
          <div className="mb-2 flex items-center gap-3">
            <h3 className="text-[15px] font-semibold">Events</h3>
            {feed.dead > 0 && (
              <>
                <Button aria-pressed={only === 'dead'} onClick={() => setOnly(only === 'dead' ? 'any' : 'dead')}>
                  {only === 'dead' ? 'All events' : `Only the ${counted(feed.dead, 'event')} not applied`}
                </Button>
                <Button
                  onClick={() =>
                    doing(
                      post<{ applied: number }>('dead/replay', {}).then(
                        ({ applied }) => `${counted(applied, 'event')} applied now.`,
                      ),
                    )
                  }
                >
                  Try them again
                </Button>
              </>
            )}
          </div>
          {events?.total === 0 ? (
            <p className="max-w-[60ch] text-soft">
              Nothing has come yet. Send a first event from your system with the code below, or a test event from here.
            </p>
          ) : (
            <Events
              events={events}
              collection={feed.collection}
              onAgain={(number) => doing(post('dead/replay', { numbers: [number] }))}
            />
          )}
        </section>
      )}
      {feed.source.kind === 'sqlite' && feed.source.log && <Triggers feed={feed} onMade={onChanged} />}
      <Mapping key={JSON.stringify(feed.mapping)} feed={feed} onChanged={onChanged} />
      <Compare path={path} asks={isAsked} drift={feed.drift} onRepaired={onChanged} />
      {!isAsked && (
        <section aria-label="How to send" className="border-t border-line px-4 py-3">
          <SenderCode address={address} />
          <p className="mt-3 flex items-center gap-3 text-soft">
            The secret has gone astray, or has been seen?
            <Button
              onClick={() =>
                doing(
                  post<FeedWithSecret>('secret').then((made) => {
                    onSecret(made);
                    return 'The secret before holds for a day more.';
                  }),
                )
              }
            >
              Make another
            </Button>
          </p>
        </section>
      )}
      {ending && (
        <ConfirmByName
          name={feed.name}
          title={`End ${feed.name}?`}
          verb="End the feed"
          onClose={() => setEnding(false)}
          onConfirm={async () => {
            await api(path, { method: 'DELETE' });
            onChanged();
          }}
        >
          {isAsked ? 'It is asked no more.' : 'What it sends is refused from then on.'} The records it wrote stay.
        </ConfirmByName>
      )}
    </div>
  );
}

function Events({
  events,
  collection,
  onAgain,
}: {
  events: Page<FeedEvent> | null;
  collection: string;
  onAgain: (number: number) => void;
}) {
  if (events === null) return <p className="text-soft">Looking …</p>;
  return (
    <table className="w-full text-[13px]">
      <thead>
        <tr className="bg-sunk text-left">
          {['Came', 'Record', 'Event', 'What became of it'].map((head) => (
            <th key={head} scope="col" className="px-2 py-1 font-medium">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {events.items.map(({ number, receivedAt, key, action, type, state, reason }) => (
          <tr key={number} className="border-b border-line align-top">
            <td className="figures px-2 py-1 whitespace-nowrap">{moment(receivedAt)}</td>
            <td className="figures px-2 py-1">
              <Link className="link" href={`/c/${collection}/records?record=${encodeURIComponent(key)}`}>
                {key}
              </Link>
            </td>
            <td className="px-2 py-1">
              {DOES[action]} <span className="figures text-xs text-soft">{type}</span>
            </td>
            <td className={clsx('px-2 py-1', state === 'dead' && 'text-madder')}>
              {reason ?? BECAME[state]}
              {state === 'dead' && (
                <button type="button" className="link ml-3" onClick={() => onAgain(number)}>
                  Try again
                </button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
