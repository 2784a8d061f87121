'use client';

import { useState } from 'react';

/** A line of text that is taken over when it is left or Enter is pressed: what is half-typed would not be valid. */
export function LineWhenDone({
  label,
  value,
  placeholder = '',
  most,
  onText,
}: {
  label: string;
  value: string;
  placeholder?: string;
  most: number;
  onText: (text: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const done = (): void => {
    if (typed !== null && typed.trim() !== value) onText(typed.trim());
    setTyped(null);
  };
  return (
    <input
      aria-label={label}
      className="field min-w-0 py-0.5 text-[13px]"
      value={typed ?? value}
      placeholder={placeholder}
      maxLength={most}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={done}
      onKeyDown={(event) => event.key === 'Enter' && done()}
    />
  );
}

/** A whole number within bounds; what is out of them is not taken over. */
export function WholeNumber({
  label,
  value,
  min,
  max,
  onNumber,
}: {
  label: string;
  value: number;
  min: number;
  max: number;
  onNumber: (value: number) => void;
}) {
  return (
    <label className="grid grid-cols-[1fr_170px] items-center gap-2 text-[13px]">
      {label}
      <input
        type="number"
        min={min}
        max={max}
        className="field figures py-0.5 text-[13px]"
        value={value}
        onChange={({ target: { valueAsNumber: number } }) => {
          if (Number.isInteger(number) && number >= min && number <= max) onNumber(number);
        }}
      />
    </label>
  );
}
