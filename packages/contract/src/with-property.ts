/** An object with a property set to another value; with undefined, without it. */
export function withProperty<T extends object, P extends keyof T>(object: T, name: P, value: T[P] | undefined): T {
  const others = Object.fromEntries(Object.entries(object).filter(([other]) => other !== name)) as T;
  return value === undefined ? others : { ...others, [name]: value };
}
