import type { FromSchema } from 'json-schema-to-ts';
import { LIMITS } from './limits.ts';

const fieldPath = { type: 'string', minLength: 1, maxLength: 512 } as const;

/** How a collection is searched: one document per collection and version. Unknown properties are refused. */
export const tuningSchema = {
  $id: 'Tuning',
  type: 'object',
  additionalProperties: false,
  properties: {
    search: {
      type: 'array',
      maxItems: 60,
      description: 'Searchable fields and how much a match in each counts. Empty = every string field, weight 1.',
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['field'],
        properties: { field: fieldPath, weight: { type: 'number', exclusiveMinimum: 0, maximum: 1000, default: 1 } },
      },
    },
    typos: {
      type: 'object',
      additionalProperties: false,
      properties: {
        enabled: { type: 'boolean', default: true },
        oneFrom: {
          type: 'integer',
          minimum: 1,
          maximum: 100,
          default: 4,
          description: 'Letters from which one typo is allowed.',
        },
        twoFrom: {
          type: 'integer',
          minimum: 1,
          maximum: 100,
          default: 8,
          description: 'Letters from which two typos are allowed.',
        },
        firstLetter: { type: 'boolean', default: true, description: 'May the first letter be wrong.' },
        numbers: { type: 'boolean', default: false, description: 'May words with digits hold typos.' },
        exactFields: {
          type: 'array',
          items: fieldPath,
          maxItems: 60,
          default: [],
          description: 'Fields that never match with a typo.',
        },
        exactWords: {
          type: 'array',
          items: { type: 'string', minLength: 1, maxLength: LIMITS.queryLength },
          maxItems: 10_000,
          default: [],
          description: 'Words that never match with a typo.',
        },
      },
    },
    facets: {
      type: 'array',
      maxItems: LIMITS.facetsPerQuery,
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['name', 'field'],
        properties: {
          name: { type: 'string', minLength: 1, maxLength: 128 },
          field: fieldPath,
          kind: { const: 'values', default: 'values' },
          match: {
            enum: ['any', 'all'],
            default: 'any',
            description: 'Whether one or every chosen value must be present.',
          },
          order: { enum: ['count', 'value'], default: 'count' },
          size: { type: 'integer', minimum: 1, maximum: LIMITS.valuesPerFacet, default: 20 },
          label: { type: 'string', maxLength: 200 },
        },
      },
    },
    show: { type: 'array', items: fieldPath, maxItems: 200, description: 'Fields a search returns; ["*"] = all.' },
  },
} as const;

/** A tuning document as a person or a script writes it: every part may be left out. */
export type TuningDocument = FromSchema<typeof tuningSchema, { keepDefaultedPropertiesOptional: true }>;

export interface SearchField {
  field: string;
  weight: number;
}

export interface TypoRules {
  enabled: boolean;
  oneFrom: number;
  twoFrom: number;
  firstLetter: boolean;
  numbers: boolean;
  exactFields: string[];
  exactWords: string[];
}

export interface FacetRule {
  name: string;
  field: string;
  kind: 'values';
  match: 'any' | 'all';
  order: 'count' | 'value';
  size: number;
  label: string;
}

/** A tuning document with every default filled in. */
export interface Tuning {
  search: SearchField[];
  typos: TypoRules;
  facets: FacetRule[];
  show: string[];
}

/** "height_cm" → "Height cm", "flowerMonths" → "Flower months": a field's name as a person would write it. */
export function readableName(field: string): string {
  const words = field
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .replace(/[._-]+/g, ' ')
    .trim()
    .toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** Fills in the defaults of a validated document. */
export function completeTuning(document: TuningDocument): Tuning {
  const typos: NonNullable<TuningDocument['typos']> = document.typos ?? {};
  return {
    search: (document.search ?? []).map(({ field, weight }) => ({ field, weight: weight ?? 1 })),
    typos: {
      enabled: typos.enabled ?? true,
      oneFrom: typos.oneFrom ?? 4,
      twoFrom: typos.twoFrom ?? 8,
      firstLetter: typos.firstLetter ?? true,
      numbers: typos.numbers ?? false,
      exactFields: typos.exactFields ?? [],
      exactWords: typos.exactWords ?? [],
    },
    facets: (document.facets ?? []).map((facet) => ({
      name: facet.name,
      field: facet.field,
      kind: 'values',
      match: facet.match ?? 'any',
      order: facet.order ?? 'count',
      size: facet.size ?? 20,
      label: facet.label ?? readableName(facet.name),
    })),
    show: document.show ?? ['*'],
  };
}
