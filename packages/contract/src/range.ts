import { as, count, listOf } from './schema-of.ts';

/** A half-open range `[start, end)` in UTF-16 units of the string it belongs to. */
export type Range = [start: number, end: number];

export const rangesSchema = listOf(as<Range>({ type: 'array', items: count, minItems: 2, maxItems: 2 }));
