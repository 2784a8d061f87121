import { LIMITS, type RecordJson } from '@yucca/contract';

/**
 * Opens dotted names of a table into objects: `supplier.id` and `supplier.name` become `supplier: {id, name}`. A name
 * that clashes with a plain one, or with a part of itself that is empty, stays as it is.
 */
export function nestDotted(record: RecordJson): RecordJson {
  const nested = new Map<string, unknown>();
  for (const [name, value] of Object.entries(record)) {
    const parts = name.split('.');
    // A name of so many parts is no path; opened, it would be deeper than any record may be.
    const clash =
      parts.length === 1 ||
      parts.length > LIMITS.pathLevels ||
      parts.some((part) => part === '') ||
      Object.hasOwn(record, parts[0]!);
    if (clash) nested.set(name, value);
    else setIn(nested, parts, value);
  }
  return toObject(nested);
}

function setIn(level: Map<string, unknown>, [first, ...rest]: string[], value: unknown): void {
  if (rest.length === 0) {
    level.set(first!, value);
    return;
  }
  const below = level.get(first!);
  if (below instanceof Map) return setIn(below as Map<string, unknown>, rest, value);
  // Something plain stands there already: `a` came from `x.a`, and now `x.a.b` comes.
  if (level.has(first!)) level.set([first, ...rest].join('.'), value);
  else {
    const made = new Map<string, unknown>();
    level.set(first!, made);
    setIn(made, rest, value);
  }
}

// fromEntries defines own properties, so a field called __proto__ stays a field.
function toObject(level: Map<string, unknown>): RecordJson {
  return Object.fromEntries(
    [...level].map(([name, value]) => [name, value instanceof Map ? toObject(value as Map<string, unknown>) : value]),
  ) as RecordJson;
}
