import type { JudgedQuery } from '@yucca/contract';
import { useEffect, useState } from 'react';
import { draftEffect, type DraftEffect } from '@/features/judgements/run-judgements';
import { figure } from '@/features/judgements/score-strip';
import { counted } from '@/ui/format';

/** Queries named for each direction. */
const NAMED = 4;

/** What the draft does to the judged queries, asked anew each time `open` comes true; null when nothing is judged. */
export function useDraftEffect(collection: string, open: boolean): DraftEffect | 'asking' | null {
  const [effect, setEffect] = useState<DraftEffect | 'asking' | null>(null);
  useEffect(() => {
    if (!open) return;
    const gone = new AbortController();
    const ask = async (): Promise<void> => {
      setEffect('asking');
      const found = await draftEffect(collection, gone.signal);
      if (!gone.signal.aborted) setEffect(found);
    };
    // Without an answer it is published as it was before there were judgements.
    ask().catch(() => !gone.signal.aborted && setEffect(null));
    return () => gone.abort();
  }, [collection, open]);
  return effect;
}

/** The judged queries that get better and worse, in a sentence each. */
export function JudgedEffect({ effect }: { effect: DraftEffect | 'asking' | null }) {
  if (effect === null) return null;
  if (effect === 'asking')
    return (
      <p role="status" className="mb-3 text-soft">
        Scoring the judged queries …
      </p>
    );
  const { judged, live, draft, better, worse } = effect;
  return (
    <div className="mb-3 rounded-md border border-line bg-raised px-3 py-2">
      <p>
        Of {counted(judged, 'judged query', 'judged queries')}{' '}
        <span className="text-agave">{better.length} get better</span> and{' '}
        <span className="text-clay">{worse.length} worse</span>. Mean nDCG@10{' '}
        <span className="figures">
          {figure(live)} → {figure(draft)}
        </span>
        .
      </p>
      <Named label="Worse" queries={worse} />
      <Named label="Better" queries={better} />
    </div>
  );
}

function Named({ label, queries }: { label: string; queries: readonly JudgedQuery[] }) {
  if (queries.length === 0) return null;
  const more = queries.length - NAMED;
  return (
    <p className="mt-1 text-[13px] text-soft">
      {label}:{' '}
      {queries.slice(0, NAMED).map(({ query, live, draft }, i) => (
        <span key={query}>
          {i > 0 && ', '}“{query}”{' '}
          <span className="figures text-xs">
            {figure(live.ndcg)} → {figure(draft.ndcg)}
          </span>
        </span>
      ))}
      {more > 0 && ` and ${more} more`}
    </p>
  );
}
