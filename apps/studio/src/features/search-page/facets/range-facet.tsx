'use client';

import type { NumbersFacet } from '@yucca/contract';
import type { RangeChoice } from '@yucca/kit';
import { Slider } from 'radix-ui';
import { useState } from 'react';

interface RangeFacetProps {
  name: string;
  facet: NumbersFacet;
  onRange: (range: RangeChoice | null) => void;
}

/**
 * A range with two thumbs over the distribution of what is found, and two fields to type into. The ends follow the
 * results; a chosen range that reaches past them stays what it is. Without JavaScript the fields are sent with the form.
 */
export function RangeFacet({ name, facet, onRange }: RangeFacetProps) {
  const low = Math.min(facet.min ?? Infinity, facet.selected?.min ?? Infinity, facet.buckets[0]?.from ?? Infinity);
  const high = Math.max(
    facet.max ?? -Infinity,
    facet.selected?.max ?? -Infinity,
    facet.buckets.at(-1)?.to ?? -Infinity,
  );
  const chosen: [number, number] = [facet.selected?.min ?? low, facet.selected?.max ?? high];
  const [dragged, setDragged] = useState<[number, number] | null>(null);
  const [from, to] = dragged ?? chosen;
  const step = Number.isInteger(low) && Number.isInteger(high) ? 1 : (high - low) / 200;
  const commit = (min: number, max: number): void => {
    setDragged(null);
    onRange({ ...(min > low ? { min } : {}), ...(max < high ? { max } : {}) });
  };
  return (
    <fieldset className="mb-5 min-w-0">
      <legend className="mb-1 font-head font-semibold">{facet.label}</legend>
      <Histogram facet={facet} from={from} to={to} />
      <Slider.Root
        className="relative flex h-6 touch-none items-center select-none max-[0px]:hidden"
        min={low}
        max={high}
        step={step}
        minStepsBetweenThumbs={0}
        value={[from, to]}
        onValueChange={([min, max]) => setDragged([min!, max!])}
        onValueCommit={([min, max]) => commit(min!, max!)}
      >
        <Slider.Track className="relative h-0.5 grow bg-line">
          <Slider.Range className="absolute h-full bg-agave" />
        </Slider.Track>
        <Thumb label={`${facet.label}, from`} />
        <Thumb label={`${facet.label}, to`} />
      </Slider.Root>
      <div className="mt-1 flex items-center gap-2">
        <Ends
          // A new answer may bring new ends; what is being typed starts over then.
          key={`${facet.selected?.min}/${facet.selected?.max}`}
          name={name}
          facet={facet}
          low={low}
          high={high}
          onRange={onRange}
        />
      </div>
      {facet.missing > 0 && facet.selected === null && (
        <p className="mt-1 text-xs text-soft">{facet.missing} without a number</p>
      )}
    </fieldset>
  );
}

function Thumb({ label }: { label: string }) {
  return <Slider.Thumb aria-label={label} className="block size-4 rounded-full border-2 border-agave bg-raised" />;
}

/** How the results are spread; the part within the range is drawn in full. */
function Histogram({ facet: { buckets }, from, to }: { facet: NumbersFacet; from: number; to: number }) {
  const most = Math.max(1, ...buckets.map(({ count }) => count));
  return (
    <div aria-hidden="true" className="flex h-9 items-end gap-px px-2">
      {buckets.map((bucket) => (
        <span
          key={bucket.from}
          className={bucket.to > from && bucket.from <= to ? 'flex-1 bg-agave' : 'flex-1 bg-line'}
          style={{ height: `${Math.max(bucket.count > 0 ? 6 : 0, (100 * bucket.count) / most)}%` }}
        />
      ))}
    </div>
  );
}

function Ends({
  name,
  facet,
  low,
  high,
  onRange,
}: {
  name: string;
  facet: NumbersFacet;
  low: number;
  high: number;
  onRange: RangeFacetProps['onRange'];
}) {
  const [min, setMin] = useState(String(facet.selected?.min ?? ''));
  const [max, setMax] = useState(String(facet.selected?.max ?? ''));
  const apply = (): void => {
    const range: RangeChoice = {
      ...(min.trim() !== '' && Number.isFinite(Number(min)) ? { min: Number(min) } : {}),
      ...(max.trim() !== '' && Number.isFinite(Number(max)) ? { max: Number(max) } : {}),
    };
    if (range.min !== facet.selected?.min || range.max !== facet.selected?.max) onRange(range);
  };
  const field = (end: 'min' | 'max', value: string, set: (text: string) => void, placeholder: number) => (
    <input
      name={`${name}.${end}`}
      inputMode="decimal"
      aria-label={`${facet.label}, ${end === 'min' ? 'at least' : 'at most'}`}
      placeholder={String(placeholder)}
      value={value}
      onChange={(event) => set(event.target.value)}
      onBlur={apply}
      onKeyDown={(event) => {
        if (event.key !== 'Enter') return;
        event.preventDefault();
        apply();
      }}
      className="field figures h-8 min-w-0 text-xs"
    />
  );
  return (
    <>
      {field('min', min, setMin, low)}
      <span className="text-soft">to</span>
      {field('max', max, setMax, high)}
    </>
  );
}
