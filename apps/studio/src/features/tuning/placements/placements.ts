import type { PlacementDocument, TuningDocument } from '@yucca/contract';
import { CONDITIONS } from './placement-conditions';

const plain = (text: string): string => text.trim().toLowerCase().replace(/\s+/g, ' ');

/**
 * Whether a placement is for one query, typed just so, at any time and for everybody: what a hand in the results makes.
 */
function isFor({ when }: PlacementDocument, query: string): boolean {
  const isTyped = when.query !== undefined && plain(when.query) === plain(query) && (when.is ?? 'exact') === 'exact';
  const isTimed = when.from !== undefined || when.to !== undefined;
  return isTyped && !isTimed && CONDITIONS.every(({ write }) => write(when).length === 0);
}

/** The placement that what is done in the results of a query belongs to. */
export function placementOf({ placements = [] }: TuningDocument, query: string): PlacementDocument | null {
  return placements.find((placement) => isFor(placement, query)) ?? null;
}

/** Whether a placement changes anything at all. */
export function doesSomething({ pin, hide, lift, sink, redirect, notice, replaceQuery }: PlacementDocument): boolean {
  const lists = (pin?.length ?? 0) + (hide?.length ?? 0) + (lift?.length ?? 0) + (sink?.length ?? 0);
  return lists > 0 || Boolean(redirect) || Boolean(notice) || Boolean(replaceQuery);
}

/** A name that no placement has yet, after the query it is for. */
export function freeName(query: string, placements: readonly PlacementDocument[]): string {
  const letters = plain(query)
    .normalize('NFKD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '');
  const base = plain(query) === '' ? 'before-typing' : `for-${letters || 'a-query'}`.slice(0, 50).replace(/-+$/, '');
  const taken = new Set(placements.map(({ name }) => name));
  let name = base;
  for (let n = 2; taken.has(name); n++) name = `${base}-${n}`;
  return name;
}

/** Changes the placement of a query; one that does nothing any more is taken out. */
function changed(
  document: TuningDocument,
  query: string,
  change: (placement: PlacementDocument) => PlacementDocument,
): TuningDocument {
  const placements = document.placements ?? [];
  const known = placementOf(document, query);
  if (!known) {
    const made = change({ name: freeName(query, placements), when: { query: query.trim() } });
    return doesSomething(made) ? { ...document, placements: [...placements, made] } : document;
  }
  const made = change(known);
  const next = placements.flatMap((one) => (one !== known ? [one] : doesSomething(made) ? [made] : []));
  return { ...document, placements: next };
}

/** Pins a record at a place, from 1. Others that are pinned there or below move down to make room. */
export function withPin(document: TuningDocument, query: string, id: string, at: number): TuningDocument {
  return changed(document, query, (placement) => {
    const others = (placement.pin ?? []).filter((pin) => pin.id !== id).sort((a, b) => a.at - b.at);
    let free = at + 1;
    const moved = others.map((pin) => {
      if (pin.at < at || pin.at >= free) return pin;
      return { ...pin, at: free++ };
    });
    return {
      ...placement,
      pin: [...moved, { id, at }].sort((a, b) => a.at - b.at),
      hide: (placement.hide ?? []).filter((hidden) => hidden !== id),
    };
  });
}

export const withoutPin = (document: TuningDocument, query: string, id: string): TuningDocument =>
  changed(document, query, (placement) => ({
    ...placement,
    pin: (placement.pin ?? []).filter((pin) => pin.id !== id),
  }));

/** Hides a record from the results of a query. */
export const withHidden = (document: TuningDocument, query: string, id: string): TuningDocument =>
  changed(document, query, (placement) => ({
    ...placement,
    pin: (placement.pin ?? []).filter((pin) => pin.id !== id),
    hide: [...new Set([...(placement.hide ?? []), id])],
  }));

/** Takes a record off what some placement hides, whichever it is. */
export function withShown(document: TuningDocument, placement: string, id: string): TuningDocument {
  const placements = (document.placements ?? [])
    .map((one) => (one.name === placement ? { ...one, hide: (one.hide ?? []).filter((hidden) => hidden !== id) } : one))
    .filter((one) => one.name !== placement || doesSomething(one));
  return { ...document, placements };
}

/** Puts a placement in the place of the one called `name`, or at the end of the list when there is none. */
export function withPlacement(
  document: TuningDocument,
  name: string | null,
  placement: PlacementDocument,
): TuningDocument {
  const placements = document.placements ?? [];
  const known = placements.some((one) => one.name === name);
  return {
    ...document,
    placements: known ? placements.map((one) => (one.name === name ? placement : one)) : [...placements, placement],
  };
}

export const withoutPlacement = (document: TuningDocument, name: string): TuningDocument => ({
  ...document,
  placements: (document.placements ?? []).filter((one) => one.name !== name),
});

const HOW = { exact: 'is', starts: 'starts with', contains: 'contains' } as const;

/** When a placement is in effect: "the query is “tulip”, 1 Mar 2026 to 31 May 2026". */
export function whenWords({ when }: PlacementDocument): string {
  const { query, is = 'exact' } = when;
  const typed =
    query === undefined ? [] : [query.trim() === '' ? 'nothing is typed' : `the query ${HOW[is]} “${query}”`];
  const all = [...typed, ...CONDITIONS.flatMap(({ words }) => words(when))];
  const dates = datesWords(when);
  return [all.length > 0 ? all.join(', ') : 'any query', ...(dates ? [dates] : [])].join(', ');
}

const days = new Intl.DateTimeFormat('en', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' });
const day = (iso: string): string => days.format(new Date(`${iso}T00:00:00Z`));

function datesWords({ from, to }: PlacementDocument['when']): string | null {
  if (from !== undefined && to !== undefined) return `${day(from)} to ${day(to)}`;
  if (from !== undefined) return `from ${day(from)}`;
  return to === undefined ? null : `until ${day(to)}`;
}

/** What a placement does: "2 pinned, 1 hidden, a notice". */
export function whatWords({ pin, hide, lift, sink, redirect, notice, replaceQuery }: PlacementDocument): string {
  const counts: [readonly unknown[] | undefined, string][] = [
    [pin, 'pinned'],
    [hide, 'hidden'],
    [lift, 'lifted'],
    [sink, 'sunk'],
  ];
  const parts = counts.flatMap(([list, what]) => (list && list.length > 0 ? [`${list.length} ${what}`] : []));
  if (replaceQuery) parts.push(`rewrites to “${replaceQuery}”`);
  if (redirect) parts.push('redirects');
  if (notice) parts.push('a notice');
  return parts.length > 0 ? parts.join(', ') : 'nothing yet';
}

/** Whether a placement's dates take in a day (ISO 8601); those without dates always do. */
export function isOn({ when: { from, to } }: PlacementDocument, date: string): boolean {
  return (from === undefined || date >= from) && (to === undefined || date <= to);
}
