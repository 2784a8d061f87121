import { useEffect, useRef } from 'react';

/** Runs when a plain value has become another one than it was at first, or at the last run. */
export function useChanged(value: unknown, run: () => void): void {
  const text = JSON.stringify(value);
  const known = useRef(text);
  useEffect(() => {
    if (text === known.current) return;
    known.current = text;
    run();
  });
}
