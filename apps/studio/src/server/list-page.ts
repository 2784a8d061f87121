import type { Page } from '@yucca/contract';

/** A page of a list, from 1; with a size of 0 only how many there are. */
export function listPage<T>(items: T[], total: number, page: number, size: number): Page<T> {
  return { items, total, page, pages: size === 0 ? 0 : Math.ceil(total / size), size };
}

/** A list that is always sent whole. */
export function wholeList<T>(items: T[]): Page<T> {
  return { items, total: items.length, page: 1, pages: 1, size: items.length };
}
