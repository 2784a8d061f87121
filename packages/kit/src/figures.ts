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

const numbers = kept((locale) => new Intl.NumberFormat(locale, { maximumFractionDigits: 2 }));
const money = kept((currency, locale) => new Intl.NumberFormat(locale, { style: 'currency', currency }));
const lengths = kept(
  (unit, locale) => new Intl.NumberFormat(locale, { style: 'unit', unit, maximumFractionDigits: 1 }),
);

/** "3,012". `locale`: how numbers are written there (BCP 47). */
export const count = (value: number, locale = 'en'): string => numbers(locale).format(value);

/** "1 result", "3,012 results". */
export const counted = (value: number, one: string, many = `${one}s`): string =>
  `${count(value)} ${value === 1 ? one : many}`;

/** "£4.50". */
export const price = (value: number, currency: string, locale = 'en'): string => money(currency, locale).format(value);

/** "850 m", "12.4 km". */
export function distance(metres: number, locale = 'en'): string {
  if (metres < 995) return lengths('meter', locale).format(Math.round(metres / 10) * 10);
  const km = metres / 1000;
  return lengths('kilometer', locale).format(km < 100 ? km : Math.round(km));
}

/** What a number says; `currency` (ISO 4217) is what it is counted in, if in any. */
export function figureText({ value }: { value: number }, currency: string | null = null): string {
  return currency === null ? count(value) : price(value, currency);
}
