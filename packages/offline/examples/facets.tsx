/** Filters, one by one and all together: each is given the facet of an answer, and tells what shall be chosen. */
import { chosenValues, withChoices, withRange, withToggled } from '@yucca/kit';
import {
  Facet,
  FacetChecklist,
  FacetDates,
  FacetList,
  FacetRange,
  FacetSelect,
  FacetSteps,
  FacetToggle,
  FacetTree,
  FilterSheet,
  AppliedChoices,
} from '@yucca/kit/react';
import { client, type Shop } from './shop';

// #region FacetList
export const FacetListExample = ({ query, answer, go }: Shop) => (
  <FacetList answer={answer} select={query.select} onSelect={(select) => go(withChoices(query, select))} />
);
// #endregion

// #region Facet
export const FacetExample = ({ query, answer, go }: Shop) => (
  <Facet
    name="colour"
    facet={answer.facets.colour!}
    select={query.select}
    onSelect={(select) => go(withChoices(query, select))}
  />
);
// #endregion

// #region FacetChecklist
export function FacetChecklistExample({ query, answer, go }: Shop) {
  const { colour } = answer.facets;
  if (colour?.kind !== 'values') return null;
  return (
    <FacetChecklist
      name="colour"
      label="Colour"
      values={colour.values}
      chosen={chosenValues(query, 'colour')}
      onToggle={(value) => go(withToggled(query, 'colour', value))}
      find={(q, signal) => client.facetValues('plants', 'colour', q, {}, signal)}
      swatch={(value) => value}
    />
  );
}
// #endregion

// #region FacetSelect
export function FacetSelectExample({ query, answer, go }: Shop) {
  const { colour } = answer.facets;
  if (colour?.kind !== 'values') return null;
  return (
    <FacetSelect
      name="colour"
      facet={colour}
      chosen={chosenValues(query, 'colour')}
      select={query.select}
      onSelect={(select) => go(withChoices(query, select))}
    />
  );
}
// #endregion

// #region FacetToggle
export function FacetToggleExample({ query, answer, go }: Shop) {
  const { pet_safe: safe } = answer.facets;
  if (safe?.kind !== 'values') return null;
  return (
    <FacetToggle
      name="pet_safe"
      label="Safe for pets"
      values={safe.values}
      chosen={chosenValues(query, 'pet_safe')}
      onToggle={(value) => go(withToggled(query, 'pet_safe', value))}
    />
  );
}
// #endregion

// #region FacetTree
export function FacetTreeExample({ query, answer, go }: Shop) {
  const { category } = answer.facets;
  if (category?.kind !== 'tree') return null;
  return (
    <FacetTree
      name="category"
      label="Category"
      nodes={category.nodes}
      chosen={chosenValues(query, 'category')}
      onToggle={(path) => go(withToggled(query, 'category', path))}
    />
  );
}
// #endregion

// #region FacetRange
export function FacetRangeExample({ query, answer, go }: Shop) {
  const { price } = answer.facets;
  if (price?.kind !== 'numbers') return null;
  return <FacetRange name="price" facet={price} onRange={(range) => go(withRange(query, 'price', range))} />;
}
// #endregion

// #region FacetSteps
export function FacetStepsExample({ query, answer, go }: Shop) {
  const { rating } = answer.facets;
  if (rating?.kind !== 'numbers') return null;
  return <FacetSteps name="rating" facet={rating} onRange={(range) => go(withRange(query, 'rating', range))} />;
}
// #endregion

// #region FacetDates
export function FacetDatesExample({ query, answer, go }: Shop) {
  const { blooms } = answer.facets;
  if (blooms?.kind !== 'dates') return null;
  return (
    <FacetDates
      name="blooms"
      facet={blooms}
      chosen={chosenValues(query, 'blooms')}
      onToggle={(period) => go(withToggled(query, 'blooms', period))}
      onRange={(range) => go(withRange(query, 'blooms', range))}
    />
  );
}
// #endregion

// #region FilterSheet
export const FilterSheetExample = ({ query, answer, go }: Shop) => (
  <FilterSheet select={query.select} total={answer.total}>
    <FacetList
      answer={answer}
      select={query.select}
      names={['colour']}
      onSelect={(select) => go(withChoices(query, select))}
    />
  </FilterSheet>
);
// #endregion

// #region AppliedChoices
export const AppliedChoicesExample = ({ query, answer, hrefOf, go }: Shop) => (
  <AppliedChoices query={query} answer={answer} hrefOf={hrefOf} go={go} />
);
// #endregion
