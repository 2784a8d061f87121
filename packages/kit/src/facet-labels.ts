import type { InterfacePage, SearchAnswer } from '@yucca/contract';

/** An answer whose facets are called as the page calls them; the same answer when it does so already. */
export function withLabels(answer: SearchAnswer | null, shown: InterfacePage['facets']): SearchAnswer | null {
  if (answer === null) return null;
  const others = shown.filter(({ name, label }) => {
    return Object.hasOwn(answer.facets, name) && answer.facets[name]!.label !== label;
  });
  if (others.length === 0) return answer;
  const named = others.map(({ name, label }) => [name, { ...answer.facets[name]!, label }]);
  return { ...answer, facets: { ...answer.facets, ...Object.fromEntries(named) } };
}
