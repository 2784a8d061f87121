import { facetValues, type SearchAnswer } from '@yucca/contract';
import { isRange, withRange, withToggled, type Query } from './query.ts';

/** One choice as a visitor sees it above the results, and the query without it. */
export interface ShownChoice {
  key: string;
  label: string;
  without: Query;
}

/** All choices of a query, with the names the facets show: an address may hold ids. */
export function shownChoices(query: Query, answer: SearchAnswer): ShownChoice[] {
  return Object.entries(query.select).flatMap(([facet, choice]): ShownChoice[] => {
    const known = answer.facets[facet];
    if (isRange(choice)) {
      const { min, max } = choice;
      const span = min === undefined ? `up to ${max}` : max === undefined ? `from ${min}` : `${min} to ${max}`;
      return [{ key: facet, label: `${known?.label ?? facet} ${span}`, without: withRange(query, facet, null) }];
    }
    return choice.map((value) => ({
      key: `${facet}/${value}`,
      label: facetValues(known).find((one) => one.value === value)?.label ?? value,
      without: withToggled(query, facet, value),
    }));
  });
}
