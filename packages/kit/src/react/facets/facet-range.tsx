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
    onRange({ ...(from > low ? { min: from } : {}), ...(to < high ? { max: to } : {}) });
  };
  const thumb = (end: 0 | 1) => (
    <input
      type="range"
      aria-label={say(end === 0 ? 'lowEnd' : 'highEnd', { facet: facet.label })}
      min={low}
      max={high}
      step={step}
      value={end === 0 ? from : to}
      onChange={(event) => {
        const at = Number(event.target.value);
        setDragged(end === 0 ? [Math.min(at, to), to] : [from, Math.max(at, from)]);
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
        <RangeEnds
          // A new answer may bring new ends; what is being typed starts over then.
          key={`${selected?.min}/${selected?.max}`}
          name={name}
          facet={facet}
          low={dragged ? from : low}
          high={dragged ? to : high}
          onRange={onRange}
        />
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
  const [min, setMin] = useState(String(selected?.min ?? ''));
  const [max, setMax] = useState(String(selected?.max ?? ''));
  const apply = (): void => {
    const [from, upTo] = [number(min), number(max)];
    const range: RangeChoice = { ...(from !== null && { min: from }), ...(upTo !== null && { max: upTo }) };
    if (range.min !== selected?.min || range.max !== selected?.max) onRange(range);
  };
  const field = (end: 'min' | 'max', value: string, set: (text: string) => void, placeholder: number) => (
    <input
      name={`${name}.${end}`}
      inputMode="decimal"
      autoComplete="off"
      aria-label={say(end === 'min' ? 'atLeast' : 'atMost', { facet: label })}
      placeholder={figure(placeholder, formatOf(facet))}
      value={value}
      onChange={(event) => set(event.target.value)}
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
      {field('min', min, setMin, low)}
      <span>{say('to')}</span>
      {field('max', max, setMax, high)}
    </>
  );
}
