const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/**
 * Puts two drafts together that began as the same one, property by property: what only one of them has changed is as
 * that one has it. What both have changed differently is a clash, and stays as in `mine`.
 */
export function mergeDrafts<D extends object>(base: D, mine: D, theirs: D): { merged: D; clashes: string[] } {
  const names = [...new Set([...Object.keys(theirs), ...Object.keys(mine)])] as (keyof D & string)[];
  const clashes = names.filter(
    (name) => !same(mine[name], base[name]) && !same(theirs[name], base[name]) && !same(mine[name], theirs[name]),
  );
  const entries = names.map((name) => [name, same(mine[name], base[name]) ? theirs[name] : mine[name]] as const);
  return { merged: Object.fromEntries(entries.filter(([, value]) => value !== undefined)) as D, clashes };
}
