import type { FromSchema } from 'json-schema-to-ts';
import { LIMITS } from './limits.ts';
import { nameSchema } from './names.ts';

const condition = { type: 'string', minLength: 1, maxLength: LIMITS.filterLength, description: 'CQL2-Text' } as const;
const recordKey = { type: 'string', minLength: 1, maxLength: 512 } as const;

/**
 * One placement of a tuning. A new condition is a property of `when` here, a line in the engine's `placements.ts` that
 * decides it, and an entry in the studio's `placement-conditions.ts`.
 */
export const placementSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['name', 'when'],
  properties: {
    name: nameSchema,
    when: {
      type: 'object',
      additionalProperties: false,
      properties: {
        query: { type: 'string', maxLength: LIMITS.queryLength, description: '"" = the empty query' },
        is: { enum: ['exact', 'starts', 'contains'], default: 'exact' },
        select: { type: 'object', additionalProperties: { type: 'array', items: { type: 'string' } } },
        tags: { type: 'array', items: { type: 'string' }, maxItems: 20 },
        from: { type: 'string', format: 'date', description: 'The first day, ISO 8601.' },
        to: { type: 'string', format: 'date', description: 'The last day, ISO 8601.' },
      },
    },
    pin: {
      type: 'array',
      maxItems: 100,
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['id', 'at'],
        properties: { id: recordKey, at: { type: 'integer', minimum: 1, maximum: 1000 } },
      },
    },
    hide: { type: 'array', items: recordKey, maxItems: 1000 },
    lift: { type: 'array', items: condition, maxItems: 20 },
    sink: { type: 'array', items: condition, maxItems: 20 },
    redirect: { type: ['string', 'null'], maxLength: 2000 },
    notice: { type: ['string', 'null'], maxLength: 2000 },
    replaceQuery: { type: ['string', 'null'], maxLength: LIMITS.queryLength },
  },
} as const;

/** A placement as a person or a script writes it. */
export type PlacementDocument = FromSchema<typeof placementSchema, { keepDefaultedPropertiesOptional: true }>;

/** For these queries, put this there. */
export interface Placement {
  name: string;
  when: {
    /** Undefined = any query. */
    query?: string;
    is: 'exact' | 'starts' | 'contains';
    select: Record<string, string[]>;
    tags: string[];
    from: string | null;
    to: string | null;
  };
  pin: { id: string; at: number }[];
  hide: string[];
  /** CQL2-Text conditions. */
  lift: string[];
  sink: string[];
  redirect: string | null;
  notice: string | null;
  replaceQuery: string | null;
}

/** Fills in the defaults of a validated placement. */
export function completePlacement(placement: PlacementDocument): Placement {
  const { query, is, select, tags, from, to } = placement.when;
  return {
    name: placement.name,
    when: {
      ...(query === undefined ? {} : { query }),
      is: is ?? 'exact',
      select: select ?? {},
      tags: tags ?? [],
      from: from ?? null,
      to: to ?? null,
    },
    pin: placement.pin ?? [],
    hide: placement.hide ?? [],
    lift: placement.lift ?? [],
    sink: placement.sink ?? [],
    redirect: placement.redirect ?? null,
    notice: placement.notice ?? null,
    replaceQuery: placement.replaceQuery ?? null,
  };
}
