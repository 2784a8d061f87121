import type { FacetValue } from '@yucca/contract';
import { escapeValue } from '@yucca/kit';
import { count } from '@/ui/format';

const LISTED = 8;

interface ChecklistProps {
  name: string;
  values: readonly FacetValue[];
  chosen: readonly string[];
  onToggle: (value: string) => void;
}

/** Values to tick, with a bar behind each count; the chosen ones stay in sight, wherever the counts put them. */
export function Checklist({ name, values, chosen, onToggle }: ChecklistProps) {
  const most = Math.max(1, ...values.map((value) => value.count));
  const ordered = [...values].sort((a, b) => Number(chosen.includes(b.value)) - Number(chosen.includes(a.value)));
  const row = (value: FacetValue) => (
    <li key={value.value}>
      <FacetBox name={name} value={value} most={most} checked={chosen.includes(value.value)} onToggle={onToggle} />
    </li>
  );
  return (
    <>
      <ul>{ordered.slice(0, LISTED).map(row)}</ul>
      {ordered.length > LISTED && (
        <details>
          <summary className="link min-h-6 px-1">More</summary>
          <ul>{ordered.slice(LISTED).map(row)}</ul>
        </details>
      )}
    </>
  );
}

interface FacetBoxProps {
  name: string;
  value: FacetValue;
  /** The greatest count of its neighbours: a full bar. */
  most: number;
  checked: boolean;
  onToggle: (value: string) => void;
}

/** One value to tick. */
export function FacetBox({ name, value: { value, label, count: found }, most, checked, onToggle }: FacetBoxProps) {
  return (
    <label className="relative flex min-h-7 items-center gap-2 px-1">
      <span
        aria-hidden="true"
        className="absolute inset-y-0.5 left-0 rounded-sm bg-agave-tint"
        style={{ width: `${(100 * found) / most}%` }}
      />
      <input
        type="checkbox"
        name={name}
        value={escapeValue(value)}
        checked={checked}
        onChange={() => onToggle(value)}
        className="relative"
      />
      <span title={label} className="relative min-w-0 truncate">
        {label}
      </span>
      <span className="figures relative ml-auto text-xs text-soft">{count(found)}</span>
    </label>
  );
}
