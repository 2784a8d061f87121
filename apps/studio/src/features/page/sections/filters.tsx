'use client';

import {
  asPageFacet,
  FACET_CONTROLS,
  USUAL_SHOWN,
  withProperty,
  type FacetControl,
  type PageFacet,
  type PageParts,
} from '@yucca/contract';
import Link from 'next/link';
import { useState } from 'react';
import { AddChoice, Check, Choice, RemoveButton } from '@/ui/controls';
import { useDraft, useSetDesign } from '../draft';
import type { PageFacts } from '../facts';
import { draggable, MoveButtons, moved, Setting } from '../setting';
import { FieldAsFilter } from './field-as-filter';
import { WholeNumber } from './plain-inputs';

const CONTROL_WORDS: Record<FacetControl, string> = {
  list: 'checklist',
  buttons: 'buttons',
  swatches: 'colour swatches',
  select: 'select, one value',
  tree: 'tree',
  range: 'range',
  steps: 'steps (“4 and more”)',
  dates: 'dates',
};

/** A facet that says nothing but its name is written as its name. */
const written = (facet: PageFacet): string | PageFacet => (Object.keys(facet).length === 1 ? facet.name : facet);

/** Which facets the page offers, in which order, and how each is worked. */
export function FiltersSection({ facts }: { facts: PageFacts }) {
  const [{ document }] = useDraft();
  const set = useSetDesign();
  const facets = (document.facets ?? facts.parts.facets.map(({ name }) => name)).map(asPageFacet);
  const put = (next: PageFacet[], gesture?: string): void => set('facets', next.map(written), gesture);
  const move = (from: number, to: number): void => put(moved(facets, from, to));
  const left = facts.parts.facets.filter(({ name }) => facets.every((facet) => facet.name !== name));
  return (
    <Setting
      part="filters"
      isSet={document.facets !== undefined}
      usual="all facets of the tuning"
      onReset={() => set('facets', undefined)}
    >
      <ol className="grid gap-2">
        {facets.map((facet, i) => (
          <FacetSettings
            key={facet.name}
            facet={facet}
            known={facts.parts.facets.find(({ name }) => name === facet.name)}
            row={draggable(i, 'facet', move)}
            tools={
              <>
                <MoveButtons what={facet.label ?? facet.name} at={i} count={facets.length} onMove={move} />
                <RemoveButton what={facet.label ?? facet.name} onRemove={() => put(facets.toSpliced(i, 1))} />
              </>
            }
            onFacet={(next, gesture) =>
              put(
                facets.map((one, n) => (n === i ? next : one)),
                gesture,
              )
            }
          />
        ))}
      </ol>
      <div className="mt-2 grid gap-2">
        <AddChoice
          label="Add a filter"
          options={left.map(({ label }) => label)}
          onAdd={(label) => put([...facets, { name: left.find((facet) => facet.label === label)!.name }])}
        />
        <FieldAsFilter
          facts={facts}
          // A page that offers all facets of the tuning has it by itself.
          onPublished={(name) => document.facets && put([...facets, { name }])}
        />
        <p className="text-xs text-soft">
          Facets are made of fields, for every page of the collection:{' '}
          <Link href={`/c/${facts.collection}/fields`} className="link">
            choose more under Fields
          </Link>
        </p>
      </div>
    </Setting>
  );
}

function FacetSettings({
  facet,
  known,
  row,
  tools,
  onFacet,
}: {
  facet: PageFacet;
  /** Undefined when the tuning no longer has it. */
  known: PageParts['facets'][number] | undefined;
  row: object;
  tools: React.ReactNode;
  onFacet: (facet: PageFacet, gesture?: string) => void;
}) {
  const controls = known ? FACET_CONTROLS[known.kind] : [];
  const { name, label, control = controls[0], folded = false, shown } = facet;
  const title = label ?? known?.label ?? name;
  const [open, setOpen] = useState(false);
  return (
    <li data-for={`facet:${name}`} {...row} className="rounded-md border border-line bg-paper p-2 text-[13px]">
      <div className="flex min-h-6 items-center gap-1">
        <span aria-hidden="true" className="cursor-grab text-soft" title="Drag to another place">
          ⠿
        </span>
        <button
          type="button"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
          className="min-h-6 min-w-0 flex-1 truncate text-left font-medium hover:text-agave"
        >
          {title}
        </button>
        {tools}
      </div>
      {open && (
        <div className="grid gap-2 pt-2">
          {!known && <p className="text-madder">The tuning no longer has this facet, so the page leaves it out.</p>}
          <label className="grid grid-cols-[1fr_170px] items-center gap-2">
            Label
            <input
              className="field py-0.5 text-[13px]"
              value={label ?? ''}
              placeholder={known?.label ?? name}
              maxLength={80}
              onChange={({ target: { value } }) =>
                onFacet(withProperty(facet, 'label', value === '' ? undefined : value), `label ${name}`)
              }
            />
          </label>
          {control !== undefined && controls.length > 1 && (
            <Choice
              label="Shown as"
              value={control}
              options={controls.map((one) => [one, CONTROL_WORDS[one]] as const)}
              onValue={(value) => onFacet(withProperty(facet, 'control', value === controls[0] ? undefined : value))}
            />
          )}
          {known?.kind === 'values' && (
            <Choice
              label="Order of values"
              value={facet.order ?? 'count'}
              options={[
                ['count', 'as in the tuning'],
                ['label', 'by their names'],
              ]}
              onValue={(order) => onFacet(withProperty(facet, 'order', order === 'count' ? undefined : order))}
            />
          )}
          {known?.kind === 'values' && control !== 'select' && (
            <WholeNumber
              label="Values before “more”"
              value={shown ?? USUAL_SHOWN}
              min={1}
              max={100}
              onNumber={(value) =>
                onFacet(withProperty(facet, 'shown', value === USUAL_SHOWN ? undefined : value), `shown ${name}`)
              }
            />
          )}
          <Check
            label="Folded until somebody opens it"
            on={folded}
            onValue={(on) => onFacet(withProperty(facet, 'folded', on ? true : undefined))}
          />
          {control === 'swatches' && <Swatches facet={facet} onFacet={onFacet} />}
        </div>
      )}
    </li>
  );
}

/** The colours of values whose names are no colours of CSS. */
function Swatches({ facet, onFacet }: { facet: PageFacet; onFacet: (facet: PageFacet, gesture?: string) => void }) {
  const colours = facet.colours ?? {};
  const put = (next: Record<string, string>, gesture?: string): void =>
    onFacet(withProperty(facet, 'colours', Object.keys(next).length === 0 ? undefined : next), gesture);
  return (
    <div className="grid gap-1">
      <p className="text-xs text-soft">A value that is the name of a colour needs none; for others, say which:</p>
      {Object.entries(colours).map(([value, colour]) => (
        <div key={value} className="flex items-center gap-2">
          <input
            type="color"
            aria-label={`Colour of ${value}`}
            className="h-6 w-10"
            value={colour}
            onChange={(event) => put({ ...colours, [value]: event.target.value }, `colour ${value}`)}
          />
          <span className="min-w-0 flex-1 truncate">{value}</span>
          <RemoveButton
            what={value}
            onRemove={() => put(Object.fromEntries(Object.entries(colours).filter(([name]) => name !== value)))}
          />
        </div>
      ))}
      <form
        className="flex gap-1"
        onSubmit={(event) => {
          event.preventDefault();
          const value = (new FormData(event.currentTarget).get('value') as string).trim();
          if (value !== '') put({ ...colours, [value]: '#888888' });
          event.currentTarget.reset();
        }}
      >
        <input
          name="value"
          className="field min-w-0 flex-1 py-0.5 text-[13px]"
          placeholder="A value"
          aria-label="A value with a colour of its own"
        />
        <button type="submit" className="link px-1">
          Add colour
        </button>
      </form>
    </div>
  );
}
