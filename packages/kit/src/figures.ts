const numbers = new Intl.NumberFormat('en', { maximumFractionDigits: 2 });

/** "3,012". */
export const count = (value: number): string => numbers.format(value);

/** "1 result", "3,012 results". */
export const counted = (value: number, one: string, many = `${one}s`): string =>
  `${count(value)} ${value === 1 ? one : many}`;

const money = new Map<string, Intl.NumberFormat>();

/** "£4.50". */
export function price(value: number, currency: string): string {
  let format = money.get(currency);
  if (!format) money.set(currency, (format = new Intl.NumberFormat('en', { style: 'currency', currency })));
  return format.format(value);
}

/** "850 m", "12.4 km". */
export function distance(metres: number): string {
  if (metres < 995) return `${Math.round(metres / 10) * 10} m`;
  const km = metres / 1000;
  return `${km < 100 ? Math.round(km * 10) / 10 : Math.round(km)} km`;
}

/** What a number says; `currency` (ISO 4217) is what it is counted in, if in any. */
export function figureText({ value }: { value: number }, currency: string | null = null): string {
  return currency === null ? count(value) : price(value, currency);
}
