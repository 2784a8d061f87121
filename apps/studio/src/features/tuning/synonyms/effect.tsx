'use client';

import type { Judgement, SynonymGroup, TrialAnswer, TrialEffect } from '@yucca/contract';
import { createMemory } from '@yucca/kit';
import { useEffect, useState } from 'react';
import { api } from '@/ui/api';
import { count } from '@/ui/format';
import { later } from '@/ui/later';
import { useDraft } from '../draft';

/** What is typed is tried once it rests for this long, in milliseconds. */
const REST_MS = 250;
/** Queries tried: what is judged, what is kept on this device, and what is in the probe. */
const MOST = 200;
const NAMED = 3;

/** What a group of synonyms would change, before it is saved. */
export function SynonymEffect({
  collection,
  group,
  text,
}: {
  collection: string;
  group: SynonymGroup;
  /** The query in the probe. */
  text: string;
}) {
  const [{ document, saves }] = useDraft();
  const [tried, setTried] = useState<{ effects: TrialEffect[]; queries: number } | null>(null);
  const asked = JSON.stringify(group);
  useEffect(() => {
    return later(REST_MS, (signal) => {
      tryGroup(
        collection,
        { ...document, synonyms: [...(document.synonyms ?? []), JSON.parse(asked)] },
        text,
        signal,
      ).then(
        (found) => !signal.aborted && setTried(found),
        // A group that cannot be tried can be saved all the same.
        () => {},
      );
    });
    // The document is what `saves` counts.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [collection, asked, text, saves]);
  if (tried === null) return null;
  const changed = tried.effects.filter(({ alike, before, after }) => alike < 0.9999 || before.total !== after.total);
  return (
    <p className="text-[13px] text-soft" role="status">
      {changed.length === 0
        ? `Changes none of the ${count(tried.queries)} judged and kept queries.`
        : `Changes ${count(changed.length)} of ${count(tried.queries)} judged and kept queries: `}
      {changed.slice(0, NAMED).map(({ query, before, after }, i) => (
        <span key={query}>
          {i > 0 && ', '}“{query}”{' '}
          <span className="figures text-xs">
            {count(before.total)} → {count(after.total)}
          </span>
        </span>
      ))}
      {changed.length > NAMED && ` and ${count(changed.length - NAMED)} more`}
    </p>
  );
}

async function tryGroup(
  collection: string,
  tuning: object,
  text: string,
  signal: AbortSignal,
): Promise<{ effects: TrialEffect[]; queries: number }> {
  const { judgements } = await api<{ judgements: Judgement[] }>(`/collections/${collection}/judgements`, { signal });
  const kept = createMemory(`bench:${collection}`).queries();
  const all = [text.trim(), ...kept, ...judgements.map(({ query }) => query)].filter((query) => query !== '');
  const queries = [...new Set(all)].slice(0, MOST);
  if (queries.length === 0) return { effects: [], queries: 0 };
  const { effects } = await api<TrialAnswer>(`/collections/${collection}/tuning/trial`, {
    method: 'POST',
    json: { tuning, queries },
    signal,
  });
  return { effects, queries: queries.length };
}
