import type { Segment } from './segment.ts';
import type { Tombstones } from './tombstones.ts';

/** One consistent state of a collection: what a query sees from its first page to its facets. */
export interface Generation {
  number: number;
  segments: { segment: Segment; dead: Tombstones }[];
}
