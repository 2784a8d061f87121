import type { RecordJson } from '@yucca/contract';
import clsx from 'clsx';

const ROWS = 6;

/** A value as a table cell shows it: text as it is, a plain list with commas, anything else as JSON. */
export function cellText(value: unknown): string {
  if (value === undefined || value === null) return '';
  if (Array.isArray(value) && value.every((item) => typeof item !== 'object')) return value.join(', ');
  return typeof value === 'string' ? value : typeof value === 'object' ? JSON.stringify(value) : String(value);
}

/** The first rows of a file. */
export function SampleTable({
  sample,
  fields,
  keyField,
}: {
  sample: RecordJson[];
  fields: string[];
  keyField: string;
}) {
  return (
    <div
      className="overflow-x-auto rounded-md border border-line bg-raised"
      tabIndex={0}
      role="region"
      aria-label="First rows"
    >
      <table className="w-full text-[13px]">
        <thead className="bg-sunk text-left">
          <tr>
            {fields.map((field) => (
              <th
                key={field}
                scope="col"
                className={clsx('px-3 py-1.5 font-medium whitespace-nowrap', field === keyField && 'text-agave')}
              >
                {field}
                {field === keyField && ' (key)'}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sample.slice(0, ROWS).map((record, i) => (
            <tr key={i} className="border-t border-line">
              {fields.map((field) => (
                <td
                  key={field}
                  className={clsx(
                    'max-w-64 truncate px-3 py-1.5',
                    typeof record[field] === 'number' && 'figures text-right',
                  )}
                >
                  {cellText(record[field]).slice(0, 120)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
