import type { FromSchema } from 'json-schema-to-ts';

export const RIGHTS = ['search', 'read', 'write', 'admin'] as const;

/** What a key may do. `read` includes search, `admin` includes everything. */
export type Right = (typeof RIGHTS)[number];

export const newKeySchema = {
  $id: 'NewKey',
  type: 'object',
  additionalProperties: false,
  required: ['label', 'rights'],
  properties: {
    label: { type: 'string', minLength: 1, maxLength: 200 },
    rights: { type: 'array', items: { enum: RIGHTS }, minItems: 1, maxItems: 4, uniqueItems: true },
  },
} as const;

export type NewKey = FromSchema<typeof newKeySchema>;

/** A key as it is listed; its secret is shown once, when it is made. */
export interface Key {
  id: string;
  label: string;
  rights: Right[];
  createdAt: string;
}
