import type { DatesFacet, FacetRule, FacetValue, RangeChoice } from '@yucca/contract';
import { addFlagged } from '../filter/column-scan.ts';
import { DocSet } from '../sets/doc-set.ts';
import { parseDate } from '../signals/signals.ts';
import { addGroupCounts, knownGroups } from './buckets-of-values.ts';
import { chosenRange, chosenValues, type Facet, type MakeFacet } from './facet.ts';

const LETTERS: Record<FacetRule['by'], number> = { year: 4, month: 7, day: 10 };

/** The day of a date or time, in UTC; null when it is none. */
function dayOf(text: string): string | null {
  const time = parseDate(text);
  return Number.isNaN(time) ? null : new Date(time).toISOString().slice(0, 10);
}

function daysOf(text: string): string[] {
  const day = dayOf(text);
  return day === null ? [] : [day];
}

/** Dates and times (ISO 8601) by year, month or day, in UTC. A choice names periods or a range of dates. */
export const datesFacet: MakeFacet = (rule, choice) => {
  const selected = new Set(chosenValues(choice));
  const range = chosenRange(choice);
  const totals = new Map<string, number>();
  let missing = 0;
  const periodsOf = (text: string): string[] => {
    const day = dayOf(text);
    return day === null ? [] : [day.slice(0, LETTERS[rule.by])];
  };
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
      const { starts, groups, names } = knownGroups(column, 'dates/day', daysOf);
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
      missing += addGroupCounts(column, knownGroups(column, `dates/${rule.by}`, periodsOf), results, totals);
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
