'use client';

import { Popover } from 'radix-ui';
import { Button } from '@/ui/button';

/** Which fields have a column. The key always has one. */
export function ColumnChooser({
  fields,
  columns,
  keyField,
  onColumns,
}: {
  fields: string[];
  columns: string[];
  keyField: string;
  onColumns: (columns: string[] | null) => void;
}) {
  const toggle = (field: string, on: boolean): void => {
    onColumns(on ? [...columns, field] : columns.filter((column) => column !== field));
  };
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>Columns</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          aria-label="Columns"
          className="z-20 flex max-h-[60vh] w-64 flex-col rounded-md border border-line bg-paper p-3"
        >
          <ul className="min-h-0 flex-1 overflow-y-auto">
            {fields.map((field) => (
              <li key={field}>
                <label className="figures flex min-h-6 items-center gap-2 text-[13px]">
                  <input
                    type="checkbox"
                    checked={columns.includes(field)}
                    disabled={field === keyField}
                    onChange={(event) => toggle(field, event.target.checked)}
                  />
                  <span className="truncate">{field}</span>
                </label>
              </li>
            ))}
          </ul>
          <button type="button" className="link mt-2 min-h-6 self-start" onClick={() => onColumns(null)}>
            Back to the chosen few
          </button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
