import { fieldRuleSchema, type FieldRule } from './field-rules.ts';
import { FACET_KIND_NAMES } from './facets.ts';
import { SIGNAL_SHAPE_NAMES } from './signal-shapes.ts';
import { as, count, listOf, number, object, oneOf, orNull, ref, text, yesOrNo, type Of } from './schema-of.ts';

/** JSON's types, as they are counted in a profile. */
export type JsonType = 'string' | 'number' | 'boolean' | 'null' | 'object';

const warningCode = oneOf(
  'mixed-types',
  'mostly-missing',
  'almost-constant',
  'looks-like-url',
  'looks-like-hash',
  'looks-like-html',
  'looks-like-date',
  'looks-like-number',
  'looks-like-boolean',
  'looks-like-list',
  'looks-like-json',
  'looks-like-coordinates',
  'odd-spaces',
  'names-are-data',
);

export type WarningCode = Of<typeof warningCode>;

/** Something about a field that costs its owner something. */
export const fieldWarningSchema = object(
  {
    code: warningCode,
    /** What it is and what it costs, as a sentence. */
    detail: text,
    /** How many records it concerns. */
    records: count,
    /** A field rule that would mend it. */
    repair: as<FieldRule>(fieldRuleSchema),
    /** Some of the values meant. */
    examples: listOf(text),
  },
  'repair',
);

export type FieldWarning = Of<typeof fieldWarningSchema>;

/** Useful too, but others are more so: it is there when it is looked for. */
const further = yesOrNo;

const reasonOrNull = orNull(object({ reason: text }));

/** What a field would be good for, and why. Null = not. */
const fieldProposalSchema = object({
  search: orNull(object({ weight: number, reason: text })),
  facet: orNull(
    object(
      /** `label`: with the unit that a field rule found beside its numbers. */
      { kind: oneOf(...FACET_KIND_NAMES), reason: text, separator: text, labelField: text, label: text, further },
      'separator',
      'labelField',
      'label',
      'further',
    ),
  ),
  sort: orNull(object({ reason: text, further }, 'further')),
  signal: orNull(object({ shape: oneOf(...SIGNAL_SHAPE_NAMES), reason: text })),
  show: object({ reason: text, shown: yesOrNo }),
  snippet: reasonOrNull,
  html: yesOrNo,
  /** Its texts are in a language of their own, or it tells the language of each record (BCP 47 tags). */
  language: orNull(object({ of: oneOf('texts', 'records'), languages: listOf(text), reason: text })),
  geo: reasonOrNull,
});

export type FieldProposal = Of<typeof fieldProposalSchema>;

/** What stands in one field, over all records. */
export const fieldProfileSchema = object({
  /** Dotted; lists are entered, so `suppliers.name` holds the name of every supplier. */
  path: text,
  /** How many values of each type there are. Values inside lists count one by one. */
  types: as<Partial<Record<JsonType, number>>>({ type: 'object', additionalProperties: count }),
  /** Records that hold the field. */
  records: count,
  /** Records that do not, or hold only null or an empty text. */
  missing: count,
  /** Records that hold a list there. */
  lists: count,
  /** The most values in one record. */
  most: count,
  distinct: count,
  /** Up to 10,000 the count is exact; above, an estimate within about 2%. */
  distinctExact: yesOrNo,
  /** Of the numbers, when there are any. */
  numbers: orNull(object({ min: number, max: number, mean: number })),
  /** Of the texts: characters. */
  length: orNull(object({ min: count, max: count, mean: number, words: number })),
  /** The first and last of ISO dates written as text. */
  dates: orNull(object({ from: text, to: text })),
  samples: listOf(as<string | number | boolean>({ type: ['string', 'number', 'boolean'] })),
  /** The commonest values with the number of values each; empty where nearly every value is another. */
  top: listOf(object({ value: text, count })),
  /** Numbers or dates (in years, months or days since 1970) by bins of one width, exact. */
  spread: orNull(object({ from: number, width: number, counts: listOf(count), unit: oneOf('number', 'day') })),
  warnings: listOf(ref<FieldWarning>('FieldWarning')),
  proposal: fieldProposalSchema,
});

export type FieldProfile = Of<typeof fieldProfileSchema>;

export const profileSchema = object({
  records: count,
  fields: listOf(ref<FieldProfile>('FieldProfile')),
  /** Field paths beyond the limit, not profiled. */
  fieldsLeftOut: count,
  warnings: listOf(ref<FieldWarning>('FieldWarning')),
  tookMs: number,
});

export type Profile = Of<typeof profileSchema>;
