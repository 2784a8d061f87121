/** Applies a JSON Merge Patch (RFC 7396) and returns the result; `target` is not changed. */
export function applyMergePatch(target: unknown, patch: unknown): unknown {
  if (patch === null || typeof patch !== 'object' || Array.isArray(patch)) return patch;
  const isObject = target !== null && typeof target === 'object' && !Array.isArray(target);
  const merged = new Map<string, unknown>(isObject ? Object.entries(target) : []);
  for (const [name, value] of Object.entries(patch)) {
    if (value === null) merged.delete(name);
    else merged.set(name, applyMergePatch(merged.get(name), value));
  }
  // fromEntries defines own properties, so a field called __proto__ stays a field.
  return Object.fromEntries(merged);
}
