import type { FacetAnswer, FacetValuesAnswer, InterfacePage, SearchAnswer } from '@yucca/contract';
import { Fragment, useCallback, type ReactNode } from 'react';
import { chosenValues, ranged, toggled, type Choices, type RangeChoice } from '../../query.ts';
import { FacetChecklist } from './facet-checklist.tsx';
import { FacetDates } from './facet-dates.tsx';
import { FacetRange } from './facet-range.tsx';
import { FacetSelect } from './facet-select.tsx';
import { FacetSteps } from './facet-steps.tsx';
import { FacetToggle, isYesOrNo } from './facet-toggle.tsx';
import { FacetTree } from './facet-tree.tsx';

/** Looks for a text inside the values of a facet, within what is asked for now. */
export type FindInFacet = (facet: string, q: string, signal: AbortSignal) => Promise<FacetValuesAnswer>;

/** What `FacetList` is given. */
export interface FacetListProps {
  answer: SearchAnswer;
  /** What is chosen: `query.select`. */
  select: Choices;
  /** The facets shown, in order. Default: as they were answered. */
  names?: readonly string[];
  /** Takes the choices there shall be. */
  onSelect: (select: Choices) => void;
  find?: FindInFacet | undefined;
  /** How facets are shown, by their names: `page.facets`. Default: each as its kind is. */
  looks?: readonly FacetLook[];
  /** Draws one facet; `usual` is what would be drawn. */
  renderFacet?: ((name: string, usual: ReactNode) => ReactNode) | undefined;
}

/** How one facet is shown. */
export type FacetLook = Pick<InterfacePage['facets'][number], 'name' | 'control' | 'folded' | 'shown' | 'colours'>;

/** Facets below each other, each in the form of its kind. */
export function FacetList(props: FacetListProps) {
  const { answer, select, names = Object.keys(answer.facets), onSelect, find, looks, renderFacet } = props;
  return names.map((name) => {
    const facet = Object.hasOwn(answer.facets, name) ? answer.facets[name] : undefined;
    if (!facet || !hasSomething(facet, select, name)) return null;
    const look = looks?.find((one) => one.name === name);
    const usual = <Facet {...{ name, facet, select, onSelect, look, find }} />;
    return <Fragment key={name}>{renderFacet ? renderFacet(name, usual) : usual}</Fragment>;
  });
}

function hasSomething(facet: FacetAnswer, select: Choices, name: string): boolean {
  if (Object.hasOwn(select, name)) return true;
  if (facet.kind === 'numbers') return facet.min !== null;
  return facet.kind === 'tree' ? facet.nodes.length > 0 : facet.values.length > 0;
}

interface FacetProps {
  name: string;
  facet: FacetAnswer;
  select: Choices;
  onSelect: (select: Choices) => void;
  find?: FindInFacet | undefined;
  look?: FacetLook | undefined;
}

/** One facet under its heading. */
export function Facet({ name, facet, select, onSelect, find, look }: FacetProps) {
  const { control, folded = false, shown, colours } = look ?? {};
  const findHere = useCallback((q: string, signal: AbortSignal) => find!(name, q, signal), [find, name]);
  const shared = {
    name,
    chosen: chosenValues({ select }, name),
    onToggle: (value: string) => onSelect(toggled(select, name, value)),
    find: find && findHere,
  };
  const onRange = (range: RangeChoice | null): void => onSelect(ranged(select, name, range));
  if (facet.kind === 'values' && isYesOrNo(facet.values))
    return <FacetToggle {...shared} label={facet.label} values={facet.values} />;
  const inside = (
    <>
      {facet.kind === 'values' &&
        (control === 'select' ? (
          <FacetSelect {...shared} facet={facet} onSelect={onSelect} select={select} />
        ) : (
          <FacetChecklist
            {...shared}
            label={facet.label}
            values={facet.values}
            more={facet.more}
            shown={shown}
            // A value that is a colour's name in CSS stands for itself.
            swatch={control === 'swatches' ? (value) => colours?.[value] ?? value : undefined}
          />
        ))}
      {facet.kind === 'tree' && <FacetTree {...shared} label={facet.label} nodes={facet.nodes} />}
      {facet.kind === 'numbers' &&
        (control === 'steps' ? (
          <FacetSteps name={name} facet={facet} onRange={onRange} />
        ) : (
          <FacetRange name={name} facet={facet} onRange={onRange} />
        ))}
      {facet.kind === 'dates' && <FacetDates {...shared} facet={facet} onRange={onRange} />}
    </>
  );
  const part = { 'data-part': 'facet', 'data-facet': name, 'data-control': control };
  if (!folded)
    return (
      <fieldset {...part}>
        <legend>{facet.label}</legend>
        {inside}
      </fieldset>
    );
  return (
    <details {...part} open={Object.hasOwn(select, name)}>
      <summary data-part="facet-head">{facet.label}</summary>
      <div role="group" aria-label={facet.label}>
        {inside}
      </div>
    </details>
  );
}
