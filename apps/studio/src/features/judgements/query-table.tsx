import type { JudgedQuery, Judgement } from '@yucca/contract';
import { verdict } from '@yucca/engine/judge';
import clsx from 'clsx';
import { useState } from 'react';
import { change, figure } from './score-strip';

export interface QueryTableProps {
  judgements: readonly Judgement[];
  scores: ReadonlyMap<string, JudgedQuery>;
  hasDraft: boolean;
  chosen: string;
  onChoose: (query: string) => void;
  /** Without it, none can be removed. */
  onRemove?: (judgement: Judgement) => void;
}

const ORDERS = {
  lowest: 'lowest first',
  changed: 'most changed first',
  judged: 'as judged',
} as const;

type Order = keyof typeof ORDERS;

/** The queries in the order that is asked for; those without a score come last. */
export function ordered(
  judgements: readonly Judgement[],
  scores: ReadonlyMap<string, JudgedQuery>,
  order: Order,
): readonly Judgement[] {
  if (order === 'judged') return judgements;
  const rank = ({ query }: Judgement): number => {
    const scored = scores.get(query);
    if (!scored) return 2;
    return order === 'lowest' ? scored.live.ndcg : -Math.abs(scored.draft.ndcg - scored.live.ndcg);
  };
  return [...judgements].sort((a, b) => rank(a) - rank(b));
}

/** Every judged query with what live and draft score at it. */
export function QueryTable({ judgements, scores, hasDraft, chosen, onChoose, onRemove }: QueryTableProps) {
  const [order, setOrder] = useState<Order>('lowest');
  return (
    <>
      <label className="flex items-center gap-2 px-6 py-2 text-soft">
        Order
        <select
          className="field h-8 w-auto py-0"
          value={order}
          onChange={(event) => setOrder(event.target.value as Order)}
        >
          {Object.entries(ORDERS).map(([name, label]) => (
            <option key={name} value={name}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} role="region" aria-label="Judged queries">
        <table className="w-full text-[13px]">
          <thead className="sticky top-0 bg-sunk text-left">
            <tr>
              <th scope="col" className="px-6 py-1.5 font-medium">
                Query
              </th>
              <th scope="col" className="px-3 py-1.5 text-right font-medium">
                Graded
              </th>
              <th scope="col" className="px-3 py-1.5 text-right font-medium">
                Live nDCG
              </th>
              {hasDraft && (
                <th scope="col" className="px-3 py-1.5 text-right font-medium">
                  Draft
                </th>
              )}
              <th scope="col" className="px-3 py-1.5 pr-6">
                <span className="sr-only">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {ordered(judgements, scores, order).map((judgement) => (
              <Row
                key={judgement.query}
                judgement={judgement}
                scored={scores.get(judgement.query)}
                hasDraft={hasDraft}
                current={judgement.query === chosen}
                onChoose={() => onChoose(judgement.query)}
                {...(onRemove && { onRemove: () => onRemove(judgement) })}
              />
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

interface RowProps {
  judgement: Judgement;
  scored: JudgedQuery | undefined;
  hasDraft: boolean;
  current: boolean;
  onChoose: () => void;
  onRemove?: () => void;
}

function Row({ judgement: { query, grades }, scored, hasDraft, current, onChoose, onRemove }: RowProps) {
  const better = scored ? verdict(scored) : 0;
  return (
    <tr className={clsx('group border-t border-line', current && 'bg-agave-tint')}>
      <td className="px-6 py-1">
        <button type="button" className="min-h-6 text-left hover:underline" aria-current={current} onClick={onChoose}>
          {query}
        </button>
        {scored && scored.live.found === 0 && <span className="ml-2 text-xs text-madder">finds nothing</span>}
      </td>
      <td className="figures px-3 py-1 text-right text-soft">{Object.keys(grades).length}</td>
      <td className="figures px-3 py-1 text-right">
        {scored && (
          <span className="inline-flex items-center gap-2">
            <span aria-hidden="true" className="h-1.5 w-16 bg-line">
              <span className="block h-full bg-agave" style={{ width: `${100 * scored.live.ndcg}%` }} />
            </span>
            {figure(scored.live.ndcg)}
          </span>
        )}
      </td>
      {hasDraft && (
        <td className="figures px-3 py-1 text-right whitespace-nowrap">
          {scored && better !== 0 && (
            <span className={better === 1 ? 'text-agave' : 'text-clay'}>
              {better === 1 ? '↑' : '↓'} {figure(scored.draft.ndcg)} {change(scored.live.ndcg, scored.draft.ndcg)}
            </span>
          )}
          {scored && better === 0 && <span className="text-soft">same</span>}
        </td>
      )}
      <td className="px-3 py-1 pr-6 text-right">
        {onRemove && (
          <button
            type="button"
            className="min-h-6 text-soft hover:text-madder"
            aria-label={`Remove “${query}”`}
            onClick={onRemove}
          >
            ×
          </button>
        )}
      </td>
    </tr>
  );
}
