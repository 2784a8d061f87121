import type { RecordJson } from '@yucca/contract';
import { pick } from './paths.ts';

/** A copy of a record with the fields under `show`, without those under `hide`. */
export function shownPart(record: RecordJson, show: readonly string[], hide: readonly string[]): RecordJson {
  const shown = pick(record, show);
  return hide.length === 0 ? shown : (without(shown, hide) as RecordJson);
}

function without(value: unknown, paths: readonly string[]): unknown {
  if (Array.isArray(value)) return value.map((item: unknown) => without(item, paths));
  if (value === null || typeof value !== 'object') return value;
  const kept = Object.entries(value).filter(([name]) => !paths.includes(name));
  if (!paths.some((path) => path.includes('.'))) return Object.fromEntries(kept);
  const opened = kept.map(([name, item]): [string, unknown] => {
    const below = paths.filter((path) => path.startsWith(`${name}.`)).map((path) => path.slice(name.length + 1));
    return [name, below.length === 0 ? item : without(item, below)];
  });
  return Object.fromEntries(opened);
}
