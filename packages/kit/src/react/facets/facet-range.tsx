import type { NumbersFacet } from '@yucca/contract';
import { useState, type CSSProperties } from 'react';
import type { RangeChoice } from '../../query.ts';
import { formatOf } from '../../facet-labels.ts';
import { useTexts } from '../use-texts.ts';

/** What `FacetRange` is given. */
export interface FacetRangeProps {
  name: string;
  facet: NumbersFacet;
  /** Takes the range there shall be; null = none. */
  onRange: (range: RangeChoice | null) => void;
}

/** The ends of the scale: of the results, and of what is chosen where that reaches past them. */
function endsOf({ min, max, selected, buckets }: NumbersFacet): { low: number; high: number } {
  return {
    low: Math.min(min ?? Infinity, selected?.min ?? Infinity, buckets[0]?.from ?? Infinity),
    high: Math.max(max ?? -Infinity, selected?.max ?? -Infinity, buckets.at(-1)?.to ?? -Infinity),
  };
}

/**
 * A range with two thumbs over the distribution of what is found, and two fields to type into. The ends follow the
 * results; a chosen range that reaches past them stays what it is. Without JavaScript the fields are sent with the
 * form.
 */
export function FacetRange({ name, facet, onRange }: FacetRangeProps) {
  const { say } = useTexts();
  const { low, high } = endsOf(facet);
  const { selected } = facet;
  const chosen: [number, number] = [selected?.min ?? low, selected?.max ?? high];
  const [dragged, setDragged] = useState<[number, number] | null>(null);
  const [from, to] = dragged ?? chosen;
  const whole = Number.isInteger(low) && Number.isInteger(high);
  const step = whole ? 1 : Number(((high - low) / 200).toPrecision(2)) || 'any';
  const commit = (): void => {
    if (dragged === null) return;
    setDragged(null);
    onRange({ ...(from > low && { min: from }), ...(to < high && { max: to }) });
  };
  const thumb = (end: 0 | 1) => (
    <input
      type="range"
      aria-label={say(end ? 'highEnd' : 'lowEnd', { facet: facet.label })}
      min={low}
      max={high}
      step={step}
      value={end ? to : from}
      onChange={(event) => {
        const at = Number(event.target.value);
        setDragged(end ? [from, Math.max(at, from)] : [Math.min(at, to), to]);
      }}
      onPointerUp={commit}
      onKeyUp={commit}
      onBlur={commit}
    />
  );
  const share = (at: number): number => (high > low ? (at - low) / (high - low) : 0);
  return (
    <>
      <Histogram facet={facet} from={from} to={to} />
      <div data-part="range" style={{ '--from': share(from), '--to': share(to) } as CSSProperties}>
        {thumb(0)}
        {thumb(1)}
      </div>
      <div data-part="range-ends">
        <RangeEnds name={name} facet={facet} low={dragged ? from : low} high={dragged ? to : high} onRange={onRange} />
      </div>
      {facet.missing > 0 && selected === null && (
        <p data-part="note">{say('withoutNumber', { count: facet.missing })}</p>
      )}
    </>
  );
}

/** How the results are spread; the part within the range is drawn in full. */
function Histogram({ facet: { buckets }, from, to }: { facet: NumbersFacet; from: number; to: number }) {
  const most = Math.max(1, ...buckets.map((bucket) => bucket.count));
  return (
    <div data-part="histogram" aria-hidden="true">
      {buckets.map((bucket) => (
        <span
          key={bucket.from}
          data-within={bucket.to > from && bucket.from <= to}
          style={{ height: `${Math.max(bucket.count > 0 ? 6 : 0, (100 * bucket.count) / most)}%` }}
        />
      ))}
    </div>
  );
}

interface RangeEndsProps extends FacetRangeProps {
  low: number;
  high: number;
}

function RangeEnds({ name, facet, low, high, onRange }: RangeEndsProps) {
  const { say, figure, number } = useTexts();
  const { selected, label } = facet;
  // Both ends in one text, a line each: what can be compared and typed into.
  const chosen = `${selected?.min ?? ''}\n${selected?.max ?? ''}`;
  const [known, setKnown] = useState(chosen);
  const [typed, setTyped] = useState(chosen);
  // Another choice takes the place of what is being typed, and leaves the focus where it is.
  if (known !== chosen) {
    setKnown(chosen);
    setTyped(chosen);
  }
  const ends = typed.split('\n');
  const apply = (): void => {
    const [from, upTo] = ends.map(number) as [number | null, number | null];
    const range: RangeChoice = { ...(from !== null && { min: from }), ...(upTo !== null && { max: upTo }) };
    if (range.min !== selected?.min || range.max !== selected?.max) onRange(range);
  };
  const field = (i: 0 | 1, placeholder: number) => (
    <input
      name={`${name}.${i ? 'max' : 'min'}`}
      inputMode="decimal"
      autoComplete="off"
      aria-label={say(i ? 'atMost' : 'atLeast', { facet: label })}
      placeholder={figure(placeholder, formatOf(facet))}
      value={ends[i]}
      onChange={(event) => setTyped(ends.with(i, event.target.value).join('\n'))}
      onBlur={apply}
      onKeyDown={(event) => {
        if (event.key !== 'Enter') return;
        event.preventDefault();
        apply();
      }}
    />
  );
  return (
    <>
      {field(0, low)}
      <span>{say('to')}</span>
      {field(1, high)}
    </>
  );
}
