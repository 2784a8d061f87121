import { fieldRulesSchema, type FieldRule } from './field-rules.ts';
import { count, listOf, object, oneOf, yesOrNo, type Of } from './schema-of.ts';
import { tuningSchema } from './tuning-schema.ts';
import type { TuningDocument } from './tuning.ts';

/** How a collection is set up, as one file that can live beside the code of a page: everything but its records. */
export const settingsSchema = {
  $id: 'Settings',
  type: 'object',
  additionalProperties: false,
  required: ['settings', 'tuning'],
  properties: {
    settings: { const: 1, description: 'The version of this format.' },
    title: { type: 'string', minLength: 1, maxLength: 200 },
    key: { type: 'string', minLength: 1, maxLength: 200, description: 'The field that identifies a record.' },
    fieldRules: fieldRulesSchema.properties.rules,
    tuning: { ...tuningSchema, $id: 'SettingsTuning' },
  },
} as const;

export interface Settings {
  settings: 1;
  title?: string;
  key?: string;
  fieldRules?: FieldRule[];
  tuning: TuningDocument;
}

/** What a push of settings did. */
export const settingsAnswerSchema = object({
  /** Which parts were other than before. */
  changed: listOf(oneOf('title', 'fieldRules', 'tuning')),
  /** The version that is live now; the draft waits unless it was published. */
  liveVersion: count,
  draftChanged: yesOrNo,
});

export type SettingsAnswer = Of<typeof settingsAnswerSchema>;
