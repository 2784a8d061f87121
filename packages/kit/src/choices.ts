import { facetValues, type SearchAnswer } from '@yucca/contract';
import { formatOf } from './facet-labels.ts';
import type { Texts } from './texts/texts.ts';
import { isRange, withRange, withToggled, type Query } from './query.ts';

/** One choice as a visitor sees it above the results, and the query without it. */
export interface ShownChoice {
  key: string;
  label: string;
  without: Query;
}

/** All choices of a query, with the names the facets show: an address may hold ids. `texts`: `textsOf` makes them. */
export function shownChoices(
  query: Query,
  answer: SearchAnswer,
  { say, figure }: Pick<Texts, 'say' | 'figure'>,
): ShownChoice[] {
  return Object.entries(query.select).flatMap(([facet, choice]): ShownChoice[] => {
    const known = answer.facets[facet];
    if (isRange(choice)) {
      const { min, max } = choice;
      const key = min === undefined ? 'upTo' : max === undefined ? 'from' : 'between';
      // As they were typed: dates are texts, and a year has no thousands.
      const format = formatOf(known);
      const end = (value: string | number | undefined): string =>
        format && typeof value === 'number' ? figure(value, format) : String(value);
      const ends = { min: end(min), max: end(max) };
      const label = say(key, { facet: known?.label ?? facet, ...ends });
      return [{ key: facet, label, without: withRange(query, facet, null) }];
    }
    return choice.map((value) => ({
      key: `${facet}/${value}`,
      label: facetValues(known).find((one) => one.value === value)?.label ?? value,
      without: withToggled(query, facet, value),
    }));
  });
}
