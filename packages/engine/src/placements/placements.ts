import type { Placement, SearchRequest, Tuning } from '@yucca/contract';
import { chosenValues } from '../facets/facet.ts';
import { words } from '../text/words.ts';

/** What the placements of a tuning do to one query. */
export interface Placed {
  /** The query to search for: as typed, or what a placement puts in its place. */
  q: string;
  names: string[];
  /** By the rank wanted, from 1. */
  pins: { id: string; at: number }[];
  hide: string[];
  /** CQL2-Text conditions. */
  lift: string[];
  sink: string[];
  redirect: string | null;
  notice: string | null;
}

/** Works out which placements are in effect. `today` is an ISO date; without one, placements with dates are not. */
export function placementsFor({ placements }: Tuning, request: SearchRequest, today: string | null): Placed {
  const q = request.q ?? '';
  const typed = words(q).map(({ text }) => text);
  const active = placements.filter((placement) => isActive(placement, typed, request, today));
  const first = <T>(pick: (placement: Placement) => T | null): T | null =>
    active.map(pick).find((value) => value !== null) ?? null;
  const pins = new Map<string, number>();
  for (const { pin } of active) for (const { id, at } of pin) if (!pins.has(id)) pins.set(id, at);
  return {
    q: first(({ replaceQuery }) => replaceQuery) ?? q,
    names: active.map(({ name }) => name),
    pins: [...pins].map(([id, at]) => ({ id, at })).sort((a, b) => a.at - b.at),
    hide: active.flatMap(({ hide }) => hide),
    lift: active.flatMap(({ lift }) => lift),
    sink: active.flatMap(({ sink }) => sink),
    redirect: first(({ redirect }) => redirect),
    notice: first(({ notice }) => notice),
  };
}

function isActive({ when }: Placement, typed: string[], request: SearchRequest, today: string | null): boolean {
  if (when.from !== null && (today === null || today < when.from)) return false;
  if (when.to !== null && (today === null || today > when.to)) return false;
  if (when.tags.some((tag) => !request.tags?.includes(tag))) return false;
  const select = request.select ?? {};
  for (const [facet, values] of Object.entries(when.select)) {
    const chosen = Object.hasOwn(select, facet) ? chosenValues(select[facet]) : [];
    if (values.some((value) => !chosen.includes(value))) return false;
  }
  if (when.query === undefined) return true;
  return fits(
    typed,
    words(when.query).map(({ text }) => text),
    when.is,
  );
}

/** Words are compared, not letters: case, accents and spacing do not matter. */
function fits(typed: readonly string[], wanted: readonly string[], is: Placement['when']['is']): boolean {
  const standsAt = (at: number): boolean => wanted.every((word, i) => typed[at + i] === word);
  if (wanted.length === 0 || is === 'exact') return typed.length === wanted.length && standsAt(0);
  if (is === 'starts') return standsAt(0);
  return typed.some((_, at) => standsAt(at));
}
