import type { FieldRule, RecordJson } from '@yucca/contract';
import { applyRules, type RuleProposal } from '@yucca/engine/rules';
import clsx from 'clsx';
import { ReadingChoice } from './reading-choice';

const ROWS = 6;

/** A value as a table cell shows it: text as it is, a plain list with commas, anything else as JSON. */
export function cellText(value: unknown): string {
  if (value === undefined || value === null) return '';
  if (Array.isArray(value) && value.every((item) => typeof item !== 'object')) return value.join(', ');
  return typeof value === 'string' ? value : typeof value === 'object' ? JSON.stringify(value) : String(value);
}

/** A position as the table shows it: its latitude and its longitude. */
function positionText(value: unknown): string {
  const { lat, lng } = (value ?? {}) as { lat?: number; lng?: number };
  return lat === undefined || lng === undefined ? '' : `${lat}, ${lng}`;
}

export interface SampleTableProps {
  sample: RecordJson[];
  fields: string[];
  keyField: string;
  rules?: FieldRule[];
  proposals?: RuleProposal[];
  /** The format has types of its own, so only columns with a proposal are asked about. */
  isTyped?: boolean;
  /** Present where columns may be read as something else. */
  onRules?: (rules: FieldRule[]) => void;
}

/** The first rows of a file, as they will be read. */
export function SampleTable({
  sample,
  fields,
  keyField,
  rules = [],
  proposals = [],
  isTyped = false,
  onRules,
}: SampleTableProps) {
  const rows = sample.slice(0, ROWS).map((record) => applyRules(record, rules));
  // Positions made of two columns stand behind them, and can be left out.
  const made = proposals.map(({ rule }) => rule).filter(({ from }) => from !== undefined);
  const isAsked = (field: string): boolean =>
    field !== keyField && (!isTyped || proposals.some(({ rule }) => rule.field === field));
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
                {onRules && isAsked(field) && <ReadingChoice {...{ field, isTyped, rules, proposals, onRules }} />}
                {onRules && rules.some((rule) => rule.field === field && rule.as === 'list') && (
                  <Separator field={field} rules={rules} onRules={onRules} />
                )}
              </th>
            ))}
            {made.map((rule) => (
              <th
                key={`made ${rule.field}`}
                scope="col"
                className="px-3 py-1.5 align-top font-medium whitespace-nowrap"
              >
                {rule.field}
                <label className="mt-0.5 flex min-h-6 items-center gap-1 text-xs font-normal">
                  <input
                    type="checkbox"
                    disabled={onRules === undefined}
                    checked={rules.some((one) => one.field === rule.field)}
                    onChange={(event) => {
                      const rest = rules.filter((one) => one.field !== rule.field);
                      onRules?.(event.target.checked ? [...rest, rule] : rest);
                    }}
                  />
                  made of {rule.from!.join(', ')}
                </label>
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
              {made.map(({ field }) => (
                <td key={`made ${field}`} className="figures px-3 py-1.5 whitespace-nowrap">
                  {positionText(record[field])}
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
