import { fieldFormat, type InterfacePage, type NumberFormat, type SearchAnswer } from '@yucca/contract';

/** An answer whose facets are called and written as the page does it; the same answer when it does so already. */
export function withLabels(answer: SearchAnswer | null, shown: InterfacePage['facets']): SearchAnswer | null {
  if (answer === null) return null;
  const others = shown.flatMap(({ name, label, format, order }) => {
    const facet = Object.hasOwn(answer.facets, name) && answer.facets[name]!;
    if (!facet || (!format && !order && facet.label === label)) return [];
    const values = order && facet.kind === 'values' && [...facet.values].sort((a, b) => a.label.localeCompare(b.label));
    return [[name, { ...facet, label, ...(format && { format }), ...(values && { values }) }]];
  });
  if (others.length === 0) return answer;
  return { ...answer, facets: { ...answer.facets, ...Object.fromEntries(others) } };
}

/** How the number of a card is written. */
export const cardFormatOf = ({
  formats,
  card,
  currency,
}: Pick<InterfacePage, 'formats' | 'card' | 'currency'>): NumberFormat | string | null =>
  fieldFormat(formats, card.number) ?? currency;

/** How the numbers of a facet are written, where the page says so. */
export const formatOf = (facet: object | undefined): NumberFormat | undefined =>
  (facet as { format?: NumberFormat } | undefined)?.format;
