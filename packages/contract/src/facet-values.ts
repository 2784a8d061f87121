import type { FacetAnswer, FacetValue, TreeNode } from './facets.ts';

/** The values of a facet as one list: those of a tree by their paths, level by level; a range has none. */
export function facetValues(facet: FacetAnswer | undefined): FacetValue[] {
  if (facet === undefined || facet.kind === 'numbers') return [];
  if (facet.kind !== 'tree') return facet.values;
  const list = (nodes: readonly TreeNode[]): FacetValue[] =>
    nodes.flatMap(({ value, path, count: found, selected, children }) => [
      { value: path, label: value, count: found, selected },
      ...list(children),
    ]);
  return list(facet.nodes);
}
