import type { SearchRequest } from '@yucca/contract';
import type { Placed } from '../../placements/placements.ts';
import type { Results } from '../../sets/results.ts';
import type { Matching } from '../match/match-query.ts';
import type { Candidate } from './rank.ts';

/** A record that a placement puts at a rank of its own. */
export interface Pin {
  segment: number;
  doc: number;
  at: number;
}

/**
 * The living documents of pinned records, where their collection and every condition allow them. A named sort is the
 * visitor's own order, and nothing is pinned in it.
 */
export function pinnedDocs({ segments }: Matching, { pins, hide }: Placed, { sort }: SearchRequest): Pin[] {
  if (sort !== undefined && sort !== 'relevance') return [];
  return pins.flatMap(({ id, at }) => {
    if (hide.includes(id)) return [];
    return segments.flatMap(({ segment, allowed }, index) =>
      segment
        .docsOfKey(id)
        .filter((doc) => allowed.has(doc))
        .map((doc) => ({ segment: index, doc, at })),
    );
  });
}

/** Those of the pins that the visitor's choices leave: a pinned record is a result like any other. */
export function standingPins(pins: readonly Pin[], results: readonly Results[]): Pin[] {
  return pins.filter(({ segment, doc }) => results[segment]!.set.has(doc));
}

/** A row of the results: a pinned record, or one that stands where its numbers put it. */
export type Shown = { pin: Pin } | { pin: null; candidate: Candidate };

/** Puts the pinned records at their ranks among the others; beyond the end they follow the last result. */
export function withPins(best: readonly Candidate[], pins: readonly Pin[], size: number): Shown[] {
  const shown: Shown[] = best.map((candidate) => ({ pin: null, candidate }));
  for (const pin of pins) shown.splice(Math.min(pin.at - 1, shown.length), 0, { pin });
  return shown.slice(0, size);
}
