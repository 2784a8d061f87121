/**
 * What is worked out of an object that never changes, kept as long as the object lives: segments, columns, tunings and
 * generations are replaced, never altered, so nothing here ever has to be taken back.
 */

/** Makes `make` run once for each object. */
export function memoByObject<K extends object, V>(make: (object: K) => V): (object: K) => V {
  const known = new WeakMap<K, { value: V }>();
  return (object) => {
    let entry = known.get(object);
    if (entry === undefined) known.set(object, (entry = { value: make(object) }));
    return entry.value;
  };
}

/**
 * The same for an object and a name. `most`: names kept for one object, where there may be ever new ones; the one that
 * was made first goes first.
 */
export function memoByName<K extends object, V>(
  make: (object: K, name: string) => V,
  most = Infinity,
): (object: K, name: string) => V {
  const namesOf = memoByObject<K, Map<string, { value: V }>>(() => new Map());
  return (object, name) => {
    const names = namesOf(object);
    let entry = names.get(name);
    if (entry === undefined) {
      entry = { value: make(object, name) };
      if (names.size >= most) names.delete(names.keys().next().value!);
      names.set(name, entry);
    }
    return entry.value;
  };
}
