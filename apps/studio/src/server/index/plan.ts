import type { Tuning } from '@yucca/contract';
import type { IndexPlan } from '@yucca/engine';

/** What must be indexed so that all of these tunings can answer. */
export function planFor(tunings: readonly Tuning[]): IndexPlan {
  return {
    allStrings: tunings.some(({ search }) => search.length === 0),
    searchFields: [...new Set(tunings.flatMap(({ search }) => search.map(({ field }) => field)))].sort(),
    facetFields: [...new Set(tunings.flatMap(({ facets }) => facets.map(({ field }) => field)))].sort(),
  };
}

/** Whether an index made by one plan can answer what another asks for, without a rebuild. */
export function covers(have: IndexPlan, want: IndexPlan): boolean {
  return (
    (have.allStrings || !want.allStrings) &&
    want.searchFields.every((field) => have.searchFields.includes(field)) &&
    want.facetFields.every((field) => have.facetFields.includes(field))
  );
}
