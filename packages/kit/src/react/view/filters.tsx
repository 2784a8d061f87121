import type { InterfacePage, SearchAnswer } from '@yucca/contract';
import { memo } from 'react';
import type { Query } from '../../query.ts';
import { FacetList, type FacetListProps, type FindInFacet } from '../facets/facet-list.tsx';
import { FilterSheet } from '../facets/filter-sheet.tsx';

interface FiltersProps {
  page: InterfacePage;
  answer: SearchAnswer;
  select: Query['select'];
  onSelect: (select: Query['select']) => void;
  find: FindInFacet;
  renderFacet: FacetListProps['renderFacet'];
}

/** The filters of a page. */
export const Filters = memo(function Filters({ page, answer, select, onSelect, find, renderFacet }: FiltersProps) {
  return (
    <FilterSheet select={select} total={answer.total}>
      <FacetList
        answer={answer}
        select={select}
        names={page.facets.map(({ name }) => name)}
        looks={page.facets}
        onSelect={onSelect}
        {...{ find, renderFacet }}
      />
    </FilterSheet>
  );
});
