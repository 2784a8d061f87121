import { pointerToken } from './json-pointer.ts';
import type { RecordJson } from './search.ts';

/**
 * Dotted field paths, the one way in which everybody reads them: `a.b` is the member `b` of the member `a`, lists on
 * the way are entered, and a member whose own name holds a dot is found too.
 */

/** Visits a scalar found in a record: its value and its JSON Pointer (RFC 6901). */
export type VisitLeaf = (value: string | number | boolean, pointer: string) => void;

/**
 * Visits every string, number and boolean under a dotted field path, in the order of the record. Lists are entered on
 * the way, so `suppliers.name` reaches the name of each supplier. A field whose own name holds a dot is found too.
 */
export function leavesAt(record: RecordJson, path: string, visit: VisitLeaf): void {
  descend(record, path, '', (found, pointer) => scalarsOf(found, pointer, visit));
}

/** The same under a value that stands somewhere in a record, with the rest of a path; pointers begin at the value. */
export function leavesBelow(value: unknown, rest: string, visit: VisitLeaf): void {
  descend(value, rest, '', (found, pointer) => scalarsOf(found, pointer, visit));
}

/** Visits the scalars of a value, and of lists in it. */
function scalarsOf(value: unknown, pointer: string, visit: VisitLeaf): void {
  if (Array.isArray(value)) value.forEach((item, i) => scalarsOf(item, `${pointer}/${i}`, visit));
  else if (typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean') visit(value, pointer);
}

/** Visits whatever stands at a path: the whole path as one name first, then its beginnings. */
function descend(
  value: unknown,
  path: string,
  pointer: string,
  visit: (found: unknown, pointer: string) => void,
): void {
  if (path === '') return visit(value, pointer);
  if (value === null || typeof value !== 'object') return;
  if (Array.isArray(value)) return value.forEach((item, i) => descend(item, path, `${pointer}/${i}`, visit));
  const fields = value as RecordJson;
  for (let end = path.length, dot = -1; end !== -1; end = dot = path.indexOf('.', dot + 1)) {
    const head = path.slice(0, end);
    if (Object.hasOwn(fields, head))
      descend(fields[head], path.slice(end + 1), `${pointer}/${pointerToken(head)}`, visit);
  }
}

/** Whatever stands at a dotted path first, lists entered on the way; undefined when nothing does. */
export function valueAt(value: unknown, path: string): unknown {
  let found: unknown;
  descend(value, path, '', (one) => (found ??= one));
  return found;
}

/** Everything at a dotted path: where lists stand on the way, a list of what is there in each item. */
export function valuesAt(value: unknown, path: string): unknown {
  if (path === '' || value === null || typeof value !== 'object') return path === '' ? value : undefined;
  if (Array.isArray(value)) return value.map((item) => valuesAt(item, path)).filter((item) => item !== undefined);
  const fields = value as RecordJson;
  if (Object.hasOwn(fields, path)) return fields[path];
  for (let dot = path.indexOf('.'); dot !== -1; dot = path.indexOf('.', dot + 1)) {
    const head = path.slice(0, dot);
    if (Object.hasOwn(fields, head)) return valuesAt(fields[head], path.slice(dot + 1));
  }
  return undefined;
}

/**
 * Visits every scalar of a record with its dotted field path and JSON Pointer; list positions are not part of the path.
 */
export function eachLeaf(
  record: RecordJson,
  visit: (path: string, value: string | number | boolean | null, pointer: string) => void,
  levels = 16,
): void {
  const walk = (value: unknown, path: string, pointer: string, left: number): void => {
    if (value === null || typeof value !== 'object') {
      visit(path, value as string | number | boolean | null, pointer);
    } else if (left > 0 && Array.isArray(value)) {
      value.forEach((item, i) => walk(item, path, `${pointer}/${i}`, left - 1));
    } else if (left > 0) {
      for (const [name, item] of Object.entries(value)) {
        walk(item, path === '' ? name : `${path}.${name}`, `${pointer}/${pointerToken(name)}`, left - 1);
      }
    }
  };
  for (const [name, value] of Object.entries(record)) walk(value, name, `/${pointerToken(name)}`, levels - 1);
}

/**
 * A copy of the record with only the fields under `paths`; `*` keeps everything. Lists keep their length, so pointers
 * stay true.
 */
export function pick(record: RecordJson, paths: readonly string[]): RecordJson {
  if (paths.includes('*')) return record;
  return (pickInto(record, paths) ?? {}) as RecordJson;
}

function pickInto(value: unknown, paths: readonly string[]): unknown {
  if (Array.isArray(value)) return value.map((item: unknown) => pickInto(item, paths) ?? null);
  if (value === null || typeof value !== 'object') return undefined;
  const kept: [string, unknown][] = [];
  for (const [name, item] of Object.entries(value)) {
    if (paths.includes(name)) {
      kept.push([name, item]);
      continue;
    }
    const below = paths.filter((path) => path.startsWith(`${name}.`)).map((path) => path.slice(name.length + 1));
    if (below.length === 0) continue;
    const part = pickInto(item, below);
    if (part !== undefined) kept.push([name, part]);
  }
  // fromEntries defines own properties, so a field called __proto__ stays a field.
  return kept.length > 0 ? Object.fromEntries(kept) : undefined;
}
