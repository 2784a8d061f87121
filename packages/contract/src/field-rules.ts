import type { FromSchema } from 'json-schema-to-ts';
import { as, count, listOf, object, text, type Of } from './schema-of.ts';

/** What the values of a field can be read as. */
export const READINGS = ['number', 'boolean', 'date', 'list', 'json', 'text', 'position'] as const;

export type Reading = (typeof READINGS)[number];

export const fieldRuleSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['field', 'as'],
  properties: {
    field: { type: 'string', minLength: 1, maxLength: 512, description: 'A dotted field path; lists are entered.' },
    as: {
      enum: READINGS,
      description: 'What its values are read as. A value that cannot be read so stays as it came.',
    },
    separator: {
      type: 'string',
      minLength: 1,
      maxLength: 8,
      default: ',',
      description: 'list: what stands between the items.',
    },
    decimal: {
      enum: ['.', ','],
      description: 'number: the decimal sign of the column. Left out, each value is read for itself.',
    },
    unit: {
      type: 'string',
      minLength: 1,
      maxLength: 16,
      description: 'number: what stands beside each number, such as ft or €. It is kept for labels.',
    },
    format: {
      type: 'string',
      minLength: 1,
      maxLength: 40,
      description:
        'date: the pattern of the column (Unicode UTS 35, such as M/d/yyyy); t and T are seconds and milliseconds since 1970. Left out, each value is read for itself.',
    },
    order: {
      enum: ['lat-first', 'lng-first'],
      description:
        'position: which number of a pair comes first. Left out: latitude in texts, longitude in lists (GeoJSON).',
    },
    from: {
      type: 'array',
      minItems: 2,
      maxItems: 2,
      items: { type: 'string', minLength: 1, maxLength: 512 },
      description:
        'position: the fields of its latitude and its longitude. The position is a field of its own beside them.',
    },
  },
} as const;

/** How values are read whenever a record is written, whatever it came from. */
export const fieldRulesSchema = {
  $id: 'FieldRules',
  type: 'object',
  additionalProperties: false,
  required: ['rules'],
  properties: { rules: { type: 'array', maxItems: 500, items: fieldRuleSchema } },
} as const;

export type FieldRules = FromSchema<typeof fieldRulesSchema, { keepDefaultedPropertiesOptional: true }>;
export type FieldRule = FieldRules['rules'][number];

export const fieldRulePreviewSchema = { ...fieldRuleSchema, $id: 'FieldRulePreview' } as const;

/** What a rule would do to the records that are here. */
export const ruleEffectSchema = object({
  /** Records it would change. */
  changes: count,
  /** Records whose value it cannot read; they stay as they are. */
  unreadable: count,
  /** Records that hold a value of the field at all. */
  holding: count,
  /** A few of those it would change, and of those it cannot read (`after` is null). */
  examples: listOf(object({ id: text, before: as<unknown>({}), after: as<unknown>({}) })),
});

export type RuleEffect = Of<typeof ruleEffectSchema>;
