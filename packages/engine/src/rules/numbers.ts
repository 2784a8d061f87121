/**
 * Numbers as people write them. One value alone is often ambiguous (`46,888`), a column of them seldom: `48,25` beside
 * it says that its comma is a decimal sign.
 */

type Decimal = '.' | ',';

/** Signs that part thousands, besides the one of comma and point that is not the decimal sign. */
const SPACES = /['’ \u00a0\u2007\u2009\u202f]/g;

/** A number in parentheses is below zero, as accountants write it. */
const IN_PARENTHESES = /^\((.*)\)$/s;

/**
 * The number a text holds: `1987*`, `c. 1987`, `€ 1,234.50`, `1.234,5`, `(1,200)` and `12 cm` hold one; `1987/88` holds
 * two, so none. Without a `decimal` sign, of comma and point the later one is it, unless it stands before exactly three
 * digits; one before all digits is a decimal sign (`.097`), but not after a letter (`No.5`).
 */
export function readNumber(text: string, decimal?: Decimal): number | undefined {
  const trimmed = text.trim();
  const inside = IN_PARENTHESES.exec(trimmed)?.[1];
  const found =
    /^[^\d]*?([-−]?(?:(?<![A-Za-z])[.,])?\d(?:[\d.,'’ \u00a0\u2007\u2009\u202f]*\d)?(?:[eE][+-]?\d+)?)[^\d]*$/.exec(
      inside ?? trimmed,
    );
  if (!found) return undefined;
  const digits = found[1]!.replace(/^−/, '-').replace(SPACES, '');
  const value = Number(decimal === undefined ? withPoint(digits) : pointed(digits, decimal));
  if (!Number.isFinite(value)) return undefined;
  // A currency may stand between the sign and the number.
  const isNegative = inside !== undefined || /^[-−]\s*\p{Sc}/u.test(trimmed);
  return isNegative && value > 0 ? -value : value;
}

const pointed = (digits: string, decimal: Decimal): string =>
  decimal === '.' ? digits.replaceAll(',', '') : digits.replaceAll('.', '').replace(',', '.');

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

/** How the numbers of a column are written. */
export interface Notation {
  decimal: Decimal;
  /** What stands beside each of them: `%`, `ft`, `$`; empty when nothing does. */
  unit: string;
  /** Values that are no number in this notation, each once. */
  misfits: string[];
}

/** A number with at most a currency before it and a unit behind it. */
const WRITTEN =
  /^(\(?)\s*([-−+]?)\s*([A-Z]{0,3}\p{Sc}|[A-Z]{3}(?=\s))?\s*([-−+]?)([\d.,'’ \u00a0\u2007\u2009\u202f]*\d)([eE][+-]?\d{1,3})?(\s*)(\p{Sc}|[%‰°]|[\p{L}°µ][\p{L}°²³/]{0,7})?\s*(\)?)$/u;

/** Units that may follow a number without a space; anything else that does is a part of a name (`2D`, `12a`). */
const UNITS =
  /^(%|‰|°[CF]?|\p{Sc}|[mckdµn]?m|km|[mkµ]?g|t|lbs?|oz|ft|in|yd|mi|[mcdk]?l|[kM]?W|k?Wh|[kMG]?Hz|m?V|m?A|[KkMGT]i?B|ms|s|min|h|px|[cmk]?m[²³]|ha|km\/h|m\/s|EUR|USD|GBP|CHF)$/u;

/** Digits that are a name, not a quantity: leading zeros, or longer than a number holds exactly. */
const NAME_OF_DIGITS = /^0\d|^\d{16,}$/;

const GROUPED: Readonly<Record<Decimal, RegExp>> = {
  '.': /^(\d{1,3}([,'’ \u00a0\u2007\u2009\u202f]\d{2,3})*[,'’ \u00a0\u2007\u2009\u202f]\d{3}|\d+)?(\.\d+)?$/,
  ',': /^(\d{1,3}([.'’ \u00a0\u2007\u2009\u202f]\d{2,3})*[.'’ \u00a0\u2007\u2009\u202f]\d{3}|\d+)?(,\d+)?$/,
};

/** The share of values that must be numbers before a column is one of numbers. */
const NEARLY_ALL = 0.95;

/** The one notation of a column of texts; null when it is none of numbers. */
export function notationOf(values: readonly string[]): Notation | null {
  const written = values.map((value) => ({ value, parts: partsOf(value) }));
  const found = written.filter(({ parts }) => parts !== null) as { value: string; parts: Parts }[];
  if (found.length < values.length * NEARLY_ALL || found.length === 0) return null;
  if (found.some(({ parts }) => NAME_OF_DIGITS.test(parts.digits))) return null;
  const unit = mostFrequent(found.map(({ parts }) => parts.unit));
  const fits = (decimal: Decimal) =>
    found.filter(({ parts }) => parts.unit === unit && GROUPED[decimal].test(parts.digits));
  // Where both fit (`1,234` alone) the point is the decimal sign.
  const decimal: Decimal = fits(',').length > fits('.').length ? ',' : '.';
  const fitting = new Set(fits(decimal).map(({ value }) => value));
  if (values.filter((value) => fitting.has(value)).length < values.length * NEARLY_ALL) return null;
  return { decimal, unit, misfits: [...new Set(values.filter((value) => !fitting.has(value)))] };
}

interface Parts {
  digits: string;
  unit: string;
}

function partsOf(value: string): Parts | null {
  const found = WRITTEN.exec(value.trim());
  if (found === null) return null;
  const [, opened, , before = '', , digits = '', , space, behind = '', closed] = found;
  if ((opened === '') !== (closed === '') || (before !== '' && behind !== '')) return null;
  if (space === '' && behind !== '' && !UNITS.test(behind)) return null;
  return { digits, unit: before || behind };
}

function mostFrequent(texts: readonly string[]): string {
  const counts = new Map<string, number>();
  for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1);
  return [...counts].reduce((best, one) => (one[1] > best[1] ? one : best))[0];
}
