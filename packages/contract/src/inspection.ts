import { fieldRuleSchema, type FieldRule } from './field-rules.ts';
import { as, count, listOf, object, orNull, saying, text, yesOrNo, type Of } from './schema-of.ts';

/** What was understood of a file from its beginning, and how a load would read it. */
export const inspectionSchema = object({
  format: saying('In words.', text),
  charset: saying('What it is written in, by its name in the Encoding standard.', text),
  at: saying(
    'JSON documents: where the records may be, the likeliest first.',
    listOf(object({ pointer: saying('A JSON Pointer; empty: the document itself.', text), records: count })),
  ),
  key: object({
    field: saying('The field that tells records apart; null when none can.', orNull(text)),
    unique: saying('Whether no two of the records that were looked at share a value.', yesOrNo),
    reason: text,
  }),
  fields: listOf(
    object({
      path: saying('A field of the file, or one that a rule would make of others.', text),
      types: saying('JSON types of its values, the most frequent first.', listOf(text)),
      samples: saying('The first of its values, as text.', listOf(text)),
      proposals: saying(
        'Field rules, the one to take first; none when values are what they seem to be.',
        listOf(object({ rule: as<FieldRule>(fieldRuleSchema), reason: text, doubtful: yesOrNo }, 'doubtful')),
      ),
    }),
  ),
  rows: saying('In the whole file; estimated when only its beginning was sent.', count),
  rowsExact: yesOrNo,
  load: saying(
    'How POST …/records reads the same.',
    object({ type: saying('Of the body.', text), query: saying('Of the address.', text) }),
  ),
});
export type InspectionAnswer = Of<typeof inspectionSchema>;
