import type { InterfacePage, NumberFormat, SearchAnswer } from '@yucca/contract';

/** An answer whose facets are called and written as the page does it; the same answer when it does so already. */
export function withLabels(answer: SearchAnswer | null, shown: InterfacePage['facets']): SearchAnswer | null {
  if (answer === null) return null;
  const others = shown.filter(({ name, label, format }) => {
    return Object.hasOwn(answer.facets, name) && (format || answer.facets[name]!.label !== label);
  });
  if (others.length === 0) return answer;
  const named = others.map(({ name, label, format }) => [
    name,
    { ...answer.facets[name]!, label, ...(format && { format }) },
  ]);
  return { ...answer, facets: { ...answer.facets, ...Object.fromEntries(named) } };
}

/** How the number of a card is written. */
export const cardFormatOf = ({ formats, card, currency }: InterfacePage): NumberFormat | string | null =>
  formats && card.number !== null && Object.hasOwn(formats, card.number) ? formats[card.number]! : currency;

/** How the numbers of a facet are written, where the page says so. */
export const formatOf = (facet: object | undefined): NumberFormat | undefined =>
  (facet as { format?: NumberFormat } | undefined)?.format;
