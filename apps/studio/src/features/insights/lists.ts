import type { InsightItem, InsightListName, InsightSort } from '@yucca/contract';
import { count, milliseconds } from '@/ui/format';

interface Column {
  label: string;
  sort: InsightSort;
  read: (item: InsightItem) => string;
}

interface ListShape {
  name: InsightListName;
  label: string;
  /** What it means that something stands here. */
  what: string;
  /** What stands first in a row. */
  head: string;
  columns: readonly Column[];
}

const days = new Intl.DateTimeFormat('en', { day: 'numeric', month: 'short', timeZone: 'UTC' });
const share = (of: number | undefined, all: number): string =>
  of === undefined || all === 0 ? '–' : `${Math.round((of / all) * 100)}%`;

const COUNT: Column = { label: 'Searches', sort: 'count', read: (item) => count(item.count) };
const VISITORS: Column = { label: 'Visitors', sort: 'visitors', read: (item) => count(item.visitors ?? 0) };
const NOTHING: Column = { label: 'In vain', sort: 'nothing', read: (item) => count(item.nothing ?? 0) };
const CLICKED: Column = { label: 'With a click', sort: 'clicked', read: (item) => share(item.clicked, item.count) };
const RANK: Column = { label: 'Rank of click', sort: 'meanPlace', read: (item) => item.meanPlace?.toFixed(1) ?? '–' };
const TIME: Column = { label: 'Time', sort: 'ms', read: (item) => milliseconds(item.ms ?? 0) };
const LAST: Column = { label: 'Last', sort: 'lastAt', read: (item) => item.lastAt === undefined ? '–' : days.format(new Date(item.lastAt)) }; // prettier-ignore

/** The lists, in the order of the work: what fails first. */
export const LISTS: readonly ListShape[] = [
  { name: 'nothing', label: 'Found nothing', what: 'Queries that found no record at all.', head: 'Query', columns: [NOTHING, VISITORS, COUNT, LAST] },
  { name: 'unclicked', label: 'Nobody clicked', what: 'There were results, and no visitor opened any.', head: 'Query', columns: [COUNT, VISITORS, LAST] },
  { name: 'deep', label: 'Clicked far down', what: 'What visitors want stands below the fourth result.', head: 'Query', columns: [RANK, CLICKED, COUNT, LAST] },
  { name: 'refined', label: 'Asked differently', what: 'Visitors opened nothing and asked for something else within a minute.', head: 'Query', columns: [COUNT, VISITORS, LAST] },
  { name: 'asked', label: 'Most asked', what: 'What visitors look for.', head: 'Query', columns: [COUNT, VISITORS, NOTHING, CLICKED, RANK] },
  { name: 'completions', label: 'Completions taken', what: 'Queries that were chosen from what the field offered.', head: 'Query', columns: [COUNT, VISITORS, CLICKED, LAST] },
  { name: 'facets', label: 'Choices', what: 'Values that visitors chose in filters.', head: 'Value', columns: [COUNT] },
  { name: 'shown', label: 'Shown, never opened', what: 'Records that were in sight and that nobody opened, of all visitors.', head: 'Record', columns: [{ ...COUNT, label: 'Shown' }] },
  { name: 'unseen', label: 'Never shown', what: 'Records that no visitor’s search brought into sight.', head: 'Record', columns: [] },
  { name: 'slow', label: 'Slow', what: 'Queries that take the server longest.', head: 'Query', columns: [TIME, COUNT, LAST] },
]; // prettier-ignore

export const listNamed = (name: string): ListShape => LISTS.find((list) => list.name === name) ?? LISTS[0]!;
