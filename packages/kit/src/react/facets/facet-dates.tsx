import type { DatesFacet, FacetValuesAnswer } from '@yucca/contract';
import type { RangeChoice } from '../../query.ts';
import { useTexts } from '../use-texts.ts';
import { FacetChecklist } from './facet-checklist.tsx';

/** What `FacetDates` is given. */
export interface FacetDatesProps {
  name: string;
  facet: DatesFacet;
  chosen: readonly string[];
  /** Takes a value that is ticked, or no longer. */
  onToggle: (value: string) => void;
  /** Takes the range there shall be; null = none. */
  onRange: (range: RangeChoice | null) => void;
  /** Looks inside all values of the facet. Without it a long list cannot be searched. */
  find?: ((q: string, signal: AbortSignal) => Promise<FacetValuesAnswer>) | undefined;
}

/** Years, months or days to tick, and two dates to choose what lies between them. */
export function FacetDates({ name, facet, chosen, onToggle, onRange, find }: FacetDatesProps) {
  const { say } = useTexts();
  const { min = '', max = '' } = facet.selected ?? {};
  const field = (end: 'min' | 'max', value: string) => (
    <input
      type="date"
      name={`${name}.${end}`}
      aria-label={say(end === 'min' ? 'lowEnd' : 'highEnd', { facet: facet.label })}
      // Years and months are dates of their first day here; what is typed is taken once it is a whole date.
      defaultValue={value.length === 4 ? `${value}-01-01` : value.length === 7 ? `${value}-01` : value}
      key={`${end} ${value}`}
      onChange={(event) => {
        const next = { min, max, [end]: event.target.value };
        onRange({ ...(next.min && { min: next.min }), ...(next.max && { max: next.max }) });
      }}
    />
  );
  return (
    <>
      <FacetChecklist
        name={name}
        label={facet.label}
        values={facet.values}
        chosen={chosen}
        onToggle={onToggle}
        more={facet.more}
        find={find}
      />
      <div data-part="range-ends">
        {field('min', min)}
        <span>{say('to')}</span>
        {field('max', max)}
      </div>
    </>
  );
}
