import { percentDecoded } from '@yucca/contract';

/** A facet whose one chosen value stands in the path: `/shop/outdoor/shrubs`. */
export interface PathFacet {
  /** The part of the path before it, without a slash at the end. */
  base: string;
  /** The facet's name. */
  facet: string;
  /** What parts the levels of its values. Without one, a value is one segment. */
  separator?: string;
}

/** Spaces become hyphens; a hyphen and whatever browsers read as a step (`.`, `..`) get a tilde before them. */
function printSegment(level: string): string {
  const escaped = level.toWellFormed().replace(/[~-]/g, '~$&').replace(/ /g, '-');
  return encodeURIComponent(/^\.{1,2}$/.test(escaped) ? `~${escaped}` : escaped);
}

/** Null for a segment that no value is written as. */
function readSegment(segment: string): string | null {
  const decoded = percentDecoded(segment);
  return decoded === null ? null : decoded.replace(/~(.)|-/gsu, (_, escaped: string | undefined) => escaped ?? ' ');
}

/** The value whose levels are the segments behind the base; null when the path holds none. */
export function readPath(pathname: string, { base, separator }: PathFacet): string | null {
  if (!pathname.startsWith(`${base}/`)) return null;
  const segments = pathname
    .slice(base.length + 1)
    .replace(/\/$/, '')
    .split('/');
  const levels = segments.map(readSegment);
  if (levels.some((level) => level === null || level === '')) return null;
  return levels.join(separator ?? '/');
}

/** The path for a value; null when it could not be read back the same. */
export function printPath(value: string, path: PathFacet): string | null {
  const levels = path.separator === undefined ? [value] : value.split(path.separator);
  const pathname = `${path.base}/${levels.map(printSegment).join('/')}`;
  return readPath(pathname, path) === value ? pathname : null;
}
