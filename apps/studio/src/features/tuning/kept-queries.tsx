'use client';

import type { JudgedQuery } from '@yucca/contract';
import { rankBiasedOverlap } from '@yucca/engine/compare';
import { createMemory, type Memory, type YuccaClient } from '@yucca/kit';
import clsx from 'clsx';
import { useEffect, useMemo, useState } from 'react';
import { later } from '@/ui/later';
import { draftEffect, type DraftEffect } from '@/features/judgements/run-judgements';

const MOST = 10;
/** Judged queries are scored once the draft has rested for this long: they may be many. */
const REST_MS = 500;
const SIZE = 10;
/** The query in the probe goes first: what is asked besides waits this long, in milliseconds. */
export const BENCH_FIRST_MS = 250;

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

/** What the draft does to the judged queries, once it rests; those it changes most come first. */
function useJudged(collection: string, state: number): DraftEffect | null {
  const [effect, setEffect] = useState<DraftEffect | null>(null);
  useEffect(() => {
    return later(REST_MS, (signal) => {
      draftEffect(collection, signal).then(
        (found) => !signal.aborted && setEffect(found),
        // Without scores the queries are there all the same.
        () => {},
      );
    });
  }, [collection, state]);
  return effect;
}

/**
 * Queries kept on this device, and judged ones that the draft changes, each with how much the draft changes it: so that
 * nothing is tuned for one query alone.
 */
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
  const [kept, setKept] = useState<readonly string[]>([]);
  const judged = useJudged(collection, state);
  const [alike, setAlike] = useState<Likeness>({});
  // What is kept on the device is not known to the server.
  // eslint-disable-next-line react-hooks/set-state-in-effect
  useEffect(() => setKept(memory.queries().slice(0, MOST)), [memory]);
  const queries = useMemo(() => {
    const changed = [...(judged?.worse ?? []), ...(judged?.better ?? [])].map(({ query }) => query);
    return [...new Set([...kept, ...changed])].slice(0, MOST);
  }, [kept, judged]);
  useEffect(() => {
    if (queries.length === 0) return;
    return later(BENCH_FIRST_MS, (signal) => {
      likenessOf(client, collection, queries, signal).then(setAlike, () => {});
    });
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
  const isKept = kept.some((query) => query.toLowerCase() === text.trim().toLowerCase());
  const change = (work: (text: string) => void): void => {
    work(text);
    setKept(memory.queries().slice(0, MOST));
  };
  return (
    <div className="flex min-w-0 items-center gap-1.5 overflow-x-auto p-0.5 [scrollbar-width:none]">
      {text.trim() !== '' && (
        <button
          type="button"
          className="link mr-1 min-h-6 shrink-0 text-[13px] whitespace-nowrap"
          onClick={() => change(isKept ? memory.forgetQuery : memory.addQuery)}
        >
          {isKept ? 'Keep no longer' : 'Keep this query'}
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
            title="Alt+↑ and Alt+↓ go through these queries"
            className={clsx(
              'flex min-h-6 shrink-0 items-center gap-1.5 rounded border px-2 text-[13px] whitespace-nowrap',
              query === text ? 'border-ink bg-raised font-medium' : 'border-line bg-raised hover:border-field-line',
            )}
            onClick={() => onText(query)}
          >
            {query}
            <Verdict query={query} judged={judged} />
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

/** Whether the draft does better or worse at a judged query, in a sign and a word. */
function Verdict({ query, judged }: { query: string; judged: DraftEffect | null }) {
  const is = (some: readonly JudgedQuery[] | undefined): boolean => some?.some((one) => one.query === query) ?? false;
  if (is(judged?.worse))
    return (
      <span className="text-xs text-clay">
        <span aria-hidden="true">↓</span> worse
      </span>
    );
  if (is(judged?.better))
    return (
      <span className="text-xs text-agave">
        <span aria-hidden="true">↑</span> better
      </span>
    );
  return null;
}
