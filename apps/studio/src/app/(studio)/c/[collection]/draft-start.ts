import type { Collection } from '@yucca/contract';
import type { TuningStart } from '@/features/tuning/draft';
import type { Runtime } from '@/server/runtime';

/** What a screen that works on the draft begins with. */
export function draftStart({ tunings }: Runtime, { name, draftChanged }: Collection): TuningStart {
  const draft = tunings.get(name, 'draft');
  return { live: tunings.get(name, 'live'), draft, exists: draftChanged, tag: tunings.tagOf(draft) };
}
