import type { FieldRule, RecordJson } from '@yucca/contract';
import { applyRules, type RuleProposal } from '@yucca/engine/rules';
import clsx from 'clsx';

const ROWS = 6;

/** A value as a table cell shows it: text as it is, a plain list with commas, anything else as JSON. */
export function cellText(value: unknown): string {
  if (value === undefined || value === null) return '';
  if (Array.isArray(value) && value.every((item) => typeof item !== 'object')) return value.join(', ');
  return typeof value === 'string' ? value : typeof value === 'object' ? JSON.stringify(value) : String(value);
}

const READINGS: [value: string, words: string][] = [
  ['', 'text'],
  ['number', 'number'],
  ['boolean', 'yes or no'],
  ['date', 'date'],
  ['list', 'list'],
  ['json', 'JSON'],
];

export interface SampleTableProps {
  sample: RecordJson[];
  fields: string[];
  keyField: string;
  rules?: FieldRule[];
  proposals?: RuleProposal[];
  /** Present where columns are text that may be read as something else. */
  onRules?: (rules: FieldRule[]) => void;
}

/** The first rows of a file, as they will be read. */
export function SampleTable({ sample, fields, keyField, rules = [], proposals = [], onRules }: SampleTableProps) {
  const rows = sample.slice(0, ROWS).map((record) => applyRules(record, rules));
  const setRule = (field: string, as: string): void => {
    const rest = rules.filter((rule) => rule.field !== field);
    const proposed = proposals.find(({ rule }) => rule.field === field && rule.as === as)?.rule;
    onRules?.(as === '' ? rest : [...rest, proposed ?? { field, as: as as FieldRule['as'] }]);
  };
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
                className={clsx(
                  'px-3 py-1.5 align-top font-medium whitespace-nowrap',
                  field === keyField && 'text-agave',
                )}
              >
                {field}
                {field === keyField && ' (key)'}
                {onRules && field !== keyField && (
                  <select
                    aria-label={`Read ${field} as`}
                    className="mt-0.5 block min-h-6 rounded border border-line bg-raised text-xs font-normal"
                    value={rules.find((rule) => rule.field === field)?.as ?? ''}
                    onChange={(event) => setRule(field, event.target.value)}
                  >
                    {READINGS.map(([value, words]) => (
                      <option key={value} value={value}>
                        {words}
                      </option>
                    ))}
                  </select>
                )}
                {onRules && rules.some((rule) => rule.field === field && rule.as === 'list') && (
                  <Separator field={field} rules={rules} onRules={onRules} />
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((record, i) => (
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

/** What parts the items of a list. Half-typed and empty texts change nothing. */
function Separator({
  field,
  rules,
  onRules,
}: {
  field: string;
  rules: FieldRule[];
  onRules: (rules: FieldRule[]) => void;
}) {
  const rule = rules.find((one) => one.field === field)!;
  const set = (separator: string): void => {
    if (separator !== '') onRules(rules.map((one) => (one === rule ? { ...rule, separator } : one)));
  };
  return (
    <label className="mt-0.5 flex items-center gap-1 text-xs font-normal text-soft">
      between items
      <input
        className="figures min-h-6 w-10 rounded border border-line bg-raised px-1 text-center text-ink"
        value={rule.separator ?? ','}
        maxLength={8}
        spellCheck={false}
        onFocus={(event) => event.target.select()}
        onChange={(event) => set(event.target.value)}
      />
    </label>
  );
}
