import type { FacetAnswer, FacetValue, SearchAnswer } from '@yucca/contract';
import { chosenValues, isRange, type Query, type RangeChoice } from '@yucca/kit';
import { Button, buttonLook } from '@/ui/button';
import { count } from '@/ui/format';
import { Checklist } from './checklist';
import { RangeFacet } from './range-facet';
import { TreeFacet } from './tree-facet';

export interface FacetActions {
  onToggle: (facet: string, value: string) => void;
  onRange: (facet: string, range: RangeChoice | null) => void;
}

/**
 * The facets, each in the form of its kind. Without JavaScript a button sends them with the form. On a phone they open on
 * a link to their place in the page, which works without JavaScript too.
 */
export function FacetList({ answer, query, ...actions }: { answer: SearchAnswer; query: Query } & FacetActions) {
  const chosen = Object.values(query.select).reduce((sum, choice) => sum + (isRange(choice) ? 1 : choice.length), 0);
  return (
    <div className="mb-4">
      <a href="#filters" className={buttonLook() + ' md:hidden'}>
        Filters{chosen > 0 && ` (${chosen})`}
      </a>
      <div id="filters" className="scroll-mt-2 max-md:[&:not(:target)]:hidden">
        <a href="#results" className={buttonLook() + ' mb-3 md:hidden'}>
          See {count(answer.total)} {answer.total === 1 ? 'result' : 'results'}
        </a>
        {Object.entries(answer.facets).map(([name, facet]) => (
          <Facet key={name} name={name} facet={facet} query={query} {...actions} />
        ))}
        <noscript>
          <Button type="submit">Apply filters</Button>
        </noscript>
      </div>
    </div>
  );
}

/** A yes-or-no field reads as such. */
const readable = (value: FacetValue): FacetValue =>
  value.label === 'true' ? { ...value, label: 'yes' } : value.label === 'false' ? { ...value, label: 'no' } : value;

function Facet({
  name,
  facet,
  query,
  onToggle,
  onRange,
}: { name: string; facet: FacetAnswer; query: Query } & FacetActions) {
  const toggle = (value: string): void => onToggle(name, value);
  const chosen = chosenValues(query, name);
  if (facet.kind === 'numbers') {
    if (facet.min === null && facet.selected === null) return null;
    return <RangeFacet name={name} facet={facet} onRange={(range) => onRange(name, range)} />;
  }
  if (facet.kind === 'tree') {
    return facet.nodes.length === 0 ? null : (
      <fieldset className="mb-5 min-w-0">
        <legend className="mb-1 font-head font-semibold">{facet.label}</legend>
        <TreeFacet name={name} nodes={facet.nodes} chosen={chosen} onToggle={toggle} />
      </fieldset>
    );
  }
  if (facet.values.length === 0) return null;
  return (
    <fieldset className="mb-5 min-w-0">
      <legend className="mb-1 font-head font-semibold">{facet.label}</legend>
      <Checklist name={name} values={facet.values.map(readable)} chosen={chosen} onToggle={toggle} />
    </fieldset>
  );
}
