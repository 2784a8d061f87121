'use client';

import { useState, type ReactNode } from 'react';

export function Group({ title, open = true, children }: { title: string; open?: boolean; children: ReactNode }) {
  return (
    <details open={open} className="border-b border-line px-4 py-2">
      <summary className="min-h-6 font-head font-semibold">{title}</summary>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-2 pt-1 pb-2">{children}</div>
    </details>
  );
}

/** A number on a slider, and beside it to be typed. */
export function Slider({
  label,
  value,
  min,
  max,
  step = 1,
  most = max,
  onValue,
}: {
  label: string;
  value: number;
  min: number;
  /** The end of the slider; more can be typed. */
  max: number;
  step?: number;
  /** The most that can be typed. */
  most?: number;
  onValue: (value: number) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <div className="grid grid-cols-[1fr_110px_52px] items-center gap-2 text-[13px]">
      <span className="truncate" title={label}>
        {label}
      </span>
      <input
        type="range"
        className="h-6 w-full accent-(--agave)"
        aria-label={label}
        min={min}
        max={Math.max(max, value)}
        step={step}
        value={value}
        onChange={(event) => onValue(Number(event.target.value))}
      />
      <input
        aria-label={`${label}, as a number`}
        inputMode="decimal"
        className="figures min-h-6 w-full rounded border border-transparent bg-transparent px-1 text-right hover:border-line focus:border-field-line"
        value={typed ?? String(Number(value.toFixed(2)))}
        onChange={(event) => {
          setTyped(event.target.value);
          const number = Number(event.target.value.replace(',', '.'));
          if (event.target.value.trim() !== '' && number >= min && number <= most) onValue(number);
        }}
        onBlur={() => setTyped(null)}
      />
    </div>
  );
}

export function Choice<T extends string>({
  label,
  value,
  options,
  onValue,
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onValue: (value: T) => void;
}) {
  return (
    <label className="grid grid-cols-[1fr_170px] items-center gap-2 text-[13px]">
      {label}
      <select className="field py-0.5" value={value} onChange={(event) => onValue(event.target.value as T)}>
        {options.map(([name, words]) => (
          <option key={name} value={name}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

export function Check({ label, on, onValue }: { label: string; on: boolean; onValue: (on: boolean) => void }) {
  return (
    <label className="flex min-h-6 items-center gap-2 text-[13px]">
      <input type="checkbox" checked={on} onChange={(event) => onValue(event.target.checked)} />
      {label}
    </label>
  );
}

/** Adds one of some things by choosing it. */
export function AddChoice({
  label,
  options,
  onAdd,
}: {
  /** "Add a sort". */
  label: string;
  /** What can be added, or with it what is shown of it. */
  options: readonly (string | readonly [string, string])[];
  onAdd: (option: string) => void;
}) {
  if (options.length === 0) return null;
  return (
    <select
      className="field py-0.5 text-[13px]"
      aria-label={label}
      value=""
      onChange={(event) => event.target.value !== '' && onAdd(event.target.value)}
    >
      <option value="">{label} …</option>
      {options.map((option) => {
        const [value, shown] = typeof option === 'string' ? [option, option] : option;
        return (
          <option key={value} value={value}>
            {shown}
          </option>
        );
      })}
    </select>
  );
}

/** A small cross that takes something away. */
export function RemoveButton({ what, onRemove }: { what: string; onRemove: () => void }) {
  return (
    <button
      type="button"
      aria-label={`Remove ${what}`}
      title={`Remove ${what}`}
      className="grid size-6 shrink-0 place-items-center rounded text-soft hover:text-madder"
      onClick={onRemove}
    >
      ×
    </button>
  );
}
