import type { NumberFormat } from '@yucca/contract';

/** Makes a formatter of a kind once for each language, or whatever else it depends on. */
function kept<A extends string[]>(make: (...on: A) => Intl.NumberFormat): (...on: A) => Intl.NumberFormat {
  const made = new Map<string, Intl.NumberFormat>();
  return (...on) => {
    const key = on.join();
    const found = made.get(key) ?? make(...on);
    made.set(key, found);
    return found;
  };
}

const numbers = kept(
  (locale, currency, decimals) =>
    new Intl.NumberFormat(locale, {
      ...(currency ? { style: 'currency', currency } : { maximumFractionDigits: 2 }),
      ...(decimals && { minimumFractionDigits: Number(decimals), maximumFractionDigits: Number(decimals) }),
    }),
);
const lengths = kept(
  (unit, locale) => new Intl.NumberFormat(locale, { style: 'unit', unit, maximumFractionDigits: 1 }),
);

/** "3,012". `locale`: how numbers are written there (BCP 47). */
export const count = (value: number, locale = 'en'): string => figure(value, null, locale);

/** "1 result", "3,012 results". */
export const counted = (value: number, one: string, many = `${one}s`): string =>
  `${count(value)} ${value === 1 ? one : many}`;

/** How a number is written: in a currency (ISO 4217), or as its field is. */
export type FigureFormat = string | NumberFormat | null | undefined;

/** "£4.50", "12.0 cm": a number as it is written. */
export function figure(value: number, format: FigureFormat, locale = 'en'): string {
  const { currency = '', unit, decimals = '' } = typeof format === 'string' ? { currency: format } : (format ?? {});
  const text = numbers(locale, currency, String(decimals)).format(value);
  return unit ? `${text}\u00a0${unit}` : text;
}

/** "850 m", "12.4 km". */
export function distance(metres: number, locale = 'en'): string {
  if (metres < 995) return lengths('meter', locale).format(Math.round(metres / 10) * 10);
  const km = metres / 1000;
  return lengths('kilometer', locale).format(km < 100 ? km : Math.round(km));
}

/** What a number says, in English. */
export const figureText = ({ value }: { value: number }, format?: FigureFormat): string => figure(value, format);
