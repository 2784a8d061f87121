import { parsedJson } from '@yucca/contract';
import type { FieldRule } from '@yucca/contract';

/** Reads a text as something else; undefined = it cannot be read so. */
type Read = (text: string, separator: string) => unknown;

/**
 * The number a text holds: `1987*`, `c. 1987`, `€ 1,234.50`, `1.234,5` and `12 cm` hold one; `1987/88` holds two, so
 * none. Of comma and point the later one is the decimal sign, unless it stands before exactly three digits.
 */
export function readNumber(text: string): number | undefined {
  const found = /^[^\d]*?([-−]?\d(?:[\d.,'\u00a0\u202f ]*\d)?(?:[eE][+-]?\d+)?)[^\d]*$/.exec(text.trim());
  if (!found) return undefined;
  const digits = found[1]!.replace(/^−/, '-').replace(/['\u00a0\u202f ]/g, '');
  const value = Number(withPoint(digits));
  return Number.isFinite(value) ? value : undefined;
}

function withPoint(digits: string): string {
  const comma = digits.lastIndexOf(',');
  const point = digits.lastIndexOf('.');
  if (comma === -1 && digits.indexOf('.') === point) return digits;
  if (comma !== -1 && point !== -1) {
    return comma > point ? digits.replaceAll('.', '').replace(',', '.') : digits.replaceAll(',', '');
  }
  const sign = comma === -1 ? '.' : ',';
  const thousands = /^-?\d{1,3}([.,]\d{3})+$/.test(digits);
  if (thousands || digits.indexOf(sign) !== digits.lastIndexOf(sign)) return digits.replaceAll(sign, '');
  return digits.replace(',', '.');
}

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

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

/**
 * The date in a text as ISO 8601: `2026-05-01` and such with a time, `2026/5/1`, `1.5.2026`, `1 May 2026`, `May 1, 2026`.
 * Days and months with slashes (`5/1/2026`) are read only where one of them cannot be a month.
 */
export function readDate(text: string): string | undefined {
  const trimmed = text.trim();
  const iso = /^(\d{4})-(\d{2})-(\d{2})([T ].+)?$/.exec(trimmed);
  if (iso) {
    if (iso[4] === undefined) return isoDay(Number(iso[1]), Number(iso[2]), Number(iso[3]));
    const time = Date.parse(trimmed.replace(' ', 'T'));
    return Number.isNaN(time) ? undefined : trimmed.replace(' ', 'T');
  }
  const yearFirst = /^(\d{4})[/.](\d{1,2})[/.](\d{1,2})$/.exec(trimmed);
  if (yearFirst) return isoDay(Number(yearFirst[1]), Number(yearFirst[2]), Number(yearFirst[3]));
  const yearLast = /^(\d{1,2})([./-])(\d{1,2})\2(\d{4})$/.exec(trimmed);
  if (yearLast) return dayOrMonthFirst(Number(yearLast[1]), Number(yearLast[3]), Number(yearLast[4]), yearLast[2]!);
  const words = /^(?:(\d{1,2})\.? )?([A-Za-z]{3})[a-z]*\.? (?:(\d{1,2}),? )?(\d{4})$/.exec(trimmed);
  const month = words ? MONTHS.indexOf(words[2]!.toLowerCase()) + 1 : 0;
  if (!words || month === 0 || (words[1] === undefined) === (words[3] === undefined)) return undefined;
  return isoDay(Number(words[4]), month, Number(words[1] ?? words[3]));
}

function dayOrMonthFirst(first: number, second: number, year: number, sign: string): string | undefined {
  if (sign === '.' || first > 12 || first === second) return isoDay(year, second, first);
  return second > 12 ? isoDay(year, first, second) : undefined;
}

function isoDay(year: number, month: number, day: number): string | undefined {
  const date = new Date(Date.UTC(year, month - 1, day));
  if (date.getUTCMonth() !== month - 1 || date.getUTCDate() !== day || year < 1000) return undefined;
  return date.toISOString().slice(0, 10);
}

function readJson(text: string): unknown {
  return /^\s*[[{]/.test(text) ? parsedJson(text) : undefined;
}

/** What each coercion makes of a text. A new coercion is a line here and a name in the contract. */
const READ: Readonly<Record<FieldRule['as'], Read>> = {
  number: readNumber,
  boolean: readBoolean,
  date: readDate,
  json: readJson,
  text: (text) => text,
  list: (text, separator) => {
    const items = text.split(separator).map((item) => item.trim());
    return items.filter((item) => item !== '');
  },
};

const FITS: Readonly<Record<FieldRule['as'], (value: unknown) => boolean>> = {
  number: (value) => typeof value === 'number',
  boolean: (value) => typeof value === 'boolean',
  date: (value) => typeof value === 'string' && readDate(value) === value,
  json: (value) => typeof value === 'object',
  text: (value) => typeof value === 'string',
  list: Array.isArray,
};

/** Whether a value is already what a rule asks for. */
export function isCoerced({ as }: FieldRule, value: unknown): boolean {
  return FITS[as](value);
}

/** Reads one value by a rule. Answers the value itself where it is right already or cannot be read so. */
export function coerce(rule: FieldRule, value: unknown): unknown {
  if (value === null || typeof value === 'object' || isCoerced(rule, value)) return value;
  if (rule.as === 'boolean' && typeof value === 'number') return value === 1 ? true : value === 0 ? false : value;
  if (typeof value !== 'string' && rule.as !== 'text') return value;
  const read = READ[rule.as](String(value), rule.separator ?? ',');
  return read === undefined ? value : read;
}
