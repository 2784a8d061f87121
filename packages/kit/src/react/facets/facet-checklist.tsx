import { QUERY_LENGTH, type FacetValue, type FacetValuesAnswer } from '@yucca/contract';
import { useEffect, useState } from 'react';
import { useTexts } from '../use-texts.ts';
import { FacetBox } from './facet-box.tsx';

/** Values in sight before "more", when nobody has said. */
export const LISTED = 8;

/** What `FacetChecklist` is given. */
export interface FacetChecklistProps {
  name: string;
  label: string;
  values: readonly FacetValue[];
  chosen: readonly string[];
  /** Takes a value that is ticked, or no longer. */
  onToggle: (value: string) => void;
  /** There are values beyond the ones given. */
  more?: boolean;
  /** Looks inside all values of the facet. Without it a long list cannot be searched. */
  find?: ((q: string, signal: AbortSignal) => Promise<FacetValuesAnswer>) | undefined;
  /** Values in sight before "more". Default: 8. */
  shown?: number | undefined;
  /** The colour that stands for a value. Default: none is shown. */
  swatch?: ((value: string) => string) | undefined;
}

/** Values to tick; the chosen ones stay in sight, wherever the counts put them. A long list can be searched. */
export function FacetChecklist(props: FacetChecklistProps) {
  const { name, label, values, chosen, onToggle, more = false, find, shown = LISTED, swatch } = props;
  const { say } = useTexts();
  const [text, setText] = useState('');
  const found = useFound(text, find, values);
  const most = Math.max(1, ...values.map((value) => value.count));
  const listed =
    found ?? [...values].sort((a, b) => Number(chosen.includes(b.value)) - Number(chosen.includes(a.value)));
  const row = (value: FacetValue) => (
    <li key={value.value}>
      <FacetBox
        {...{ name, value, most, onToggle }}
        checked={chosen.includes(value.value)}
        swatch={swatch?.(value.value)}
      />
    </li>
  );
  const isLong = more || values.length > shown;
  return (
    <>
      {find && isLong && (
        <input
          type="search"
          data-part="facet-search"
          aria-label={say('findIn', { facet: label })}
          placeholder={say('findIn', { facet: label })}
          value={text}
          maxLength={QUERY_LENGTH}
          autoComplete="off"
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => event.key === 'Enter' && event.preventDefault()}
        />
      )}
      <ul aria-label={label}>{listed.slice(0, shown).map(row)}</ul>
      {listed.length > shown && (
        <details>
          <summary>{say('moreValues', { count: listed.length - shown })}</summary>
          <ul>{listed.slice(shown).map(row)}</ul>
        </details>
      )}
      {find && isLong && (
        <p role="status" data-part="note">
          {found !== null && found.length === 0 && say('noValueLike', { text })}
        </p>
      )}
    </>
  );
}

/** The values that fit what is typed; null while nothing is. The values before stay until the next are there. */
function useFound(
  text: string,
  find: FacetChecklistProps['find'],
  values: readonly FacetValue[],
): FacetValuesAnswer['values'] | null {
  const [found, setFound] = useState<FacetValuesAnswer['values'] | null>(null);
  const typed = text.trim();
  useEffect(() => {
    if (typed === '' || !find) return;
    const abort = new AbortController();
    find(typed, abort.signal).then(
      (answer) => !abort.signal.aborted && setFound(answer.values),
      // The list as it was is better than none.
      () => {},
    );
    return () => abort.abort();
    // `values` change with the results, and with them the counts of what is found.
  }, [typed, find, values]);
  return typed === '' || !find ? null : found;
}
