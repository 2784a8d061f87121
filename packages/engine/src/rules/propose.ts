import { parsedJson } from '@yucca/contract';
import type { FieldRule, RecordJson } from '@yucca/contract';
import { readBoolean, readDate, readNumber } from './coercions.ts';

/** A rule worth having for a column of text, and why. */
export interface RuleProposal {
  rule: FieldRule;
  reason: string;
}

const ENOUGH = 2;
/** Digits that are a name, not a quantity: leading zeros, or longer than a number holds exactly. */
const NAME_OF_DIGITS = /^[+-]?0\d|^\d{16,}$/;
const PLAIN_NUMBER = /^[-+]?(\d{1,3}(,\d{3})+|\d+)(\.\d+)?([eE][-+]?\d+)?$|^[-+]?\d+,\d{1,2}$/;
const WORDS_OF_BOOLEANS = /^(true|false|yes|no)$/i;

type Propose = (values: string[], field: string) => RuleProposal | null;

const all = (values: string[], fits: (value: string) => boolean): boolean => values.every(fits);

/** Looks at the texts of one column. The first kind that fits every one of them wins. */
const KINDS: readonly Propose[] = [
  (values, field) =>
    all(values, (value) => WORDS_OF_BOOLEANS.test(value.trim()) && readBoolean(value) !== undefined)
      ? { rule: { field, as: 'boolean' }, reason: 'every value is true or false, yes or no' }
      : null,
  (values, field) =>
    all(
      values,
      (value) =>
        PLAIN_NUMBER.test(value.trim()) && !NAME_OF_DIGITS.test(value.trim()) && readNumber(value) !== undefined,
    )
      ? { rule: { field, as: 'number' }, reason: 'every value is a number' }
      : null,
  (values, field) =>
    all(values, (value) => readDate(value) !== undefined) && !all(values, (value) => readDate(value) === value)
      ? { rule: { field, as: 'date' }, reason: 'every value is a date; ISO dates sort and filter' }
      : null,
  (values, field) =>
    all(values, isJson) ? { rule: { field, as: 'json' }, reason: 'every value is a JSON list or object' } : null,
  (values, field) => {
    const separator = separatorOf(values);
    if (separator === null) return null;
    return {
      rule: { field, as: 'list', ...(separator === ',' ? {} : { separator }) },
      reason: `short values with “${separator.trim()}” between them, which come back in other records`,
    };
  },
];

function isJson(text: string): boolean {
  return /^\s*[[{]/.test(text) && parsedJson(text) !== undefined;
}

/** What parts lists of short values: the items repeat from record to record, as the words of sentences do not. */
export function separatorOf(values: readonly string[]): string | null {
  for (const separator of ['|', ';', ', ', ',']) {
    const split = values.map((value) => value.split(separator).map((item) => item.trim()));
    const parted = split.filter((items) => items.length > 1);
    if (parted.length < values.length * 0.2 || parted.length < ENOUGH) continue;
    const items = split.flat().filter((item) => item !== '');
    const short = items.every((item) => item.length <= 30 && item.split(/\s+/).length <= 3);
    // The parts of an address repeat too, but not the first of them.
    const repeats = (some: readonly string[]): boolean => new Set(some).size <= some.length * 0.6;
    // Commas stand in sentences, too; there the items must come back much more often.
    const few = !separator.startsWith(',') || new Set(items).size <= values.length / 2;
    if (short && few && repeats(items) && repeats(split.map(([first = '']) => first))) return separator.trim();
  }
  return null;
}

/** Which texts of a sample of rows are numbers, dates, lists and so on. For a table read from CSV. */
export function proposeRules(sample: readonly RecordJson[], fields: readonly string[]): RuleProposal[] {
  return fields.flatMap((field) => {
    const values = sample
      .map((record) => (Object.hasOwn(record, field) ? record[field] : undefined))
      .filter((value): value is string => typeof value === 'string' && value.trim() !== '');
    if (values.length < ENOUGH) return [];
    for (const propose of KINDS) {
      const found = propose(values, field);
      if (found) return [found];
    }
    return [];
  });
}
