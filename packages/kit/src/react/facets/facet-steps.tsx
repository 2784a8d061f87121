import type { NumbersFacet } from '@yucca/contract';
import type { RangeChoice } from '../../query.ts';
import { formatOf } from '../../facet-labels.ts';
import { useTexts } from '../use-texts.ts';

/** What `FacetSteps` is given. */
export interface FacetStepsProps {
  name: string;
  facet: NumbersFacet;
  /** Takes the range there shall be; null = none. */
  onRange: (range: RangeChoice | null) => void;
}

/** Steps offered at most. */
const MOST = 6;

/**
 * Where steps begin: at the edges of the facet's buckets, the highest first. How many records reach a step is the sum
 * of the buckets above it; one that all or none reach says nothing.
 */
export function stepsOf({ buckets }: Pick<NumbersFacet, 'buckets'>): { from: number; records: number }[] {
  const all = buckets.reduce((sum, bucket) => sum + bucket.count, 0);
  let records = 0;
  const steps = [...buckets].reverse().map(({ from, count: within }) => ({ from, records: (records += within) }));
  return steps.filter((step) => step.records > 0 && step.records < all).slice(0, MOST);
}

/** "4 and more": one of some least numbers, or any. */
export function FacetSteps({ name, facet, onRange }: FacetStepsProps) {
  const { say, count, figure } = useTexts();
  const format = formatOf(facet);
  const { selected, label } = facet;
  const steps = stepsOf(facet);
  const chosen = selected?.min;
  const all = chosen === undefined || steps.some(({ from }) => from === chosen) ? steps : [{ from: chosen }, ...steps];
  const row = (text: string, from: number | null, records?: number) => (
    <li key={text}>
      <label data-part="facet-value">
        <input
          type="radio"
          name={name}
          value={from === null ? '' : `${from}..`}
          checked={from === null ? chosen === undefined : from === chosen}
          onChange={() => onRange(from === null ? null : { min: from })}
        />
        <span data-part="facet-name">{text}</span>
        {records !== undefined && <span data-part="figure">{count(records)}</span>}
      </label>
    </li>
  );
  return (
    <div role="radiogroup" aria-label={label}>
      <ul>
        {row(say('any'), null)}
        {all.map((step) =>
          row(
            say('andMore', { from: figure(step.from, format) }),
            step.from,
            'records' in step ? step.records : undefined,
          ),
        )}
      </ul>
    </div>
  );
}
