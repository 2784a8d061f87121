import type { FromSchema } from 'json-schema-to-ts';
import { LIMITS } from './limits.ts';
import { nameSchema } from './names.ts';
import { listOf, moment, object, oneOf, ordinal, orNull, text, yesOrNo, type Of } from './schema-of.ts';

export const RIGHTS = ['search', 'read', 'write', 'admin'] as const;

/** What a key may do. `read` includes search, `admin` includes everything. */
export type Right = (typeof RIGHTS)[number];

const rights = { type: 'array', items: { enum: RIGHTS }, minItems: 1, maxItems: 4, uniqueItems: true } as const;

/** Sites whose pages may use a key. */
export const originsSchema = {
  type: 'array',
  items: { type: 'string', maxLength: 300, pattern: '^https?://(\\*\\.)?[A-Za-z0-9.-]+(:[0-9]{1,5})?$' },
  minItems: 1,
  maxItems: 50,
  uniqueItems: true,
  description: 'Sites whose pages may use it, such as https://shop.example or https://*.shop.example.',
} as const;

/** The limits a key may carry, and a scoped token may add. Each of them narrows; left out, it does not. */
const limits = {
  collections: {
    type: 'array',
    items: nameSchema,
    minItems: 1,
    maxItems: 1000,
    uniqueItems: true,
    description: 'The only collections it reaches.',
  },
  origins: originsSchema,
  perMinute: { type: 'integer', minimum: 1, maximum: 1_000_000, description: 'Requests a minute.' },
  filter: {
    type: 'string',
    minLength: 1,
    maxLength: LIMITS.filterLength,
    description: 'CQL2-Text. Records that do not fulfil it do not exist for this key.',
  },
} as const;

export const newKeySchema = {
  $id: 'NewKey',
  type: 'object',
  additionalProperties: false,
  required: ['label', 'rights'],
  properties: {
    label: { type: 'string', minLength: 1, maxLength: 200 },
    rights,
    ...limits,
    expiresAt: { type: 'string', format: 'date-time', description: 'From this moment on it is worthless.' },
  },
} as const;

export type NewKey = FromSchema<typeof newKeySchema>;

/**
 * The claims of a scoped token (JWT, RFC 7519, HS256). It is signed with the secret of a key, its `kid` header is the
 * key's id, and it may do what the key may do and these claims allow: whichever is less. Other claims are refused, so
 * that a misspelt limit never widens a token.
 */
export const tokenClaimsSchema = {
  $id: 'TokenClaims',
  type: 'object',
  additionalProperties: false,
  properties: {
    rights,
    ...limits,
    exp: { type: 'integer', description: 'Seconds since 1970: when it ends.' },
    nbf: { type: 'integer' },
    iat: { type: 'integer' },
    iss: { type: 'string' },
    sub: { type: 'string' },
    aud: { type: ['string', 'array'] },
    jti: { type: 'string' },
  },
} as const;

export type TokenClaims = Partial<
  Pick<NewKey, 'collections' | 'origins' | 'perMinute' | 'filter'> & { rights: Right[]; exp: number }
>;

/** A key as it is listed; its secret is shown once, when it is made. */
export const keySchema = object({
  id: text,
  label: text,
  rights: listOf(oneOf(...RIGHTS)),
  /** Null = all. */
  collections: orNull(listOf(text)),
  origins: orNull(listOf(text)),
  perMinute: orNull(ordinal),
  expiresAt: orNull(moment),
  filter: orNull(text),
  createdAt: moment,
  /** To the minute; null before its first use. */
  lastUsedAt: orNull(moment),
  /** The key that the hosted search pages carry: it cannot be deleted. */
  forPages: yesOrNo,
});

export type Key = Of<typeof keySchema>;
