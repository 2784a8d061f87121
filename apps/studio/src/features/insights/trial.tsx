import type { VisitorTrial } from '@yucca/contract';
import Link from 'next/link';
import { useState } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { counted } from '@/ui/format';
import { sureOf, trialWords } from './trial-words';
import { useTold } from '@/ui/use-told';

/** A trial that runs is asked for again so often. */
const EVERY_MS = 5_000;

/** Live against draft on real visitors: to begin, to watch, to end. */
export function Trial({ collection, hasDraft }: { collection: string; hasDraft: boolean }) {
  const path = `/collections/${collection}/visitor-trial`;
  const {
    value: trial,
    problem,
    again,
  } = useTold<VisitorTrial>(path, '', ({ state }) => (state === 'running' ? EVERY_MS : null));
  const [failed, setFailed] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  if (trial === null || (trial.state === 'none' && !hasDraft)) return null;
  const isRunning = trial.state === 'running';

  const send = async (method: 'POST' | 'DELETE'): Promise<void> => {
    setBusy(true);
    setFailed(null);
    try {
      await api(path, { method });
    } catch (error) {
      setFailed((error as Error).message);
    } finally {
      setBusy(false);
      again();
    }
  };
  const { wins, ties, confidence, preferred } = trial;
  return (
    <section
      aria-label="Trial with visitors"
      className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-2"
    >
      <h2 className="font-head text-[15px] font-semibold">Trial</h2>
      {trial.state !== 'none' && (
        <>
          <Share live={wins.live} draft={wins.draft} />
          <span className="figures">
            <span className="text-agave">◆</span> live {wins.live} · <span className="text-clay">◇</span> draft{' '}
            {wins.draft} · even {ties}
          </span>
        </>
      )}
      <p className="min-w-0 flex-1 text-soft" role="status">
        {trialWords(trial)}
        {preferred !== null && (
          <>
            {' '}
            <span className="text-ink">
              {preferred === 'draft' ? 'The draft' : 'Live'} is preferred, {sureOf(confidence)}.
            </span>
          </>
        )}
        {trial.draftChanged && isRunning && <> The draft has been changed since: visitors get it as it was.</>}
      </p>
      {(problem ?? failed) && (
        <p role="alert" className="w-full text-madder">
          {failed ?? problem}
        </p>
      )}
      {isRunning ? (
        <Button disabled={busy} onClick={() => void send('DELETE')}>
          Stop
        </Button>
      ) : (
        hasDraft && (
          <Button disabled={busy} onClick={() => void send('POST')}>
            {trial.state === 'none' ? 'Try the draft on visitors' : 'Begin another'}
          </Button>
        )
      )}
      {hasDraft && trial.state !== 'none' && preferred === 'draft' && !trial.draftChanged && (
        <Link className="link" href={`/c/${collection}/tuning`}>
          Publish the draft
        </Link>
      )}
      <span className="sr-only">{counted(trial.visits, 'visit')}</span>
    </section>
  );
}

/** Wins of both sides as lengths; the figures stand beside it. */
function Share({ live, draft }: { live: number; draft: number }) {
  const all = live + draft;
  if (all === 0) return null;
  return (
    <svg aria-hidden="true" width="120" height="8" viewBox="0 0 120 8" className="shrink-0">
      <rect width={(120 * live) / all} height="8" className="fill-agave" />
      <rect x={(120 * live) / all} width={(120 * draft) / all} height="8" className="fill-clay" />
    </svg>
  );
}
