import type { Collection, FieldRule, RecordJson } from '@yucca/contract';
import { isName } from '@yucca/contract';
import type { RuleProposal } from '@yucca/engine/rules';
import { KeyFinder, type KeyFacts } from '@yucca/engine/understand';
import { count, counted } from '@/ui/format';
import type { Inspection } from '@/inspect/inspect-file';
import type { KeyChecking } from './use-key-check';
import { readingWords } from './reading-choice';

/** The value of the key choice that stands for keys made from content. */
export const MADE_KEY = '\u0000made';

/** What will be read as what, and why; and what has to be chosen, because the values leave it open. */
export function RulesNote({
  rules,
  proposals,
  isTyped,
}: {
  rules: FieldRule[];
  proposals: RuleProposal[];
  isTyped: boolean;
}) {
  const open = proposals.filter(
    ({ rule, isDoubtful }, i) =>
      isDoubtful &&
      !rules.some(({ field }) => field === rule.field) &&
      proposals.findIndex((other) => other.rule.field === rule.field) === i,
  );
  const reasons = grouped(
    rules.map((rule) => {
      const proposed = proposals.find((one) => JSON.stringify(one.rule) === JSON.stringify(rule));
      return { field: rule.field, as: `${readingWords(rule)}${proposed ? ` (${proposed.reason})` : ''}` };
    }),
  );
  const nothing = isTyped ? '' : 'Every column is text. Choose under its name what it should be read as.';
  return (
    <>
      {open.map(({ rule, reason }) => (
        <p key={rule.field} className="mt-2">
          <strong className="font-medium">{rule.field}</strong>: {reason} under its name. Until then it is loaded as it
          is.
        </p>
      ))}
      {reasons.length === 0 ? (
        nothing !== '' && <p className="mt-2 text-soft">{nothing}</p>
      ) : (
        <p className="mt-2 text-soft">
          Read: {reasons.join('; ')}. What cannot be read so stays as it is. These rules hold for later loads, too.
        </p>
      )}
    </>
  );
}

/** Columns named before the others are only counted. */
const NAMED = 4;

/** "price, cost as number (every value is a number)": columns that are read alike are told together. */
function grouped(columns: readonly { field: string; as: string }[]): string[] {
  const alike = new Map<string, string[]>();
  for (const { field, as } of columns) alike.set(as, [...(alike.get(as) ?? []), field]);
  return [...alike].map(([as, fields]) => {
    const more = fields.length - NAMED;
    return `${fields.slice(0, NAMED).join(', ')}${more > 0 ? ` and ${counted(more, 'more column')}` : ''} as ${as}`;
  });
}

export function nestExample(fields: readonly string[]): string {
  const [parent, child] = fields.find((field) => field.includes('.'))!.split('.', 2);
  return `${parent}.${child} → ${parent}: { ${child} }`;
}

/** What is known of a key: why it is proposed, or what it would cost. */
export function keyNote(
  key: string,
  { key: guess, records, isWhole }: Extract<Inspection, { ok: true }>,
  target: Collection | undefined,
  checking: KeyChecking,
): string {
  if (target)
    return `“${target.name}” tells its records apart by “${target.key}”. Rows without it get a key made from their content.`;
  const check = checking !== null && 'check' in checking ? checking.check : null;
  const going = checking !== null && check === null ? ` All rows are looked at: ${percent((checking as { share: number }).share)}.` : ''; // prettier-ignore
  const proposed = check?.guess ?? guess;
  if (key === proposed.field) return `${proposed.reason}${going}`;
  if (key === MADE_KEY)
    return `${proposed.field === null ? `${proposed.reason} ` : ''}The same row always gets the same key, so loading the file twice doubles nothing.${going}`;
  const known = check?.facts.get(key) ?? factsIn(records, key);
  const isAll = isWhole || check?.facts.has(key) === true;
  const of = `${isAll ? '' : 'the first '}${counted(known.records, 'row')}`;
  if (known.repeated > 0)
    return `${counted(known.repeated, 'row')} of ${of} repeat${known.repeated === 1 ? 's' : ''} a value: of rows with one key the last is kept, so ${count(known.records - known.repeated)} records would be left.`;
  return known.missing > 0
    ? 'Rows without it get a key made from their content.'
    : `It does not repeat in ${of}.${going}`;
}

const percent = (share: number): string => `${Math.round(share * 100)}%`;

function factsIn(records: readonly RecordJson[], key: string): KeyFacts {
  const finder = new KeyFinder([key]);
  for (const record of records) finder.add(record);
  return finder.facts().get(key) ?? { records: 0, missing: 0, repeated: 0 };
}

export function NameNote({
  name,
  target,
  other,
  onOther,
}: {
  name: string;
  target: Collection | undefined;
  other: string;
  onOther: () => void;
}) {
  if (!isName(name)) return <p className="mt-1 text-madder">Small letters, digits and hyphens, a letter first.</p>;
  if (!target) return <p className="mt-1 text-soft">A new collection. Its search page will be at /s/{name}.</p>;
  return (
    <p className="mt-1 text-soft">
      “{name}” is here already, with {counted(target.records, 'record')}. Rows with a known key replace their record,
      the others are added.{' '}
      <button type="button" className="link" onClick={onOther}>
        Make a new one, “{other}”
      </button>
    </p>
  );
}
