import type { FromSchema } from 'json-schema-to-ts';

/** What the values of a field can be read as. */
export const READINGS = ['number', 'boolean', 'date', 'list', 'json', 'text'] as const;

export type Reading = (typeof READINGS)[number];

const fieldRuleSchema = {
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
export interface RuleEffect {
  /** Records it would change. */
  changes: number;
  /** Records whose value it cannot read; they stay as they are. */
  unreadable: number;
  /** Records that hold a value of the field at all. */
  holding: number;
  /** A few of those it would change, and of those it cannot read (`after` is null). */
  examples: { id: string; before: unknown; after: unknown }[];
}
