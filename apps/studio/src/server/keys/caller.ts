import type { Right, SearchRequest } from '@yucca/contract';
import { Failure } from '../failure';

/** Who asks, and how far they may go. Null = no such limit. */
export interface Caller {
  label: string;
  /** Of the key, for counting its requests; null for the studio. */
  keyId: string | null;
  rights: readonly Right[];
  collections: readonly string[] | null;
  origins: readonly string[] | null;
  /** Every count that a request of the caller goes into: of the key, and of the token it signed. */
  rates: readonly Rate[];
  /** CQL2-Text: records outside it do not exist for the caller. */
  filter: string | null;
  /** Milliseconds since 1970. */
  expiresAt: number | null;
}

/** How many requests a minute may go into one count. */
export interface Rate {
  id: string;
  perMinute: number;
}

const UNLIMITED = { collections: null, origins: null, rates: [], filter: null, expiresAt: null };

/** A caller that nothing but its rights holds back. */
export function unlimited(label: string, keyId: string | null, rights: readonly Right[]): Caller {
  return { label, keyId, rights, ...UNLIMITED };
}

/** The studio's own pages, in the hands of its owner. */
export const STUDIO: Caller = unlimited('studio', null, ['admin']);

/** What each right lets one do besides itself. */
const INCLUDES: Record<Right, readonly Right[]> = {
  search: ['search'],
  read: ['read', 'search'],
  write: ['write'],
  admin: ['admin', 'write', 'read', 'search'],
};

export function hasRight({ rights }: Caller, right: Right): boolean {
  return rights.some((held) => INCLUDES[held].includes(right));
}

/** Throws a Failure when the caller lacks a right. */
export function requireRight(caller: Caller, right: Right): void {
  if (hasRight(caller, right)) return;
  const what = right === 'admin' ? 'administer' : right;
  throw new Failure('forbidden', `This needs the right to ${what}; the key “${caller.label}” does not have it.`);
}

/** Throws a Failure when a search looks at more than visitors see: another version of the tuning, or another day. */
export function requireRightFor(caller: Caller, { version = 'live', on }: Pick<SearchRequest, 'version' | 'on'>): void {
  if (version !== 'live' || on !== undefined) requireRight(caller, 'read');
}

export function reaches({ collections }: Caller, name: string): boolean {
  return collections === null || collections.includes(name);
}

/** Throws a Failure when a collection lies outside what the caller may reach, whether it exists or not. */
export function requireCollection(caller: Caller, name: string): void {
  if (!reaches(caller, name))
    throw new Failure('forbidden', `The key “${caller.label}” does not reach a collection called “${name}”.`);
}

/** Throws a Failure for a caller with limits: what concerns all collections is not theirs. */
export function requireNoLimits(caller: Caller): void {
  if (caller.collections !== null || caller.filter !== null)
    throw new Failure('forbidden', `The key “${caller.label}” is limited to some collections or records.`);
}

/** Throws a Failure when a page of a site that the key was not made for uses it. */
export function requireOrigin(caller: Caller, origin: string | null): void {
  if (caller.origins === null || origin === null) return;
  if (!caller.origins.some((allowed) => fits(allowed, origin)))
    throw new Failure('forbidden', `The key “${caller.label}” is not for pages of ${origin}.`);
}

function fits(allowed: string, origin: string): boolean {
  const star = allowed.indexOf('*.');
  if (star === -1) return allowed.toLowerCase() === origin.toLowerCase();
  const [scheme, rest] = [allowed.slice(0, star), allowed.slice(star + 1)];
  const name = origin.toLowerCase();
  return name.startsWith(scheme) && name.endsWith(rest.toLowerCase()) && name.length > scheme.length + rest.length;
}

/** A caller with further limits: the result may do what both allow. */
export function narrowed(
  caller: Caller,
  by: Partial<Omit<Caller, 'label' | 'keyId' | 'rates'>> & { rate?: Rate | undefined },
): Caller {
  const least = (a: number | null, b: number | null | undefined): number | null =>
    b === undefined || b === null ? a : a === null ? b : Math.min(a, b);
  const common = (a: readonly string[] | null, b: readonly string[] | null | undefined): readonly string[] | null =>
    !b ? a : a === null ? b : b.filter((name) => a.includes(name));
  const filters = [caller.filter, by.filter].filter((filter) => typeof filter === 'string');
  const rights = (by.rights ?? caller.rights).filter((right) => hasRight(caller, right));
  // Whoever sees a part of the records only may look at that part, and no more.
  const looking = (['search', 'read'] as const).filter((right) =>
    rights.some((held) => INCLUDES[held].includes(right)),
  );
  return {
    ...caller,
    rights: filters.length > 0 ? looking : rights,
    collections: common(caller.collections, by.collections),
    origins:
      caller.origins === null || !by.origins
        ? (by.origins ?? caller.origins)
        : by.origins.filter((origin) => caller.origins!.some((allowed) => fits(allowed, origin))),
    // The requests of a token are requests of its key as well.
    rates: by.rate === undefined ? caller.rates : [...caller.rates, by.rate],
    filter: filters.length === 0 ? null : filters.map((filter) => `(${filter})`).join(' AND '),
    expiresAt: least(caller.expiresAt, by.expiresAt),
  };
}
