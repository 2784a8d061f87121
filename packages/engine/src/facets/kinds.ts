import type { FacetKind } from '@yucca/contract';
import { datesFacet } from './dates.ts';
import type { MakeFacet } from './facet.ts';
import { numbersFacet } from './numbers.ts';
import { treeFacet } from './tree.ts';
import { valuesFacet } from './values.ts';

/** The kinds of facets. A new kind is a file of its own and an entry here. */
export const MAKE_FACET: Readonly<Record<FacetKind, MakeFacet>> = {
  values: valuesFacet,
  numbers: numbersFacet,
  tree: treeFacet,
  dates: datesFacet,
};
