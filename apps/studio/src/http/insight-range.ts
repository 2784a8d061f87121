import { Failure } from '@/server/failure';
import { dayOf, type DayRange } from '@/server/insights/range';
import { lastDays } from '@/server/insights/insights';

/** Days of a range at the most. */
const MOST_DAYS = 800;
const DEFAULT_DAYS = 30;

/** `from` and `to` of an address. Throws a Failure for what is no date, and for a range that ends before it begins. */
export function rangeFrom(url: URL): DayRange {
  const { to: today } = lastDays(1);
  const to = dayFrom(url, 'to') ?? today;
  const from = dayFrom(url, 'from') ?? to - DEFAULT_DAYS + 1;
  if (from > to) refuse('from', 'must not be after to');
  if (to - from >= MOST_DAYS) refuse('from', `must be ${MOST_DAYS} days before to at the most`);
  return { from, to };
}

/** `tag`, or the tag of `interface`; '' for neither. */
export function tagFrom(url: URL): string {
  const page = url.searchParams.get('interface');
  const tag = url.searchParams.get('tag');
  if (page !== null && tag !== null) refuse('tag', 'and interface cannot both be given');
  return tag ?? (page === null ? '' : `page:${page}`);
}

function dayFrom(url: URL, name: 'from' | 'to'): number | null {
  const text = url.searchParams.get(name);
  if (text === null) return null;
  return dayOf(text) ?? refuse(name, 'must be a date, such as 2026-05-01');
}

function refuse(name: string, detail: string): never {
  throw new Failure('invalid', `${name} ${detail}.`, [{ pointer: `/${name}`, detail }]);
}
