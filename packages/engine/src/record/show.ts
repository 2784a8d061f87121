import type { RecordJson } from '@yucca/contract';
import { pick } from '@yucca/contract';

/** A copy of a record with the fields under `show`, without those under `hide`. */
export function shownPart(record: RecordJson, show: readonly string[], hide: readonly string[]): RecordJson {
  const shown = pick(record, show);
  return hide.length === 0 ? shown : (without(shown, hide) as RecordJson);
}

function without(value: unknown, paths: readonly string[]): unknown {
  if (Array.isArray(value)) return value.map((item: unknown) => without(item, paths));
  if (value === null || typeof value !== 'object') return value;
  const opens = paths.some((path) => path.includes('.'));
  const kept: RecordJson = {};
  for (const [name, item] of Object.entries(value)) {
    if (paths.includes(name)) continue;
    const below = opens
      ? paths.filter((path) => path.startsWith(`${name}.`)).map((path) => path.slice(name.length + 1))
      : [];
    setOwn(kept, name, below.length === 0 ? item : without(item, below));
  }
  return kept;
}

/** A field called `__proto__` is a field like any other. */
function setOwn(record: RecordJson, name: string, value: unknown): void {
  if (name === '__proto__')
    Object.defineProperty(record, name, { value, enumerable: true, configurable: true, writable: true });
  else record[name] = value as RecordJson[string];
}
