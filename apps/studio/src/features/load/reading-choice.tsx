import type { FieldRule } from '@yucca/contract';
import type { RuleProposal } from '@yucca/engine/rules';

/** What a column can be read as without any proposal. */
const PLAIN: [as: FieldRule['as'], words: string][] = [
  ['number', 'number'],
  ['boolean', 'yes or no'],
  ['date', 'date'],
  ['list', 'list'],
  ['json', 'JSON'],
  ['position', 'position'],
];

/** What a rule reads a value as, in a few words: "number in ft", "date (M/d/yyyy)". */
export function readingWords({ as, unit, format, order, decimal }: FieldRule): string {
  const words = PLAIN.find(([one]) => one === as)?.[1] ?? as;
  if (unit !== undefined) return `${words} in ${unit}`;
  if (decimal === ',') return `${words} (1,5)`;
  if (format === 't' || format === 'T') return `${words} (${format === 't' ? 'seconds' : 'milliseconds'} since 1970)`;
  if (format !== undefined) return `${words} (${format})`;
  if (order !== undefined) return `${words} (${order === 'lat-first' ? 'lat, lng' : 'lng, lat'})`;
  return words;
}

/** What tells the readings of one column apart. */
const valueOf = ({ as, format, order }: FieldRule): string => [as, format ?? order].filter(Boolean).join(' ');

/** The readings a column can be given: those proposed for it, then the others of their kind. */
export function readingsOf(
  field: string,
  proposals: readonly RuleProposal[],
  rules: readonly FieldRule[],
): FieldRule[] {
  const proposed = proposals.map(({ rule }) => rule).filter((rule) => rule.field === field && rule.from === undefined);
  const others = PLAIN.map(([as]): FieldRule => ({ field, as })).filter(
    ({ as }) => !proposed.some((rule) => rule.as === as),
  );
  const known = [...proposed, ...others];
  const now = rules.find((rule) => rule.field === field);
  return now === undefined || known.some((rule) => valueOf(rule) === valueOf(now)) ? known : [now, ...known];
}

/** The choice, under a column's name, of what its values are read as. */
export function ReadingChoice({
  field,
  isTyped,
  rules,
  proposals,
  onRules,
}: {
  field: string;
  /** Its format has types: without a choice a value stays as it is. */
  isTyped: boolean;
  rules: readonly FieldRule[];
  proposals: readonly RuleProposal[];
  onRules: (rules: FieldRule[]) => void;
}) {
  const readings = readingsOf(field, proposals, rules);
  const now = rules.find((rule) => rule.field === field);
  const choose = (value: string): void => {
    const rest = rules.filter((rule) => rule.field !== field);
    const chosen = readings.find((rule) => valueOf(rule) === value);
    onRules(chosen === undefined ? rest : [...rest, chosen]);
  };
  return (
    <select
      aria-label={`Read ${field} as`}
      className="mt-0.5 block min-h-6 rounded border border-line bg-raised text-xs font-normal"
      value={now === undefined ? '' : valueOf(now)}
      onChange={(event) => choose(event.target.value)}
    >
      <option value="">{isTyped ? 'as it is' : 'text'}</option>
      {readings.map((rule) => (
        <option key={valueOf(rule)} value={valueOf(rule)}>
          {readingWords(rule)}
        </option>
      ))}
    </select>
  );
}
