import { parsedJson } from '@yucca/contract';
import type { FieldRule } from '@yucca/contract';
import { readPosition } from '../geo/geo-point.ts';
import { readDate, readDateBy } from './dates.ts';
import { readNumber } from './numbers.ts';
import { readPositionAs } from './positions.ts';

const BOOLEANS: Readonly<Record<string, boolean>> = {
  true: true,
  yes: true,
  y: true,
  on: true,
  '1': true,
  false: false,
  no: false,
  n: false,
  off: false,
  '0': false,
};

export function readBoolean(text: string): boolean | undefined {
  const word = text.trim().toLowerCase();
  return Object.hasOwn(BOOLEANS, word) ? BOOLEANS[word] : undefined;
}

function readJson(text: string): unknown {
  return /^\s*[[{]/.test(text) ? parsedJson(text) : undefined;
}

/** What each coercion makes of a text; undefined = it cannot be read so. A new one is a line here, and a name there. */
const READ: Readonly<Record<FieldRule['as'], (text: string, rule: FieldRule) => unknown>> = {
  number: (text, { decimal }) => readNumber(text, decimal),
  boolean: readBoolean,
  date: (text, { format }) => (format === undefined ? readDate(text) : readDateBy(text, format)),
  json: readJson,
  text: (text) => text,
  list: (text, { separator = ',' }) => {
    const items = text.split(separator).map((item) => item.trim());
    return items.filter((item) => item !== '');
  },
  position: (text, { order }) => readPositionAs(text, order),
};

const FITS: Readonly<Record<FieldRule['as'], (value: unknown) => boolean>> = {
  number: (value) => typeof value === 'number',
  boolean: (value) => typeof value === 'boolean',
  date: (value) => typeof value === 'string' && readDate(value) === value,
  json: (value) => typeof value === 'object',
  text: (value) => typeof value === 'string',
  list: Array.isArray,
  position: (value) => !Array.isArray(value) && readPosition(value) !== null,
};

/** Whether a value is already what a rule asks for. */
export function isCoerced({ as }: FieldRule, value: unknown): boolean {
  return FITS[as](value);
}

/** Reads one value by a rule. Returns the value itself where it is right already or cannot be read so. */
export function coerce(rule: FieldRule, value: unknown): unknown {
  if (value === null || isCoerced(rule, value)) return value;
  if (typeof value === 'object') return rule.as === 'position' ? (readPositionAs(value, rule.order) ?? value) : value;
  if (rule.as === 'boolean' && typeof value === 'number') return value === 1 ? true : value === 0 ? false : value;
  const isEpoch = rule.as === 'date' && typeof value === 'number' && rule.format !== undefined;
  if (typeof value !== 'string' && rule.as !== 'text' && !isEpoch) return value;
  const read = READ[rule.as](String(value), rule);
  return read === undefined ? value : read;
}
