/**
 * What a collection, an interface or a sort may be called: lower case, digits and hyphens, a letter first, at most 63.
 */
export const NAME_PATTERN = '^[a-z][a-z0-9-]{0,62}$';

export const nameSchema = { type: 'string', pattern: NAME_PATTERN } as const;

const NAME = new RegExp(NAME_PATTERN);

/** Whether `text` may name a collection. */
export function isName(text: string): boolean {
  return NAME.test(text);
}
