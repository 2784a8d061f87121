import { withProperty, type ValuesFacet } from '@yucca/contract';
import { escapeValue } from '../../address.ts';
import type { Choices } from '../../query.ts';
import { useTexts } from '../use-texts.ts';

/** What `FacetSelect` is given. */
export interface FacetSelectProps {
  name: string;
  facet: ValuesFacet;
  chosen: readonly string[];
  select: Choices;
  /** Takes the choices there shall be. */
  onSelect: (select: Choices) => void;
}

/** One value of a list, or any. Further values that an address brings along stay until another one is chosen. */
export function FacetSelect({ name, facet, chosen, select, onSelect }: FacetSelectProps) {
  const { say, count } = useTexts();
  return (
    <select
      data-part="facet-select"
      name={name}
      aria-label={facet.label}
      value={chosen[0] === undefined ? '' : escapeValue(chosen[0])}
      onChange={(event) => {
        const value = facet.values.find((one) => escapeValue(one.value) === event.target.value)?.value;
        onSelect(withProperty<Choices, string>(select, name, value === undefined ? undefined : [value]));
      }}
    >
      <option value="">{say('any')}</option>
      {facet.values.map(({ value, label, count: records }) => (
        <option key={value} value={escapeValue(value)}>
          {label} ({count(records)})
        </option>
      ))}
    </select>
  );
}
