import type { FacetValue, Range } from '@yucca/contract';
import { escapeValue } from '../../address.ts';
import { Marked } from '../marked.tsx';
import { useTexts } from '../use-texts.ts';

/** What `FacetBox` is given. */
export interface FacetBoxProps {
  name: string;
  value: FacetValue & { ranges?: readonly Range[] };
  /** The greatest count of its neighbours: a full bar. */
  most: number;
  checked: boolean;
  /** A colour that stands for it. */
  swatch?: string | undefined;
  onToggle: (value: string) => void;
}

/** One value to tick, with a bar behind its count. */
export function FacetBox({ name, value, most, checked, swatch, onToggle }: FacetBoxProps) {
  const { count } = useTexts();
  return (
    <label data-part="facet-value">
      <span data-part="facet-bar" aria-hidden="true" style={{ width: `${(100 * value.count) / most}%` }} />
      <input
        type="checkbox"
        name={name}
        value={escapeValue(value.value)}
        checked={checked}
        onChange={() => onToggle(value.value)}
      />
      {swatch !== undefined && <span data-part="swatch" aria-hidden="true" style={{ background: swatch }} />}
      <span data-part="facet-name" title={value.label}>
        <Marked text={value.label} ranges={value.ranges} />
      </span>
      <span data-part="figure">{count(value.count)}</span>
    </label>
  );
}
