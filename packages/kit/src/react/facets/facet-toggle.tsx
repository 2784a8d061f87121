import type { FacetValue } from '@yucca/contract';
import { useTexts } from '../use-texts.ts';

/** What `FacetToggle` is given. */
export interface FacetToggleProps {
  name: string;
  label: string;
  values: readonly FacetValue[];
  chosen: readonly string[];
  /** Takes the value that is switched on, or off. */
  onToggle: (value: string) => void;
}

/** Whether the values of a facet are yes and no, so that a switch says all there is to choose. */
export function isYesOrNo(values: readonly FacetValue[]): boolean {
  return values.length > 0 && values.every(({ value }) => value === 'true' || value === 'false');
}

/** A switch for a yes-or-no field: only what is so. */
export function FacetToggle({ name, label, values, chosen, onToggle }: FacetToggleProps) {
  const { count } = useTexts();
  const yes = values.find(({ value }) => value === 'true');
  return (
    <label data-part="facet-toggle" data-facet={name}>
      <input
        type="checkbox"
        role="switch"
        name={name}
        value="true"
        checked={chosen.includes('true')}
        onChange={() => onToggle('true')}
      />
      <span>{label}</span>
      <span data-part="figure">{count(yes?.count ?? 0)}</span>
    </label>
  );
}
