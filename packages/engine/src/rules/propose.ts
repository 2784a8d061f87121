import { parsedJson } from '@yucca/contract';
import type { FieldRule, RecordJson } from '@yucca/contract';
import { readBoolean } from './coercions.ts';
import { datePatternsOf, epochOf, readDate } from './dates.ts';
import { notationOf } from './numbers.ts';
import { proposePositions } from './propose-positions.ts';

/** A rule worth having for a column, and why. */
export interface RuleProposal {
  rule: FieldRule;
  reason: string;
  /** The values leave a doubt: another proposal for the same field fits as well, and a person has to say which. */
  isDoubtful?: true;
}

const ENOUGH = 2;
const WORDS_OF_BOOLEANS = /^(true|false|yes|no)$/i;
/** A number that JSON would have written without quotes, had it been meant as one. */
const PLAIN_NUMBER = /^-?(0|[1-9]\d*)(\.\d+)?$/;

interface Column {
  field: string;
  /** Its texts that are not empty. */
  texts: string[];
  /** The same with its numbers. */
  values: (string | number)[];
  /** From a format that has types of its own: a text there was meant to be one. */
  isTyped: boolean;
}

type Propose = (column: Column) => RuleProposal[];

const all = (values: readonly string[], fits: (value: string) => boolean): boolean => values.every(fits);

const quoted = (values: readonly string[]): string =>
  `${values
    .slice(0, 3)
    .map((value) => `“${value.slice(0, 20)}”`)
    .join(', ')}${values.length > 3 ? ` and ${values.length - 3} more` : ''}`;

const booleans: Propose = ({ field, texts }) =>
  all(texts, (value) => WORDS_OF_BOOLEANS.test(value.trim()) && readBoolean(value) !== undefined)
    ? [{ rule: { field, as: 'boolean' }, reason: 'every value is true or false, yes or no' }]
    : [];

const epochs: Propose = ({ field, values }) => {
  const format = epochOf(field, values);
  if (format === null) return [];
  const unit = format === 't' ? 'seconds' : 'milliseconds';
  return [
    { rule: { field, as: 'date', format }, reason: `its name says time, and its numbers are ${unit} since 1970` },
  ];
};

const numbers: Propose = ({ field, texts, isTyped }) => {
  const notation = notationOf(texts);
  if (notation === null || (isTyped && all(texts, (text) => PLAIN_NUMBER.test(text.trim())))) return [];
  const { decimal, unit, misfits } = notation;
  const facts = [
    misfits.length === 0 ? 'every value is a number' : `every value but ${quoted(misfits)} is a number`,
    ...(unit === '' ? [] : [`in ${unit}`]),
    ...(decimal === ',' ? ['the comma is the decimal sign'] : []),
  ];
  return [
    {
      rule: { field, as: 'number', ...(decimal === ',' ? { decimal } : {}), ...(unit === '' ? {} : { unit }) },
      reason: facts.join(', '),
    },
  ];
};

const dates: Propose = ({ field, texts }) => {
  if (all(texts, (text) => readDate(text) !== undefined))
    return all(texts, (text) => readDate(text) === text)
      ? []
      : [{ rule: { field, as: 'date' }, reason: 'every value is a date; ISO dates sort and filter' }];
  const patterns = datePatternsOf(texts);
  return patterns.map((format) => ({
    rule: { field, as: 'date', format },
    reason:
      patterns.length === 1
        ? `every value is a date written ${format}`
        : `every value is a date, written ${patterns.join(' or ')}: choose which`,
    ...(patterns.length === 1 ? {} : { isDoubtful: true }),
  }));
};

const documents: Propose = ({ field, texts }) =>
  all(texts, isJson) ? [{ rule: { field, as: 'json' }, reason: 'every value is a JSON list or object' }] : [];

const lists: Propose = ({ field, texts }) => {
  const separator = separatorOf(texts);
  if (separator === null) return [];
  return [
    {
      rule: { field, as: 'list', ...(separator === ',' ? {} : { separator }) },
      reason: `short values with “${separator.trim()}” between them, which come back in other records`,
    },
  ];
};

/** Digits of a day without anything between them are a number to everybody but whoever reads the column's name. */
const compactDays: Propose = ({ field, texts }) =>
  all(texts, (text) => /^(1[89]|20)\d{6}$/.test(text.trim())) && datePatternsOf(texts).includes('yyyyMMdd')
    ? [{ rule: { field, as: 'date', format: 'yyyyMMdd' }, reason: 'every value is a date written yyyyMMdd' }]
    : [];

/** The first kind that fits a column wins. */
const KINDS: readonly Propose[] = [booleans, epochs, compactDays, numbers, dates, documents, lists];

/** JSON says itself what is true, a number or a list. */
const KINDS_OF_TYPED: readonly Propose[] = [epochs, numbers, dates];

function isJson(text: string): boolean {
  return /^\s*[[{]/.test(text) && parsedJson(text) !== undefined;
}

/** `8,000,000` and `1.234,5`: signs that part thousands, not items. */
const GROUPED_NUMBER = /^\D*\d{1,3}([.,]\d{3})+([.,]\d+)?\D*$/;

/** What parts lists of short values: the items repeat from record to record, as the words of sentences do not. */
export function separatorOf(values: readonly string[]): string | null {
  for (const separator of ['|', ';', ', ', ',']) {
    const split = values.map((value) => value.split(separator).map((item) => item.trim()));
    const parted = split.filter((items) => items.length > 1);
    if (parted.length < values.length * 0.2 || parted.length < ENOUGH) continue;
    if (separator === ',' && values.filter((value) => GROUPED_NUMBER.test(value)).length > parted.length / 2) continue;
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

/** What the texts of one column are, as in `proposeRules`. */
export function proposeForColumn(field: string, texts: readonly string[]): RuleProposal[] {
  const column = { field, texts: [...texts], values: [...texts], isTyped: false };
  return proposePositions(
    texts.map((text) => ({ [field]: text })),
    [field],
  ).concat([...KINDS].flatMap((propose) => propose(column)));
}

/**
 * Which values of a sample of rows are numbers, dates, lists, positions and so on, by the column. `isTyped`: they come
 * from a format with types of its own (JSON), where a text of plain digits was meant to be one. Where several rules of
 * one field are in doubt, a person has to choose.
 */
export function proposeRules(
  sample: readonly RecordJson[],
  fields: readonly string[],
  { isTyped = false }: { isTyped?: boolean } = {},
): RuleProposal[] {
  const positions = proposePositions(sample, fields);
  const taken = new Set(positions.filter(({ rule }) => rule.from === undefined).map(({ rule }) => rule.field));
  const read = fields.flatMap((field) => {
    if (taken.has(field)) return [];
    const values = sample
      .map((record) => (Object.hasOwn(record, field) ? record[field] : undefined))
      .filter(
        (value): value is string | number =>
          typeof value === 'number' || (typeof value === 'string' && value.trim() !== ''),
      );
    const texts = values.filter((value): value is string => typeof value === 'string');
    if (values.length < ENOUGH) return [];
    const kinds = isTyped ? KINDS_OF_TYPED : KINDS;
    for (const propose of texts.length < ENOUGH ? [epochs] : kinds) {
      const found = propose({ field, texts, values, isTyped });
      if (found.length > 0) return found;
    }
    return [];
  });
  return [...read, ...positions];
}
