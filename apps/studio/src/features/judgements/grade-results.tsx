'use client';

import type { Card, SearchResult } from '@yucca/contract';
import { GRADES } from '@yucca/contract';
import { createClient, EMPTY_QUERY, shownHit, withText } from '@yucca/kit';
import { useSearch } from '@yucca/kit/react';
import clsx from 'clsx';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { HitLine } from '@/features/probe/hit-line';
import { counted } from '@/ui/format';

const SHOWN = 15;

export interface GradeResultsProps {
  collection: string;
  card: Card;
  query: string;
  grades: Readonly<Record<string, number>>;
  hasDraft: boolean;
  generation: number;
  /** null takes the grade back. */
  onGrade: (id: string, grade: number | null) => void;
}

/** The results of a query, each to be graded in its place. */
export function GradeResults({ collection, card, query, grades, hasDraft, generation, onGrade }: GradeResultsProps) {
  const [version, setVersion] = useState<'live' | 'draft'>('live');
  const [{ answer, status, error }, search] = useSearch(() => ({
    client: createClient({ cache: { most: 0 } }),
    collection,
    request: { size: SHOWN, record: false },
    query: withText(EMPTY_QUERY, query),
  }));
  useEffect(() => {
    if (query !== '') search.change({ size: SHOWN, record: false, version });
  }, [search, query, version, generation]);
  if (query === '')
    return <p className="p-4 text-soft">Choose a query on the left, or type another one to judge it.</p>;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex items-center gap-3 px-4 py-2 text-[13px]">
        <span aria-live="polite">{answer ? counted(answer.total, 'result') : 'Searching …'}</span>
        {hasDraft && (
          <span role="group" aria-label="Results of" className="flex gap-1">
            {(['live', 'draft'] as const).map((one) => (
              <button
                key={one}
                type="button"
                aria-pressed={version === one}
                className={clsx(
                  'min-h-6 rounded border px-2',
                  version === one ? 'border-ink' : 'border-line',
                  one === 'live' ? 'text-agave' : 'text-clay',
                )}
                onClick={() => setVersion(one)}
              >
                {one === 'live' ? '◆ live' : '◇ draft'}
              </button>
            ))}
          </span>
        )}
        <Link href={`/c/${collection}/tuning?probe=${encodeURIComponent(query)}`} className="link ml-auto">
          Tune this query
        </Link>
      </div>
      <p className="px-4 pb-1 text-right text-xs text-soft">
        {GRADES.map((word, value) => `${value} ${word}`).join(' · ')}
      </p>
      {status === 'failed' && <p className="px-4 text-madder">{error?.message ?? 'The search did not answer.'}</p>}
      {answer?.total === 0 && (
        <p className="px-4 text-soft">
          Nothing comes up, so there is nothing to grade here. A synonym or a looser spelling may help: tune this query.
        </p>
      )}
      <ol className="min-h-0 flex-1 overflow-y-auto px-2 pb-3" aria-label="Results to grade">
        {answer?.results.map((result, i) => (
          <GradedHit
            key={result.id}
            place={i + 1}
            result={result}
            card={card}
            grade={Object.hasOwn(grades, result.id) ? grades[result.id]! : null}
            onGrade={(grade) => onGrade(result.id, grade)}
          />
        ))}
      </ol>
    </div>
  );
}

interface GradedHitProps {
  place: number;
  result: SearchResult;
  card: Card;
  grade: number | null;
  onGrade: (grade: number | null) => void;
}

function GradedHit({ place, result, card, grade, onGrade }: GradedHitProps) {
  const hit = shownHit(result, card);
  return (
    <li className="flex items-center gap-2 border-b border-line px-2 py-1.5 text-[13px] last:border-b-0">
      <span className="figures w-5 shrink-0 text-right text-xs text-soft">{place}</span>
      <HitLine hit={hit} size={32} short />
      <span role="group" aria-label={`Grade of ${hit.title.text}`} className="flex shrink-0 gap-1">
        {GRADES.map((word, value) => (
          <button
            key={word}
            type="button"
            aria-pressed={grade === value}
            aria-label={word}
            title={grade === value ? `${word}: press again to take it back` : word}
            className={clsx(
              'figures size-6 rounded border text-xs',
              grade === value ? 'border-ink bg-ink text-paper' : 'border-line text-soft hover:border-field-line',
            )}
            onClick={() => onGrade(grade === value ? null : value)}
          >
            {value}
          </button>
        ))}
      </span>
    </li>
  );
}
