'use client';

import { rankBiasedOverlap } from '@yucca/engine/compare';
import { createMemory, type Memory, type YuccaClient } from '@yucca/kit';
import clsx from 'clsx';
import { useEffect, useState } from 'react';

const MOST = 10;
const SIZE = 10;

/** How alike live and draft are for a query, 0 to 1. */
export type Likeness = Readonly<Record<string, number>>;

/** Asks for every kept query, live and draft, and measures how alike the answers are. */
export async function likenessOf(
  client: Pick<YuccaClient, 'multiSearch'>,
  collection: string,
  queries: readonly string[],
  signal: AbortSignal,
): Promise<Likeness> {
  const found: [string, number][] = [];
  // A call takes ten searches: five queries with two versions each.
  for (let at = 0; at < queries.length; at += 5) {
    const some = queries.slice(at, at + 5);
    const asked = some.flatMap((q) =>
      (['live', 'draft'] as const).map((version) => ({
        collection,
        q,
        version,
        size: SIZE,
        fields: [],
        record: false,
      })),
    );
    const answers = await client.multiSearch(asked, signal);
    some.forEach((q, i) => {
      const [live, draft] = [answers[2 * i], answers[2 * i + 1]].map((answer) =>
        answer && 'results' in answer ? answer.results.map(({ id }) => id) : [],
      );
      found.push([q, rankBiasedOverlap(live!, draft!)]);
    });
  }
  return Object.fromEntries(found);
}

/** Queries kept on this device, each with how much the draft changes it: so that nothing is tuned for one query alone. */
export function KeptQueries({
  client,
  collection,
  text,
  state,
  onText,
}: {
  client: YuccaClient;
  collection: string;
  text: string;
  /** Grows with every change of the records, the live tuning or the draft. */
  state: number;
  onText: (text: string) => void;
}) {
  const [memory] = useState<Memory>(() => createMemory(`bench:${collection}`));
  const [queries, setQueries] = useState<readonly string[]>([]);
  const [alike, setAlike] = useState<Likeness>({});
  // What is kept on the device is not known to the server.
  // eslint-disable-next-line react-hooks/set-state-in-effect
  useEffect(() => setQueries(memory.queries().slice(0, MOST)), [memory]);
  useEffect(() => {
    if (queries.length === 0) return;
    const gone = new AbortController();
    likenessOf(client, collection, queries, gone.signal).then(setAlike, () => {});
    return () => gone.abort();
  }, [client, collection, queries, state]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (!event.altKey || (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') || queries.length === 0) return;
      event.preventDefault();
      const at = queries.indexOf(text);
      const step = event.key === 'ArrowDown' ? 1 : -1;
      onText(
        queries[at === -1 ? (step === 1 ? 0 : queries.length - 1) : (at + step + queries.length) % queries.length]!,
      );
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [queries, text, onText]);
  const kept = queries.some((query) => query.toLowerCase() === text.trim().toLowerCase());
  const change = (work: (text: string) => void): void => {
    work(text);
    setQueries(memory.queries().slice(0, MOST));
  };
  return (
    <div className="flex min-w-0 flex-wrap items-center gap-1.5">
      {text.trim() !== '' && (
        <button
          type="button"
          className="link mr-1 min-h-6 text-[13px]"
          onClick={() => change(kept ? memory.forgetQuery : memory.addQuery)}
        >
          {kept ? 'Keep no longer' : 'Keep this query'}
        </button>
      )}
      {queries.map((query) => {
        const same = alike[query];
        const changed = same !== undefined && same < 0.9999;
        return (
          <button
            key={query}
            type="button"
            aria-pressed={query === text}
            title="Alt+↑ and Alt+↓ go through the kept queries"
            className={clsx(
              'flex min-h-6 items-center gap-1.5 rounded border px-2 text-[13px]',
              query === text ? 'border-ink bg-raised font-medium' : 'border-line bg-raised hover:border-field-line',
            )}
            onClick={() => onText(query)}
          >
            {query}
            {changed && <span className="figures text-xs text-clay">{Math.round(same * 100)}%</span>}
          </button>
        );
      })}
      {queries.length === 0 && (
        <span className="text-[13px] text-soft">Kept queries show here how much the draft changes each of them.</span>
      )}
    </div>
  );
}
