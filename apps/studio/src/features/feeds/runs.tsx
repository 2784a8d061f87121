import type { Feed, FeedRun, Page } from '@yucca/contract';
import clsx from 'clsx';
import { useState } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { count, counted, duration, moment } from '@/ui/format';
import { useTold } from '@/ui/use-told';

const ROWS = 20;

/** The runs of a source that is asked: what each found, how far one is, and what it asks. */
export function Runs({ feed, onRun }: { feed: Feed; onRun: (query: string) => void }) {
  const { run } = feed;
  const state = `${run?.number} ${run?.state} ${run?.read} ${run?.deleted}`;
  const { value } = useTold<Page<FeedRun>>(`/feeds/${feed.id}/runs?size=${ROWS}`, state);
  // The newest is newer in the feed itself.
  const runs = (value?.items ?? []).map((one) => (one.number === run?.number ? run : one));
  return (
    <section aria-label="Runs" className="px-4 py-3">
      <h3 className="mb-2 text-[15px] font-semibold">Runs</h3>
      {run?.state === 'asking' && <Asks run={run} onConfirm={() => onRun('?confirm=true')} />}
      {runs.length === 0 ? (
        <p className="text-soft">It has not been asked yet.</p>
      ) : (
        <table className="w-full text-[13px]">
          <thead>
            <tr className="bg-sunk text-left">
              {['Began', 'Read', 'Written', 'As they were', 'Deleted', 'Not stored', 'How it ended'].map((head, i) => (
                <th key={head} scope="col" className={clsx('px-2 py-1 font-medium', i > 0 && i < 6 && 'text-right')}>
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {runs.map((one) => (
              <tr key={one.number} className="border-b border-line align-top">
                <td className="figures px-2 py-1 whitespace-nowrap">{moment(one.startedAt)}</td>
                {[one.read, one.written, one.same, one.deleted, one.failed].map((value, i) => (
                  <td key={i} className={clsx('figures px-2 py-1 text-right', i === 4 && value > 0 && 'text-madder')}>
                    {count(value)}
                  </td>
                ))}
                <td className={clsx('px-2 py-1', one.state === 'failed' && 'text-madder')}>
                  <Ended run={one} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

function Ended({ run }: { run: FeedRun }) {
  if (run.state === 'running') return <Progress run={run} />;
  const took = run.endedAt === null ? 0 : (Date.parse(run.endedAt) - Date.parse(run.startedAt)) / 1_000;
  const words = {
    done: `${run.whole ? 'Everything' : 'Changes'} read in ${duration(took)}`,
    failed: 'Failed',
    asking: 'Waits for an answer',
    cancelled: 'Given up',
    running: '',
  }[run.state];
  const changes = run.changes.length > 0 ? ` ${counted(run.changes.length, 'field')} changed.` : '';
  return `${words}. ${run.reason ?? ''}${changes}`.trim();
}

/** How far a run is, and how long it still takes, where the source tells how much it has. */
function Progress({ run }: { run: FeedRun }) {
  const { total, read, leftS } = run;
  if (total === null || total === 0) return <span role="status">Reading …</span>;
  const share = Math.min(1, read / total);
  return (
    <span role="status" className="flex items-center gap-2">
      <progress className="w-24" max={1} value={share} aria-label="Read so far" />
      {Math.round(share * 100)} %{leftS !== null && `, ${duration(leftS)} left`}
    </span>
  );
}

/** What a run wants to be told before it goes on. */
function Asks({ run, onConfirm }: { run: FeedRun; onConfirm: () => void }) {
  const isDeleting = run.asks !== null;
  return (
    <div role="alert" className="mb-3 grid gap-2 rounded-md border border-madder bg-raised p-3">
      {isDeleting ? (
        <p>
          The source lacks {counted(run.asks!, 'record')} that are here: more than a tenth of what it brought. Nothing
          was deleted yet.
        </p>
      ) : (
        <>
          <p>Fields that are used are not what they were. Nothing was written yet.</p>
          <ul className="list-disc pl-5">
            {run.changes.map(({ field, was, is, used }) => (
              <li key={field}>
                <code className="figures">{field}</code>: {was ?? 'not there'} before, {is ?? 'not there'} now (
                {used.join(', ')})
              </li>
            ))}
          </ul>
        </>
      )}
      <div>
        <Button kind="danger" onClick={onConfirm}>
          {isDeleting ? `Delete the ${counted(run.asks!, 'record')}` : 'Write it all the same'}
        </Button>
      </div>
    </div>
  );
}

/** The change log of a SQLite table: the statements are read before they are made. */
export function Triggers({ feed, onMade }: { feed: Feed; onMade: () => void }) {
  const { value, problem } = useTold<{ sql: string }>(`/feeds/${feed.id}/triggers`);
  const [failed, setFailed] = useState<string | null>(null);
  const make = (): void => void api(`/feeds/${feed.id}/triggers`, { method: 'POST' }).then(onMade, (error: Error) => setFailed(error.message)); // prettier-ignore
  return (
    <section aria-label="Change log" className="border-t border-line px-4 py-3">
      <div className="mb-2 flex items-center gap-3">
        <h3 className="text-[15px] font-semibold">Change log</h3>
        <span className="text-soft">
          {feed.run === null
            ? 'These statements go into the source’s file; nothing is read before.'
            : 'Is in the source’s file, and goes when the feed ends.'}
        </span>
        {(feed.run === null || feed.state === 'failing') && (
          <Button kind="primary" className="ml-auto" onClick={make}>
            Make the triggers
          </Button>
        )}
      </div>
      {(failed ?? problem) && (
        <p role="alert" className="text-madder">
          {failed ?? problem}
        </p>
      )}
      <pre
        tabIndex={0}
        aria-label="Statements"
        className="figures max-h-48 overflow-auto rounded-md border border-line bg-raised p-3 text-xs leading-5"
      >
        {value?.sql ?? ''}
      </pre>
    </section>
  );
}
