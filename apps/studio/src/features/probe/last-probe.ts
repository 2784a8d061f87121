import { Store } from '@yucca/kit';
import { useSyncExternalStore } from 'react';

interface Probe {
  engineMs: number;
}

class LastProbe extends Store<Probe | null> {
  report(probe: Probe): void {
    if (this.snapshot()?.engineMs !== probe.engineMs) this.put(probe);
  }
}

const last = new LastProbe(null);

/** Remembers how fast the newest probe was; the status line shows it. */
export const reportProbe = (probe: Probe): void => last.report(probe);

export function useLastProbe(): Probe | null {
  return useSyncExternalStore(last.subscribe, last.snapshot, () => null);
}
