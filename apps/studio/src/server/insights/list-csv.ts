import type { InsightItem, InsightListName } from '@yucca/contract';
import { stringify } from 'csv-stringify/sync';
import { asCell } from '../scan/export';

const OF_QUERIES = ['query', 'count', 'visitors', 'nothing', 'clicked', 'meanPlace', 'conversions', 'lastAt', 'ms'] as const; // prettier-ignore

/** The columns of each list. */
const COLUMNS: Partial<Record<InsightListName, readonly (keyof InsightItem)[]>> = {
  nothing: [...OF_QUERIES, 'finds', 'fixedSince', 'next'],
  unclicked: [...OF_QUERIES, 'finds', 'next'],
  refined: [...OF_QUERIES, 'finds', 'next'],
  facets: ['facet', 'value', 'count'],
  shown: ['value', 'count'],
  unseen: ['value'],
};

/**
 * Lines of a list as CSV (RFC 4180). Anybody can ask for anything, so what a spreadsheet would take for a
 * formula is text.
 */
export function csvOf(list: InsightListName, items: readonly InsightItem[], withHeader: boolean): string {
  const columns = COLUMNS[list] ?? OF_QUERIES;
  const lines = items.map((item) => columns.map((name) => asCell(asText(item[name]), true)));
  return stringify([...(withHeader ? [[...columns]] : []), ...lines], { record_delimiter: 'windows' });
}

const asText = (value: InsightItem[keyof InsightItem]): string =>
  Array.isArray(value) ? value.map(({ text }) => text).join(' | ') : String(value ?? '');
