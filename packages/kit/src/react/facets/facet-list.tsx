import type { FacetAnswer, FacetValuesAnswer, SearchAnswer } from '@yucca/contract';
import { useCallback } from 'react';
import { chosenValues, withRange, withToggled, type Query } from '../../query.ts';
import { FacetChecklist } from './facet-checklist.tsx';
import { FacetDates } from './facet-dates.tsx';
import { FacetRange } from './facet-range.tsx';
import { FacetToggle, isYesOrNo } from './facet-toggle.tsx';
import { FacetTree } from './facet-tree.tsx';

/** Looks for a text inside the values of a facet, within what is asked for now. */
export type FindInFacet = (facet: string, q: string, signal: AbortSignal) => Promise<FacetValuesAnswer>;

export interface FacetListProps {
  answer: SearchAnswer;
  query: Query;
  /** The facets shown, in order. Default: as they were answered. */
  names?: readonly string[];
  onQuery: (query: Query) => void;
  find?: FindInFacet;
}

/** Facets below each other, each in the form of its kind. */
export function FacetList({ answer, query, names = Object.keys(answer.facets), onQuery, find }: FacetListProps) {
  return names.map((name) => {
    const facet = Object.hasOwn(answer.facets, name) ? answer.facets[name] : undefined;
    if (!facet || !hasSomething(facet, query, name)) return null;
    return <Facet key={name} name={name} facet={facet} query={query} onQuery={onQuery} {...(find && { find })} />;
  });
}

function hasSomething(facet: FacetAnswer, query: Query, name: string): boolean {
  if (name in query.select) return true;
  if (facet.kind === 'numbers') return facet.min !== null;
  return facet.kind === 'tree' ? facet.nodes.length > 0 : facet.values.length > 0;
}

interface FacetProps {
  name: string;
  facet: FacetAnswer;
  query: Query;
  onQuery: (query: Query) => void;
  find?: FindInFacet;
}

/** One facet under its heading. */
export function Facet({ name, facet, query, onQuery, find }: FacetProps) {
  const findHere = useCallback((q: string, signal: AbortSignal) => find!(name, q, signal), [find, name]);
  const shared = {
    name,
    chosen: chosenValues(query, name),
    onToggle: (value: string) => onQuery(withToggled(query, name, value)),
    ...(find && { find: findHere }),
  };
  const onRange = (range: Parameters<typeof withRange>[2]): void => onQuery(withRange(query, name, range));
  if (facet.kind === 'values' && isYesOrNo(facet.values))
    return <FacetToggle {...shared} label={facet.label} values={facet.values} />;
  return (
    <fieldset data-part="facet">
      <legend>{facet.label}</legend>
      {facet.kind === 'values' && (
        <FacetChecklist {...shared} label={facet.label} values={facet.values} more={facet.more} />
      )}
      {facet.kind === 'tree' && <FacetTree {...shared} nodes={facet.nodes} />}
      {facet.kind === 'numbers' && <FacetRange name={name} facet={facet} onRange={onRange} />}
      {facet.kind === 'dates' && <FacetDates {...shared} facet={facet} onRange={onRange} />}
    </fieldset>
  );
}
