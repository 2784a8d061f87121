import type { Collection } from '@yucca/contract';
import type { DraftStart } from '@/features/tuning/draft';
import type { Runtime } from '@/server/runtime';

/** What a screen that works on the draft begins with. */
export function draftStart({ tunings }: Runtime, { name, draftChanged }: Collection): DraftStart {
  const draft = tunings.get(name, 'draft');
  return { live: tunings.get(name, 'live'), draft, exists: draftChanged, tag: tunings.tagOf(draft) };
}
