import type { FieldProfile } from '@yucca/contract';
import { count, counted } from '@/ui/format';

const TYPE_NAMES = { string: 'text', number: 'number', boolean: 'yes or no', null: 'null', object: 'object' } as const;

/** "text", "number and text", "list of text". */
export function typeWords({ types, lists, records, proposal }: FieldProfile): string {
  if (proposal.geo) return 'position';
  const names = (Object.entries(types) as [keyof typeof TYPE_NAMES, number][])
    .filter(([type]) => type !== 'null')
    .sort((a, b) => b[1] - a[1])
    .map(([type]) => TYPE_NAMES[type]);
  const words = names.join(' and ') || 'empty';
  return lists > records / 2 ? `list of ${words}` : words;
}

const short = new Intl.NumberFormat('en', { maximumSignificantDigits: 4 });
const year = new Intl.NumberFormat('en', { maximumFractionDigits: 0, useGrouping: false });

/** A number of a field; where all of them can be years, it is written like one. */
export function numberWords(value: number, { min, max }: { min: number; max: number }): string {
  const years = Number.isInteger(min) && Number.isInteger(max) && min >= 1000 && max <= 2100;
  return (years ? year : short).format(value);
}

/** "3,012 values, 12 of them different". */
export function distinctWords({ distinct, distinctExact }: FieldProfile): string {
  return `${distinctExact ? '' : 'about '}${count(distinct)} different`;
}

/** The one line that tells most of a field's values: a range, dates, or lengths. */
export function rangeWords({ numbers, dates, length }: FieldProfile): string | null {
  if (numbers) {
    const [min, max, mean] = [numbers.min, numbers.max, numbers.mean].map((value) => numberWords(value, numbers));
    return `${min} to ${max}, mean ${mean}`;
  }
  if (dates) return `${dates.from} to ${dates.to}`;
  if (length === null) return null;
  return length.min === length.max
    ? `${counted(length.max, 'character')} each`
    : `${count(length.min)} to ${counted(length.max, 'character')}, ${short.format(Math.max(1, Math.round(length.words)))} ${Math.round(length.words) > 1 ? 'words' : 'word'} on average`;
}

/** The share of records that hold a field, as a person reads it: never 100% when one is missing. */
export function coverage({ records, missing }: FieldProfile): string {
  const total = records + missing;
  if (missing === 0) return '100%';
  const percent = (records / total) * 100;
  return percent > 99.9 ? '99.9%' : percent < 0.1 ? '0.1%' : `${percent.toFixed(percent > 99 ? 1 : 0)}%`;
}

export interface Bar {
  label: string;
  count: number;
}

const dayOf = (day: number): string => new Date(day * 86_400_000).toISOString().slice(0, 10);

/** What a small chart of a field shows: its bins, or its commonest values. */
export function barsOf({
  spread,
  top,
  distinct,
  numbers,
}: FieldProfile): { kind: 'spread' | 'top'; bars: Bar[] } | null {
  if (spread && (top.length === 0 || distinct > 12)) {
    const at = (edge: number): string =>
      spread.unit === 'day' || numbers === null ? dayOf(edge) : numberWords(edge, numbers);
    const bars = spread.counts.map((found, i) => ({
      label: `${at(spread.from + i * spread.width)} to ${at(spread.from + (i + 1) * spread.width)}`,
      count: found,
    }));
    return { kind: 'spread', bars };
  }
  if (top.length === 0) return null;
  return { kind: 'top', bars: top.map(({ value, count: found }) => ({ label: value, count: found })) };
}
