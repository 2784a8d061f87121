import type { Collection, JudgedQuery, VisitorJudgements } from '@yucca/contract';
import { meanScores } from '@yucca/engine/judge';
import { useEffect, useState } from 'react';
import { rangeOf } from '@/features/insights/range';
import { useTold } from '@/ui/use-told';
import { counted } from '@/ui/format';
import { QueryTable } from './query-table';
import { runJudgements } from './run-judgements';
import { ScoreStrip } from './score-strip';

/** What visitors' clicks of the last 90 days say of live and draft; kept apart from what was judged by hand. */
export function FromVisitors({
  collection,
  chosen,
  onChoose,
}: {
  collection: Collection;
  chosen: string;
  onChoose: (query: string) => void;
}) {
  const { name, generation, draftChanged } = collection;
  const [last90Days] = useState(() => new URLSearchParams({ ...rangeOf('90', new Date().toISOString().slice(0, 10)) }));
  const { value, problem } = useTold<VisitorJudgements>(`/collections/${name}/insights/judgements?${last90Days}`);
  const [scores, setScores] = useState<ReadonlyMap<string, JudgedQuery>>(new Map());
  const [failed, setFailed] = useState<string | null>(null);
  useEffect(() => {
    if (value === null) return;
    const gone = new AbortController();
    const queries = value.judgements.map(({ query }) => query);
    const add = (part: readonly JudgedQuery[]): void =>
      setScores((before) => new Map([...before, ...part.map((one) => [one.query, one] as const)]));
    runJudgements(name, queries, gone.signal, add, 'visitors').catch((error: Error) => {
      if (!gone.signal.aborted) setFailed(error.message);
    });
    return () => gone.abort();
  }, [name, value, generation]);
  if (problem ?? failed) return <p role="alert" className="px-6 py-2 text-madder">{problem ?? failed}</p>; // prettier-ignore
  if (value === null) return null;
  if (value.judgements.length === 0)
    return (
      <p className="p-6 text-soft">
        Visitors have not opened enough yet: a record says something of a query once it was shown for it 20 times.
      </p>
    );
  const rows = [...scores.values()];
  return (
    <>
      <div className="border-b border-line px-6 pb-3">
        {rows.length > 0 && (
          <ScoreStrip
            live={meanScores(rows.map(({ live }) => live))}
            draft={meanScores(rows.map(({ draft }) => draft))}
            hasDraft={draftChanged}
          />
        )}
        <p className="mt-2 max-w-[72ch] text-[13px] text-soft">
          Made from clicks on {counted(value.judgements.length, 'query', 'queries')}, once it is taken into account that
          the first results are looked at most: the second by {percent(value.looked[1])}, the fifth by{' '}
          {percent(value.looked[4])} of those who look at the first. Publishing asks only for what was judged by hand.
        </p>
      </div>
      <QueryTable
        judgements={value.judgements}
        scores={scores}
        hasDraft={draftChanged}
        chosen={chosen}
        onChoose={onChoose}
      />
    </>
  );
}

const percent = (share: number | undefined): string => (share === undefined ? 'none' : `${Math.round(share * 100)}%`);
