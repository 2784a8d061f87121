import { memoByObject } from '../memo/by-object.ts';
import type { ValueColumn } from './column.ts';

const ISO_DATE = /^\d{4}-\d{2}(-\d{2}([T ]\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2})?)?)?$/;

/**
 * Milliseconds of an ISO 8601 date or time; a date alone is midnight UTC, a time without a zone is UTC. NaN for others.
 */
export function parseDate(text: string): number {
  if (!ISO_DATE.test(text)) return Number.NaN;
  const zoned = /[T ]/.test(text) && !/(Z|[+-]\d{2}:?\d{2})$/.test(text) ? `${text}Z` : text;
  return Date.parse(zoned.replace(' ', 'T'));
}

export const DAY_MS = 86_400_000;

/**
 * By value of a column: what `parseDate` makes of its text. Made once: nearly every record of a list has a time of its
 * own, and parsing one takes a microsecond.
 */
export const timesOf = memoByObject((column: ValueColumn): Float64Array => {
  const { starts, bytes } = column.written();
  const times = new Float64Array(column.size);
  for (let value = 0; value < times.length; value++) {
    const plain = plainTime(bytes, starts[value]!, starts[value + 1]!);
    times[value] = Number.isNaN(plain) ? parseDate(column.text(value)) : plain;
  }
  return times;
});

/** Of each month; the 29th of February is read as any other text. */
const MONTH_DAYS = [0, 31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

const [ZERO, HYPHEN, COLON, POINT, T, Z] = [...'0-:.TZ'].map((char) => char.charCodeAt(0)) as [number, number, number, number, number, number]; // prettier-ignore

/**
 * The time of a text in one of the two ways that nearly all are written in, `2026-05-04` and `2026-05-04T10:20:30Z`
 * (with or without thousandths), read from its bytes; NaN for any other.
 */
function plainTime(bytes: Uint8Array, from: number, to: number): number {
  const length = to - from;
  if (length !== 10 && length !== 20 && length !== 24) return Number.NaN;
  if (bytes[from + 4] !== HYPHEN || bytes[from + 7] !== HYPHEN) return Number.NaN;
  const year = 100 * pair(bytes, from) + pair(bytes, from + 2);
  const month = pair(bytes, from + 5);
  const day = pair(bytes, from + 8);
  if (!(month >= 1 && month <= 12 && day >= 1 && day <= MONTH_DAYS[month]!)) return Number.NaN;
  const midnight = daysFrom1970(year, month, day) * DAY_MS;
  if (length === 10) return midnight;
  const at = from + 11;
  const isTime = bytes[at - 1] === T && bytes[at + 2] === COLON && bytes[at + 5] === COLON && bytes[to - 1] === Z;
  const [hour, minute, second] = [pair(bytes, at), pair(bytes, at + 3), pair(bytes, at + 6)];
  if (!isTime || !(hour <= 23 && minute <= 59 && second <= 59)) return Number.NaN;
  const ms = midnight + ((hour * 60 + minute) * 60 + second) * 1_000;
  if (length === 20) return ms;
  return bytes[at + 8] === POINT ? ms + 10 * pair(bytes, at + 9) + digit(bytes[at + 11]!) : Number.NaN;
}

/** The number of two digits; NaN when they are none. */
const pair = (bytes: Uint8Array, at: number): number => 10 * digit(bytes[at]!) + digit(bytes[at + 1]!);

const digit = (byte: number): number => (byte >= ZERO && byte <= ZERO + 9 ? byte - ZERO : Number.NaN);

/** Days from 1 January 1970 to a date of the Gregorian calendar (Howard Hinnant, days_from_civil). */
function daysFrom1970(year: number, month: number, day: number): number {
  const [y, m] = month <= 2 ? [year - 1, month + 9] : [year, month - 3];
  const era = Math.floor(y / 400);
  const yearOfEra = y - era * 400;
  const dayOfYear = Math.floor((153 * m + 2) / 5) + day - 1;
  return (
    era * 146_097 + yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear - 719_468
  );
}
