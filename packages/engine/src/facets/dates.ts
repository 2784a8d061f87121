import type { DatesFacet, FacetRule, FacetValue, RangeChoice } from '@yucca/contract';
import type { ValueColumn } from '../columns/column.ts';
import { DAY_MS, timesOf } from '../columns/times.ts';
import { addFlagged } from '../filter/column-scan.ts';
import { memoByName } from '../memo/by-object.ts';
import { DocSet } from '../sets/doc-set.ts';
import { addGroupCounts, type ValueGroups } from './buckets-of-values.ts';
import { chosenRange, chosenValues, type Facet, type MakeFacet } from './facet.ts';

const LETTERS: Record<FacetRule['by'], number> = { year: 4, month: 7, day: 10 };

/** The values of a column by the year, month or day they lie in, in UTC; what is no date is in no group. */
const periodsOf = memoByName((column: ValueColumn, by): ValueGroups => {
  const times = timesOf(column);
  const starts = new Uint32Array(times.length + 1);
  const groups = new Uint32Array(times.length);
  const numbers = new Map<string, number>();
  // A day is written out once, however many times of it there are.
  const byDay = new Map<number, number>();
  const groupOf = (day: number): number => {
    const name = new Date(day * DAY_MS).toISOString().slice(0, LETTERS[by as FacetRule['by']]);
    const number = numbers.get(name) ?? numbers.size;
    numbers.set(name, number);
    byDay.set(day, number);
    return number;
  };
  let end = 0;
  for (let value = 0; value < times.length; value++) {
    const day = Math.floor(times[value]! / DAY_MS);
    if (!Number.isNaN(day)) groups[end++] = byDay.get(day) ?? groupOf(day);
    starts[value + 1] = end;
  }
  return { starts, groups: groups.subarray(0, end), names: [...numbers.keys()] };
});

/** Dates and times (ISO 8601) by year, month or day, in UTC. A choice names periods or a range of dates. */
export const datesFacet: MakeFacet = (rule, choice) => {
  const selected = new Set(chosenValues(choice));
  const range = chosenRange(choice);
  const totals = new Map<string, number>();
  let missing = 0;
  const passes = (day: string): boolean => {
    if (range === null) return selected.has(day.slice(0, LETTERS[rule.by]));
    // `2026-05` as an upper end takes the whole month along: only as many letters are compared as it has.
    const { min, max } = range;
    return (
      (min === undefined || day >= String(min)) &&
      (max === undefined || day.slice(0, String(max).length) <= String(max))
    );
  };
  return {
    chosen(segment) {
      const set = new DocSet(segment.docs);
      const column = segment.values(rule.field);
      if (column === null) return set;
      const flags = new Uint8Array(column.size);
      const { starts, groups, names } = periodsOf(column, 'day');
      const passing = names.map(passes);
      for (let value = 0; value < column.size; value++)
        if (starts[value]! < starts[value + 1]! && passing[groups[starts[value]!]!]) flags[value] = 1;
      addFlagged(column, segment.docs, flags, set);
      return set;
    },
    count(segment, results) {
      const column = segment.values(rule.field);
      if (column === null) {
        missing += results.count;
        return;
      }
      missing += addGroupCounts(column, periodsOf(column, rule.by), results, totals);
    },
    answer(): DatesFacet {
      for (const period of selected) if (!totals.has(period)) totals.set(period, 0);
      const all: FacetValue[] = [...totals]
        .sort(([a], [b]) => (a > b ? -1 : 1))
        .map(([value, count]) => ({ value, label: value, count, selected: selected.has(value) }));
      const values = all.filter((value, rank) => rank < rule.size || value.selected);
      const chosen = range === null ? null : textRange(range);
      return {
        kind: 'dates',
        label: rule.label,
        by: rule.by,
        values,
        more: values.length < all.length,
        missing,
        selected: chosen,
      };
    },
  } satisfies Facet;
};

function textRange({ min, max }: RangeChoice): { min?: string; max?: string } {
  return { ...(min === undefined ? {} : { min: String(min) }), ...(max === undefined ? {} : { max: String(max) }) };
}
