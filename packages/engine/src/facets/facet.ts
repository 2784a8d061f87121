import type { FacetAnswer, FacetRule, RangeChoice, SearchRequest } from '@yucca/contract';
import type { Segment } from '../segment/segment.ts';
import type { DocSet } from '../sets/doc-set.ts';
import type { Results } from '../sets/results.ts';

/** What a visitor chose in one facet. */
export type Choice = NonNullable<SearchRequest['select']>[string];

/** One facet during one query, over all segments. Each kind of facet is one such thing (see kinds.ts). */
export interface Facet {
  /** The documents of a segment that pass the choice. Asked for only when something is chosen. */
  chosen: (segment: Segment) => DocSet;
  /** Counts documents of a segment. */
  count: (segment: Segment, results: Results) => void;
  answer: () => FacetAnswer;
}

export type MakeFacet = (rule: FacetRule, choice: Choice | undefined) => Facet;

/** Chosen values as texts; none when a range was chosen. */
export function chosenValues(choice: Choice | undefined): string[] {
  return Array.isArray(choice) ? choice : [];
}

/** A chosen range; null when values or nothing was chosen. */
export function chosenRange(choice: Choice | undefined): RangeChoice | null {
  if (choice === undefined || Array.isArray(choice)) return null;
  const range: RangeChoice = {};
  if (choice.min !== undefined) range.min = choice.min;
  if (choice.max !== undefined) range.max = choice.max;
  return range;
}

/** Whether a choice narrows anything. */
export function isChoice(choice: Choice | undefined): boolean {
  return choice !== undefined && (!Array.isArray(choice) || choice.length > 0);
}
