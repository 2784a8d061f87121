import type { InsightItem, InsightListName, InsightSort, Page } from '@yucca/contract';
import { foldWords } from '@yucca/engine';
import type { Db } from '../db/open';
import { LISTS, nextOf, type InsightList, type ListRow } from './lists';
import type { InsightScope } from './read-insights';
import { listPage } from '../list-page';

export interface ListOrder {
  list: InsightListName;
  /** Null: as the list has it. */
  sort: InsightSort | null;
  /** Only lines that hold it. */
  q: string;
  page: number;
  size: number;
  /** Visitors a query must have come from to be shown. */
  least: number;
}

/** A line, and when it last found nothing and something, for whoever knows when a tuning was published. */
export interface ListLine {
  item: InsightItem;
  lastMissedAt: number;
  lastFoundAt: number;
}

/** Lists that say what was asked next. */
const WITH_NEXT = new Set<InsightListName>(['nothing', 'unclicked', 'refined']);

/** Columns that cannot have the name of their item: it is a word of SQL. */
const COLUMN: Partial<Record<InsightSort, string>> = { nothing: 'missed' };

/** A page of a list. */
export function readList(db: Db, scope: InsightScope, order: ListOrder): Page<ListLine> {
  const list = LISTS[order.list];
  const { sql, values } = statement(list, scope, order);
  const sort = order.sort !== null && list.sorts.includes(order.sort) ? order.sort : list.sorts[0]!;
  const rows = db.$client
    .prepare(
      `select *, count(*) over () as total from (${sql}) order by ${COLUMN[sort] ?? sort} desc, ${list.text} limit @size offset @start`,
    )
    .all({ ...values, size: order.size, start: (order.page - 1) * order.size }) as ListRow[];
  const items = rows.map((row): ListLine => {
    const item = list.item(row, db, scope);
    if (WITH_NEXT.has(order.list)) item.next = nextOf(db, scope, foldWords(item.query!));
    return { item, lastMissedAt: Number(row.lastMissedAt ?? 0), lastFoundAt: Number(row.lastFoundAt ?? 0) };
  });
  // Past the end there is no row to tell how many there are.
  const total =
    rows.length > 0
      ? Number(rows[0]!.total)
      : (db.$client.prepare(`select count(*) from (${sql})`).pluck().get(values) as number);
  return listPage(items, total, order.page, order.size);
}

function statement(list: InsightList, { collectionId, tag, range }: InsightScope, { q, least }: ListOrder) {
  const values = { collection: collectionId, tag, from: range.from, to: range.to, least, q: q.toLowerCase() };
  const sql = q === '' ? list.sql : `select * from (${list.sql}) where instr(lower(${list.text}), @q) > 0`;
  return { sql, values };
}
