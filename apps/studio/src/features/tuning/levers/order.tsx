'use client';

import { readableName, type FieldProfile, type SortRule, type Tuning, type TuningDocument } from '@yucca/contract';
import { memo } from 'react';
import { useDraftStore } from '../draft';
import { AddChoice, Choice, RemoveButton, Slider } from '@/ui/controls';

type SortDocument = NonNullable<TuningDocument['sorts']>[number];

/** What a visitor may order results by: names, keys, directions, and their own order. */
export const SortLevers = memo(function SortLevers({
  sorts,
  fields,
}: {
  sorts: readonly SortRule[];
  fields: readonly FieldProfile[];
}) {
  const store = useDraftStore();
  const set = (next: (sorts: SortDocument[]) => SortDocument[], gesture: string | null = null): void =>
    store.change((now) => ({ ...now, sorts: next(now.sorts ?? []) }), { gesture });
  const change = (name: string, part: Partial<SortDocument>, gesture: string | null = null): void =>
    set((all) => all.map((one) => (one.name === name ? { ...one, ...part } : one)), gesture);
  const sortable = fields.filter(({ types }) => (types.object ?? 0) === 0).map(({ path }) => path);
  return (
    <>
      {sorts.length === 0 && <p className="text-[13px] text-soft">None: results stand by relevance alone.</p>}
      {sorts.map(({ name, label, by }, at) => (
        <div key={name} className="grid gap-1 border-t border-line pt-2 first:border-t-0">
          <div className="flex items-center gap-1">
            <input
              className="field min-h-7 py-0.5 text-[13px]"
              aria-label={`Label of ${name}`}
              maxLength={200}
              value={label}
              onChange={(event) => change(name, { label: event.target.value }, `label ${name}`)}
            />
            <button
              type="button"
              aria-label={`Move ${label} up`}
              title="Move up"
              disabled={at === 0}
              className="grid size-6 shrink-0 place-items-center rounded text-soft hover:text-ink disabled:opacity-30"
              onClick={() => set((all) => [...all.slice(0, at - 1), all[at]!, all[at - 1]!, ...all.slice(at + 1)])}
            >
              ↑
            </button>
            <RemoveButton what={label} onRemove={() => set((all) => all.filter((one) => one.name !== name))} />
          </div>
          <div className="grid grid-cols-[1fr_120px] gap-1">
            <select
              className="field min-h-7 py-0.5 text-[13px]"
              aria-label={`Field of ${label}`}
              value={by[0]!.field}
              onChange={(event) => change(name, { by: [{ ...by[0]!, field: event.target.value }, ...by.slice(1)] })}
            >
              {[...new Set([by[0]!.field, ...sortable])].map((path) => (
                <option key={path}>{path}</option>
              ))}
            </select>
            <select
              className="field min-h-7 py-0.5 text-[13px]"
              aria-label={`Direction of ${label}`}
              value={by[0]!.order}
              onChange={(event) =>
                change(name, { by: [{ ...by[0]!, order: event.target.value as 'asc' | 'desc' }, ...by.slice(1)] })
              }
            >
              <option value="asc">low to high</option>
              <option value="desc">high to low</option>
            </select>
          </div>
          {by.length > 1 && (
            <p className="text-xs text-soft">
              then by{' '}
              {by
                .slice(1)
                .map(({ field }) => field)
                .join(', ')}
            </p>
          )}
        </div>
      ))}
      <AddChoice
        label="Add a sort"
        options={sortable}
        onAdd={(field) =>
          set((all) => [...all, { name: freeSortName(field, all), label: readableName(field), by: [{ field }] }])
        }
      />
    </>
  );
});

/** A name for a sort by a field that no other has. */
export function freeSortName(field: string, sorts: readonly { name: string }[]): string {
  const letters = field.toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^[^a-z]+|-+$/g, ''); // prettier-ignore
  const base = (letters || 'sort').slice(0, 50);
  const taken = new Set([...sorts.map(({ name }) => name), 'relevance', 'distance']);
  let name = base;
  for (let n = 2; taken.has(name); n++) name = `${base}-${n}`;
  return name;
}

/** One result for each family of records, or the best few of it. */
export const GroupingLevers = memo(function GroupingLevers({
  group,
  fields,
}: {
  group: Tuning['group'];
  fields: readonly FieldProfile[];
}) {
  const store = useDraftStore();
  const options = new Set([...(group ? [group.field] : []), ...fields.filter(({ distinct }) => distinct > 1).map(({ path }) => path)]); // prettier-ignore
  return (
    <>
      <Choice
        label="Results that share"
        value={group?.field ?? ''}
        options={[['', 'nothing: no groups'], ...[...options].map((path) => [path, path] as const)]}
        onValue={(field) =>
          store.change((now) => ({ ...now, group: field === '' ? null : { field, keep: group?.keep ?? 1 } }))
        }
      />
      {group && (
        <Slider
          label="Shown of each"
          min={1}
          max={5}
          most={20}
          value={group.keep}
          onValue={(keep) =>
            store.change((now) => ({ ...now, group: { field: group.field, keep: Math.round(keep) } }), {
              gesture: 'keep',
            })
          }
        />
      )}
    </>
  );
});
