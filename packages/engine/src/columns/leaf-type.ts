/** JSON types of a scalar, as bits. */
export const LeafType = { String: 1, Number: 2, Boolean: 4 } as const;

export function leafType(value: string | number | boolean): number {
  return typeof value === 'string' ? LeafType.String : typeof value === 'number' ? LeafType.Number : LeafType.Boolean;
}
