import type { TuningDocument } from '@yucca/contract';
import type { Caller } from '../keys/caller';

/** A tuning as a caller may read it: placements name records and conditions that a filter of the caller's may hide. */
export function forCaller(document: TuningDocument, { filter }: Caller): TuningDocument {
  if (filter === null || document.placements === undefined) return document;
  return Object.fromEntries(Object.entries(document).filter(([name]) => name !== 'placements'));
}
