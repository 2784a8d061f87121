import type { Scores } from '@yucca/contract';

const MEASURES: [name: keyof Scores, label: string, what: string][] = [
  ['ndcg', 'nDCG@10', 'Gain of the first ten, against the best order there could be'],
  ['precision', 'Precision@5', 'Of the first five, the share that is good'],
  ['reciprocalRank', 'Reciprocal rank', 'One divided by the rank of the first good result'],
  ['found', 'Found anything', 'Share of the queries that find something'],
];

/** A score as a person reads it: three digits. */
export const figure = (score: number): string => score.toFixed(3);

/** A change with its sign; nothing for none. */
export const change = (live: number, draft: number): string => {
  const by = draft - live;
  return Math.abs(by) < 0.0005 ? '' : `${by > 0 ? '+' : '−'}${Math.abs(by).toFixed(3)}`;
};

/** The measures of live and draft over all judged queries. */
export function ScoreStrip({ live, draft, hasDraft }: { live: Scores; draft: Scores; hasDraft: boolean }) {
  return (
    <div className="mt-2">
      <dl className="flex gap-6 whitespace-nowrap">
        {MEASURES.map(([name, label, what]) => (
          <div key={name} title={what}>
            <dt className="text-xs text-soft">{label}</dt>
            <dd className="figures flex items-baseline gap-2">
              <span className="text-[17px] text-agave">{figure(live[name])}</span>
              {hasDraft && (
                <span className="text-clay">
                  {figure(draft[name])} {change(live[name], draft[name])}
                </span>
              )}
            </dd>
          </div>
        ))}
      </dl>
    </div>
  );
}
