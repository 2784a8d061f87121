import { FACET_KINDS, FACET_KIND_NAMES, type FacetKind, type FieldProfile, type TuningDocument } from '@yucca/contract';
import clsx from 'clsx';
import type { ReactNode } from 'react';
import type { ChangeOptions } from '@/features/draft/draft-store';
import {
  rolesOf,
  withFacet,
  withMarked,
  withSearch,
  withShown,
  withSignal,
  withSnippet,
  withSort,
  type Roles,
} from './roles';

export interface CellProps {
  field: FieldProfile;
  fields: readonly FieldProfile[];
  document: TuningDocument;
  change: (next: (document: TuningDocument) => TuningDocument, options?: ChangeOptions) => void;
}

/** What the profile proposes and is not done yet: a click takes it. The reason shows on pointing, and is read out. */
export function Proposed({
  label,
  reason,
  take,
  children,
}: {
  label: string;
  reason: string;
  take: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={`${label}: proposed, because: ${reason}`}
      title={`Proposed: ${reason}. Click to take it.`}
      className="figures min-h-6 min-w-9 rounded border border-dashed border-field-line px-1.5 text-xs text-soft hover:border-agave hover:text-agave"
      onClick={take}
    >
      {children}
    </button>
  );
}

const hasText = ({ types }: FieldProfile): boolean => (types.string ?? 0) + (types.number ?? 0) > 0;

function SearchCell({ field, fields, document, change }: CellProps) {
  const { search } = rolesOf(document, field);
  const { proposal, path } = field;
  const set = (weight: number | null, gesture: string | null = null): void =>
    change((now) => withSearch(now, path, weight, fields), { gesture });
  if (search === null) {
    if (proposal.search)
      return (
        <Proposed label={`Search ${path}`} reason={proposal.search.reason} take={() => set(proposal.search!.weight)}>
          {proposal.search.weight}
        </Proposed>
      );
    if (!hasText(field)) return null;
    return (
      <button
        type="button"
        aria-label={`Search ${path}`}
        className="min-h-6 min-w-9 rounded text-soft opacity-0 group-hover:opacity-100 hover:text-agave focus:opacity-100"
        onClick={() => set(1)}
      >
        +
      </button>
    );
  }
  return (
    <input
      type="number"
      min={0}
      max={1000}
      step="any"
      aria-label={`Weight of ${path}`}
      title="How much a match here counts. Empty it to search this field no longer."
      className={clsx(
        'figures min-h-6 w-14 rounded border px-1.5 text-right',
        search.implicit ? 'border-dashed border-line bg-transparent text-soft' : 'border-field-line bg-raised',
      )}
      value={search.weight}
      onChange={(event) => {
        const weight = event.target.value === '' ? 0 : Number(event.target.value);
        if (weight <= 0) set(null);
        else if (weight <= 1000) set(weight, `weight of ${path}`);
      }}
    />
  );
}

function FacetCell({ field, document, change }: CellProps) {
  const { facet } = rolesOf(document, field);
  const { proposal, path } = field;
  const set = (kind: FacetKind | null): void => change((now) => withFacet(now, path, kind, proposal.facet));
  if (facet === null && proposal.facet)
    return (
      <Proposed label={`Facet of ${path}`} reason={proposal.facet.reason} take={() => set(proposal.facet!.kind)}>
        {FACET_KINDS[proposal.facet.kind].title}
      </Proposed>
    );
  return (
    <select
      aria-label={`Facet of ${path}`}
      className={clsx(
        'min-h-6 w-[76px] rounded border bg-transparent text-[13px]',
        facet === null
          ? 'border-transparent text-soft opacity-0 group-hover:opacity-100 focus:opacity-100'
          : 'border-field-line bg-raised',
      )}
      value={facet ?? ''}
      onChange={(event) => set(event.target.value === '' ? null : (event.target.value as FacetKind))}
    >
      <option value="">none</option>
      {FACET_KIND_NAMES.map((kind) => (
        <option key={kind} value={kind}>
          {FACET_KINDS[kind].title}
        </option>
      ))}
    </select>
  );
}

/** A role that a field has or has not. */
function Check({
  label,
  on,
  proposed,
  set,
}: {
  label: string;
  on: boolean;
  proposed?: { on: boolean; reason: string } | null;
  set: (on: boolean) => void;
}) {
  const open = proposed && proposed.on !== on;
  return (
    <label
      className={clsx('grid size-6 place-items-center rounded', open && 'border border-dashed border-field-line')}
      title={open ? `Proposed: ${proposed.on ? 'yes' : 'no'}, ${proposed.reason}` : undefined}
    >
      <input type="checkbox" aria-label={label} checked={on} onChange={(event) => set(event.target.checked)} />
    </label>
  );
}

function SignalCell({ field, document, change }: CellProps) {
  const { signal } = rolesOf(document, field);
  const { proposal, path } = field;
  const set = (shape: Roles['signal']): void => change((now) => withSignal(now, path, shape));
  if (signal === null && proposal.signal)
    return (
      <Proposed label={`Signal of ${path}`} reason={proposal.signal.reason} take={() => set(proposal.signal!.shape)}>
        {proposal.signal.shape}
      </Proposed>
    );
  if (field.numbers === null && field.dates === null) return null;
  return (
    <select
      aria-label={`Signal of ${path}`}
      className={clsx(
        'min-h-6 w-[78px] rounded border bg-transparent text-[13px]',
        signal === null
          ? 'border-transparent text-soft opacity-0 group-hover:opacity-100 focus:opacity-100'
          : 'border-field-line bg-raised',
      )}
      value={signal ?? ''}
      onChange={(event) => set(event.target.value === '' ? null : (event.target.value as NonNullable<Roles['signal']>))}
    >
      <option value="">none</option>
      <option value="linear">linear</option>
      <option value="log">log</option>
      <option value="recency">recency</option>
    </select>
  );
}

/** The cells of a field, in the order of the columns. */
export function RoleCells(props: CellProps) {
  const { field, fields, document, change } = props;
  const { path, proposal } = field;
  const roles = rolesOf(document, field);
  const cell = 'px-1.5 py-1';
  return (
    <>
      <td className={cell}>
        <SearchCell {...props} />
      </td>
      <td className={cell}>
        <FacetCell {...props} />
      </td>
      <td className={cell}>
        <Check
          label={`Sort by ${path}`}
          on={roles.sort}
          proposed={proposal.sort && { on: true, reason: proposal.sort.reason }}
          set={(on) => change((now) => withSort(now, field, on))}
        />
      </td>
      <td className={cell}>
        <SignalCell {...props} />
      </td>
      <td className={cell}>
        <Check
          label={`Show ${path}`}
          on={roles.shown}
          proposed={proposal.show.shown ? null : { on: false, reason: proposal.show.reason }}
          set={(on) => change((now) => withShown(now, path, on))}
        />
      </td>
      <td className={cell}>
        {roles.search && (
          <Check
            label={`Mark ${path}`}
            on={roles.marked}
            set={(on) => change((now) => withMarked(now, path, on, fields))}
          />
        )}
      </td>
      <td className={cell}>
        {(field.types.string ?? 0) > 0 && (field.length?.words ?? 0) > 8 && (
          <Check
            label={`Snippet of ${path}`}
            on={roles.snippet}
            proposed={proposal.snippet && { on: true, reason: proposal.snippet.reason }}
            set={(on) => change((now) => withSnippet(now, path, on))}
          />
        )}
      </td>
    </>
  );
}
