'use client';

import {
  SIGNAL_SHAPES,
  SIGNAL_SHAPE_NAMES,
  type FieldProfile,
  type SignalRule,
  type SignalShape,
  type Tuning,
} from '@yucca/contract';
import Link from 'next/link';
import { memo } from 'react';
import { useDraftStore } from '../draft';
import { withSignalPart } from '../levers';
import { AddChoice, Choice, RemoveButton, Slider } from '@/ui/controls';
import { curveOf, type Curve } from './signal-curve';

export interface SignalLeversProps {
  tuning: Tuning;
  live: Tuning;
  collection: string;
  fields: readonly FieldProfile[];
}

export const SignalLevers = memo(function SignalLevers({
  tuning: { signals, signalShare },
  live,
  collection,
  fields,
}: SignalLeversProps) {
  const store = useDraftStore();
  const usable = fields.filter(({ path, spread }) => spread !== null && !signals.some(({ field }) => field === path));
  return (
    <>
      {signals.length > 0 && (
        <Slider
          label="Share against words"
          min={0}
          max={1}
          step={0.05}
          value={signalShare}
          onValue={(share) => store.change((now) => ({ ...now, signalShare: share }), { gesture: 'share' })}
        />
      )}
      {signals.map((rule) => (
        <Signal
          key={rule.field}
          rule={rule}
          live={live.signals.find(({ field }) => field === rule.field) ?? null}
          field={fields.find(({ path }) => path === rule.field) ?? null}
        />
      ))}
      {signals.length === 0 && (
        <p className="text-[13px] text-soft">
          None: words alone decide. Add a number that says what is good for you or your visitors, or see what the data
          holds under{' '}
          <Link className="link" href={`/c/${collection}/fields`}>
            Fields
          </Link>
          .
        </p>
      )}
      <AddChoice
        label="Add a signal"
        options={usable.map(({ path }) => path)}
        onAdd={(path) => {
          const { spread, proposal } = usable.find((field) => field.path === path)!;
          const shape = spread!.unit === 'day' ? 'recency' : (proposal.signal?.shape ?? 'linear');
          store.change((now) => ({ ...now, signals: [...(now.signals ?? []), { field: path, shape }] }));
        }}
      />
    </>
  );
});

function Signal({ rule, live, field }: { rule: SignalRule; live: SignalRule | null; field: FieldProfile | null }) {
  const store = useDraftStore();
  const { field: name, weight, shape, order, halfLifeDays } = rule;
  const { ofDates } = SIGNAL_SHAPES[shape];
  const change = (part: Parameters<typeof withSignalPart>[2], gesture: string | null = null): void =>
    store.change((now) => withSignalPart(now, name, part), { gesture });
  return (
    <div className="grid gap-1 border-t border-line pt-2 first:border-t-0">
      <div className="grid grid-cols-[1fr_24px] items-center">
        <Slider
          label={name}
          min={0.5}
          max={10}
          most={1000}
          step={0.5}
          value={weight}
          onValue={(next) => change({ weight: next }, `signal ${name}`)}
        />
        <RemoveButton
          what={`signal ${name}`}
          onRemove={() =>
            store.change((now) => ({ ...now, signals: (now.signals ?? []).filter((one) => one.field !== name) }))
          }
        />
      </div>
      <Choice
        label="Better is"
        value={order}
        options={[
          ['desc', ofDates ? 'newer' : 'more'],
          ['asc', ofDates ? 'older' : 'less'],
        ]}
        onValue={(next) => change({ order: next })}
      />
      <Choice label="on a shape" value={shape} options={SHAPES} onValue={(next) => change({ shape: next })} />
      {ofDates && (
        <Slider
          label="Half after days"
          min={1}
          max={730}
          most={36_500}
          value={halfLifeDays}
          onValue={(next) => change({ halfLifeDays: next }, `half-life ${name}`)}
        />
      )}
      <SignalCurve draft={curveOf(rule, field)} live={live && curveOf(live, field)} name={name} />
    </div>
  );
}

const SHAPES = SIGNAL_SHAPE_NAMES.map((name): [SignalShape, string] => [name, SIGNAL_SHAPES[name].title]);

const WIDTH = 300;
const HEIGHT = 52;

/** The shape over the real distribution: bars are records, the line is what each value is worth. */
function SignalCurve({ draft, live, name }: { draft: Curve | null; live: Curve | null; name: string }) {
  if (draft === null) return <p className="text-xs text-soft">No numbers or dates are known of it yet.</p>;
  const { bars, points, from, to, half } = draft;
  const step = WIDTH / bars.length;
  const line = ({ points: list }: Curve): string =>
    list
      .map((worth, i) => `${i === 0 ? 'M' : 'L'}${((i / (list.length - 1)) * WIDTH).toFixed(1)} ${y(worth)}`)
      .join('');
  const y = (worth: number): string => (HEIGHT - 3 - worth * (HEIGHT - 6)).toFixed(1);
  const isMoved = live !== null && line(live) !== line(draft);
  return (
    <figure className="mt-1">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block h-[52px] w-full border-b border-line"
        preserveAspectRatio="none"
        role="img"
        aria-label={`What values of ${name} are worth: ${half}`}
      >
        {bars.map((share, i) => (
          <rect
            key={i}
            x={i * step + 0.5}
            y={HEIGHT - share * HEIGHT}
            width={Math.max(0.5, step - 1)}
            height={share * HEIGHT}
            fill="var(--line)"
          />
        ))}
        {isMoved && <path d={line(live)} fill="none" stroke="var(--agave)" strokeWidth={1.5} />}
        <path
          d={line({ ...draft, points })}
          fill="none"
          stroke={isMoved || live === null ? 'var(--clay)' : 'var(--agave)'}
          strokeWidth={1.5}
          {...((isMoved || live === null) && { strokeDasharray: '6 4' })}
        />
      </svg>
      <figcaption className="figures flex justify-between gap-2 text-xs text-soft">
        <span>{from}</span>
        <span className="truncate">{half}</span>
        <span>{to}</span>
      </figcaption>
    </figure>
  );
}
