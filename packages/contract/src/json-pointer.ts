/** JSON Pointer (RFC 6901). */

/** One reference token, escaped. */
export function pointerToken(name: string): string {
  return name.includes('~') || name.includes('/') ? name.replaceAll('~', '~0').replaceAll('/', '~1') : name;
}

/** The names a pointer leads through. */
export function pointerNames(pointer: string): string[] {
  return pointer
    .split('/')
    .slice(1)
    .map((token) => token.replaceAll('~1', '/').replaceAll('~0', '~'));
}

/** What a pointer leads to; undefined when there is nothing. */
export function valueAtPointer(value: unknown, pointer: string): unknown {
  for (const name of pointerNames(pointer))
    value =
      value !== null && typeof value === 'object' && Object.hasOwn(value, name) ? value[name as never] : undefined;
  return value;
}
