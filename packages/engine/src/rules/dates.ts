import { parse } from 'date-fns/parse';

/**
 * Dates as people write them. A pattern is one of Unicode's (UTS 35, part 4), read by date-fns. A column has one
 * pattern: `8/28/1998` anywhere in it says that its months come first.
 */

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

/**
 * The date in a text as ISO 8601: `2026-05-01` and such with a time, `2026/5/1`, `1.5.2026`, `1 May 2026`, `May 1,
 * 2026`. Days and months with slashes (`5/1/2026`) are read only where one of them cannot be a month.
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

/** Two-digit years are looked for around it: 98 is 1998, 12 is 2012, whenever the file is loaded. */
const REFERENCE = new Date(2020, 0, 1);
const two = (number: number): string => String(number).padStart(2, '0');

/** Seconds and milliseconds since 1970, as dates from 1973 to 2128 have them. */
const EPOCHS: Readonly<Record<string, { pattern: RegExp; unitMs: number }>> = {
  t: { pattern: /^-?\d{1,11}$/, unitMs: 1_000 },
  T: { pattern: /^-?\d{1,14}$/, unitMs: 1 },
};

/** The date of a text or number that is written by a pattern, as ISO 8601; undefined when it is not. */
export function readDateBy(value: string | number, format: string): string | undefined {
  const text = String(value).trim();
  const epoch = Object.hasOwn(EPOCHS, format) ? EPOCHS[format]! : null;
  if (epoch !== null) {
    if (!epoch.pattern.test(text)) return undefined;
    const date = new Date(Number(text) * epoch.unitMs);
    return Number.isNaN(date.getTime()) ? undefined : date.toISOString();
  }
  if (text.length > 60) return undefined;
  const date = parsed(text, format);
  if (date === null) return undefined;
  const year = date.getFullYear();
  if (Number.isNaN(date.getTime()) || year < 1000 || year > 9999) return undefined;
  const day = `${year}-${two(date.getMonth() + 1)}-${two(date.getDate())}`;
  if (!/[HhKk]/.test(format.replace(/'[^']*'/g, ''))) return day;
  const seconds = date.getSeconds() > 0 ? `:${two(date.getSeconds())}` : '';
  return `${day}T${two(date.getHours())}:${two(date.getMinutes())}${seconds}`;
}

/** The date; null when the pattern is none. */
function parsed(text: string, format: string): Date | null {
  try {
    return parse(text, format, REFERENCE);
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}

/** Whether a text is a pattern that dates can be read by. */
export const isDatePattern = (format: string): boolean =>
  Object.hasOwn(EPOCHS, format) ||
  (/(^|[^A-Za-z])(y{2,4}|u{4}|R{4})|[Md](y{2,4})/.test(format) && parsed('', format) !== null);

const DAYS = [
  'yyyy-M-d',
  'yyyy/M/d',
  'yyyy.M.d',
  'yyyyMMdd',
  'M/d/yyyy',
  'd/M/yyyy',
  'd.M.yyyy',
  'd-M-yyyy',
  'M-d-yyyy',
  'M/d/yy',
  'd/M/yy',
  'd.M.yy',
  'MMM d yyyy',
  'MMM d, yyyy',
  'd MMM yyyy',
  'd-MMM-yyyy',
  'd-MMM-yy',
  'MMMM d, yyyy',
  'MMMM d yyyy',
  'd MMMM yyyy',
  'EEE, d MMM yyyy',
  "RRRR-'W'II",
  "RRRR'W'II",
];
/** Patterns that are tried on a column. */
const PATTERNS = [
  ...DAYS,
  ...['yyyy/M/d', 'M/d/yyyy', 'd/M/yyyy', 'd.M.yyyy', 'd.M.yy', 'M/d/yy', 'd MMM yyyy'].flatMap((day) => [
    `${day} H:mm`,
    `${day} H:mm:ss`,
    `${day} h:mm a`,
  ]),
];

/** The patterns by which every value of a column is a date, but for those that read the same as one before. */
export function datePatternsOf(values: readonly string[]): string[] {
  const different = [...new Set(values.map((value) => value.trim()))];
  if (different.some((value) => value.length > 40 || !/\d/.test(value))) return [];
  const read = new Map<string, string>();
  for (const format of PATTERNS) {
    const dates: string[] = [];
    for (const value of different) {
      const date = readDateBy(value, format);
      if (date === undefined) break;
      dates.push(date);
    }
    if (dates.length < different.length) continue;
    const all = dates.join();
    if (![...read.values()].includes(all)) read.set(format, all);
  }
  return [...read.keys()];
}

/** Names of fields that hold a moment. */
const MOMENT =
  /(^|[^a-z])(date|time|timestamp|created|updated|modified|published|released|expires|since|epoch)|(At|_at| at|On|_on)$/;

/** Whether a column of numbers counts time since 1970, and in what. Its name has to say that it is one of time. */
export function epochOf(field: string, values: readonly (string | number)[]): 't' | 'T' | null {
  if (!MOMENT.test(field) && !MOMENT.test(field.toLowerCase())) return null;
  const within = (from: number, to: number): boolean =>
    values.every((value) => /^\d+$/.test(String(value).trim()) && Number(value) >= from && Number(value) <= to);
  if (within(1e8, 5e9)) return 't';
  return within(1e11, 5e12) ? 'T' : null;
}
