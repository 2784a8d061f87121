'use client';

import { readableName, type FieldProfile, type TableColumn } from '@yucca/contract';
import { AddChoice, RemoveButton } from '@/ui/controls';
import { useDraft, useSetDesign } from '../draft';
import type { PageFacts } from '../facts';
import { draggable, MoveButtons, moved, Setting } from '../setting';
import { LineWhenDone } from './plain-inputs';

/** The columns of a table of results, in order. */
export function TableSettings({ facts, fields }: { facts: PageFacts; fields: readonly FieldProfile[] }) {
  const [{ document }] = useDraft();
  const set = useSetDesign();
  const card = { ...facts.parts.card, ...document.card };
  const usual = [card.title, card.detail, card.second, card.number].filter((field) => typeof field === 'string');
  const columns = document.table ?? [...new Set(usual)].map((field): TableColumn => ({ field }));
  const put = (next: TableColumn[], gesture?: string): void => set('table', next, gesture);
  const move = (from: number, to: number): void => put(moved(columns, from, to));
  return (
    <Setting
      part="table"
      isSet={document.table !== undefined}
      usual="what a card shows"
      onReset={() => set('table', undefined)}
    >
      <fieldset className="grid grid-cols-[minmax(0,1fr)] gap-1">
        <legend className="mb-1 text-[13px]">Columns of the table</legend>
        <ol className="grid gap-1">
          {columns.map(({ field, label }, i) => (
            <li key={field} {...draggable(i, 'column', move)} className="flex items-center gap-1 text-[13px]">
              <span aria-hidden="true" className="cursor-grab text-soft" title="Drag to another place">
                ⠿
              </span>
              <span className="figures w-28 truncate text-xs text-soft" title={field}>
                {field}
              </span>
              <LineWhenDone
                label={`Heading of ${field}`}
                value={label ?? readableName(field)}
                most={80}
                onText={(text) =>
                  put(columns.map((one, n) => (n !== i ? one : text === '' ? { field } : { field, label: text })))
                }
              />
              <MoveButtons what={field} at={i} count={columns.length} onMove={move} />
              {columns.length > 1 && <RemoveButton what={field} onRemove={() => put(columns.toSpliced(i, 1))} />}
            </li>
          ))}
        </ol>
        {columns.length < 12 && (
          <AddChoice
            label="Add a column"
            options={fields.map(({ path }) => path).filter((path) => columns.every(({ field }) => field !== path))}
            onAdd={(field) => put([...columns, { field }])}
          />
        )}
      </fieldset>
    </Setting>
  );
}
