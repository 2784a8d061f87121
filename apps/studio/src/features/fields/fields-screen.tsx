'use client';

import { readableName, type Card, type Collection, type FieldProfile, type Profile } from '@yucca/contract';
import clsx from 'clsx';
import { useEffect, useRef } from 'react';
import { Probe } from '@/features/probe/probe';
import { coverage, distinctWords, typeWords } from '@/features/profile/facts';
import { useProfile } from '@/features/profile/use-profile';
import { RecordSheet } from '@/features/records/record-sheet';
import { useDraft } from '@/features/tuning/draft';
import { TuningDraftBar } from '@/features/tuning/draft-bar';
import { Button } from '@/ui/button';
import { count, counted } from '@/ui/format';
import { useParam } from '@/ui/use-param';
import { FacetOrder } from './facet-order';
import { FieldDetail } from './field-detail';
import { RoleCells } from './role-cells';
import { openProposals, withFacetOrder, withProposals } from './roles';

const COLUMNS: [name: string, what: string][] = [
  ['Search', 'How much a match in this field counts; empty = not searched'],
  ['Facet', 'What visitors narrow the results by'],
  ['Sort', 'What visitors can sort by'],
  ['Signal', 'A business number that lifts results'],
  ['Show', 'Returned with the results'],
  ['Mark', 'What matched is marked in it'],
  ['Snippet', 'The best piece of a long text is cut out'],
];

/**
 * What each field does: one row a field, one column a role. The probe answers with the draft, so that every change
 * shows.
 */
export function FieldsScreen({
  collection,
  card,
  profile: first,
}: {
  collection: Collection;
  card: Card;
  profile: Profile | null;
}) {
  const { profile, problem } = useProfile(collection.name, collection.generation, first);
  const [state] = useDraft();
  const [open, setOpen] = useParam('record');
  const facets = state.saved.facets ?? [];
  return (
    <>
      <section className="flex min-w-0 flex-1 flex-col">
        {profile === null ? (
          <p role={problem ? 'alert' : 'status'} className={clsx('p-6', problem ? 'text-madder' : 'text-soft')}>
            {problem ?? 'Looking through the records …'}
          </p>
        ) : profile.records === 0 ? (
          <p className="p-6 text-soft">
            No records yet, so there are no fields. Drop a file of JSON, CSV, Excel, YAML, XML or Parquet anywhere on
            this window.
          </p>
        ) : (
          <FieldTable collection={collection} profile={profile} />
        )}
        <TuningDraftBar collection={collection.name} />
      </section>
      <Probe
        key={collection.name}
        collection={collection.name}
        card={card}
        facets={facets.map(({ name }) => name)}
        generation={collection.generation + state.saves}
        version={state.exists ? 'draft' : 'live'}
        onOpen={(id) => setOpen(id, 'push')}
      />
      {open !== '' && <RecordSheet key={open} collection={collection.name} id={open} onClose={() => setOpen('')} />}
    </>
  );
}

function FieldTable({ collection, profile }: { collection: Collection; profile: Profile }) {
  const [{ document }, store] = useDraft();
  const [chosen, setChosen] = useParam('field');
  const { fields } = profile;
  const open = fields.filter((field) => openProposals(document, field).length > 0);
  const searched = document.search?.length ?? 0;
  const facets = (document.facets ?? []).map(({ name, label }) => ({ name, label: label ?? readableName(name) }));
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 px-6 pt-4 pb-3">
        <h1 className="text-[20px] leading-7">Fields</h1>
        <p className="text-soft">
          {counted(fields.length, 'field')},{' '}
          {searched === 0 ? 'all texts searched alike' : `${count(searched)} searched`},{' '}
          {counted(facets.length, 'facet')}
        </p>
        {open.length > 0 && (
          <Button className="ml-auto" onClick={() => store.change((now) => withProposals(now, fields))}>
            Take all proposals ({counted(open.length, 'field')})
          </Button>
        )}
        <div className="w-full">
          <FacetOrder facets={facets} onOrder={(names) => store.change((now) => withFacetOrder(now, names))} />
        </div>
      </div>
      <div className="min-h-0 flex-1 overflow-auto border-t border-line" tabIndex={0} role="region" aria-label="Fields">
        <table className="w-full text-[13px]">
          <thead className="sticky top-0 z-10 bg-sunk text-left">
            <tr>
              <th scope="col" className="py-2 pl-6 font-medium">
                Field
              </th>
              <th scope="col" className="px-3 py-2 font-medium">
                In records
              </th>
              {COLUMNS.map(([name, what]) => (
                <th key={name} scope="col" className="px-1.5 py-2 font-medium" title={what}>
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {fields.map((field) => (
              <FieldRow
                key={field.path}
                collection={collection}
                field={field}
                fields={fields}
                open={chosen === field.path}
                onToggle={() => setChosen(chosen === field.path ? '' : field.path)}
              />
            ))}
          </tbody>
        </table>
        <p className="px-6 py-3 text-xs text-soft">
          A dashed frame is a proposal from the data: point at it for its reason, click it to take it. A field’s name
          opens what is in it.
        </p>
      </div>
    </>
  );
}

function FieldRow({
  collection,
  field,
  fields,
  open,
  onToggle,
}: {
  collection: Collection;
  field: FieldProfile;
  fields: readonly FieldProfile[];
  open: boolean;
  onToggle: () => void;
}) {
  const [{ document }, store] = useDraft();
  const cells = { field, fields, document, change: store.change.bind(store) };
  const { warnings } = field;
  const row = useRef<HTMLTableRowElement>(null);
  // A link to a field leads to it; a click on one that is in view moves nothing.
  useEffect(() => {
    if (!open) return;
    row.current?.nextElementSibling?.scrollIntoView({ block: 'nearest' });
    row.current?.scrollIntoView({ block: 'nearest' });
  }, [open]);
  return (
    <>
      <tr ref={row} className={clsx('group border-b border-line', open ? 'bg-raised' : 'hover:bg-raised')}>
        <th scope="row" className="max-w-56 py-1 pl-6 text-left font-normal">
          <button type="button" aria-expanded={open} className="block w-full min-w-0 text-left" onClick={onToggle}>
            <span className="figures block truncate font-medium hover:text-agave" title={field.path}>
              {field.path}
              {field.path === collection.key && <span className="ml-2 font-normal text-soft">key</span>}
            </span>
            <span className="block truncate text-xs text-soft">
              {typeWords(field)}
              {warnings.length > 0 && <span className="text-clay"> · {counted(warnings.length, 'warning')}</span>}
            </span>
          </button>
        </th>
        <td className="figures px-3 py-1 text-xs whitespace-nowrap text-soft">
          {coverage(field)}
          <span className="block">{field.distinct > 0 ? distinctWords(field) : ''}</span>
        </td>
        <RoleCells {...cells} />
      </tr>
      {open && (
        <tr className="border-b border-line">
          <td colSpan={2 + COLUMNS.length} className="p-0">
            <FieldDetail collection={collection.name} {...cells} />
          </td>
        </tr>
      )}
    </>
  );
}
