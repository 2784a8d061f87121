import { useSyncExternalStore } from 'react';

interface LastProbe {
  engineMs: number;
}

let last: LastProbe | null = null;
const listeners = new Set<() => void>();

/** Remembers how fast the newest probe was; the status line shows it. */
export function reportProbe(probe: LastProbe): void {
  if (last?.engineMs === probe.engineMs) return;
  last = probe;
  listeners.forEach((listener) => listener());
}

export function useLastProbe(): LastProbe | null {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => last,
    () => null,
  );
}
