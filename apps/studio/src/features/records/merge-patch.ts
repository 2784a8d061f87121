type Json = { [name: string]: unknown };

const isObject = (value: unknown): value is Json =>
  value !== null && typeof value === 'object' && !Array.isArray(value);

/**
 * The JSON Merge Patch (RFC 7396) that turns one document into another. Undefined when there is none: such a patch
 * cannot write a null, because there null means to take away.
 */
export function mergePatchBetween(before: unknown, after: unknown): unknown {
  if (!isObject(after)) return holdsNull(after) ? undefined : after;
  const old = isObject(before) ? before : {};
  const patch: [string, unknown][] = [];
  for (const name of Object.keys(old)) if (!Object.hasOwn(after, name)) patch.push([name, null]);
  for (const [name, value] of Object.entries(after)) {
    const had = Object.hasOwn(old, name);
    if (had && JSON.stringify(old[name]) === JSON.stringify(value)) continue;
    const part = mergePatchBetween(had ? old[name] : undefined, value);
    if (part === undefined) return undefined;
    patch.push([name, part]);
  }
  // fromEntries defines own properties, so a field called __proto__ stays a field.
  return Object.fromEntries(patch);
}

/** Nulls inside lists are written as they are; only those of objects mean to take away. */
function holdsNull(value: unknown): boolean {
  return value === null;
}
