import type { FacetKind } from './tuning.ts';
import type { Reading } from './field-rules.ts';

/** JSON's types, as they are counted in a profile. */
export type JsonType = 'string' | 'number' | 'boolean' | 'null' | 'object';

export type WarningCode =
  | 'mixed-types'
  | 'mostly-missing'
  | 'almost-constant'
  | 'looks-like-url'
  | 'looks-like-hash'
  | 'looks-like-html'
  | 'looks-like-date'
  | 'looks-like-number'
  | 'looks-like-boolean'
  | 'looks-like-list'
  | 'looks-like-json'
  | 'looks-like-coordinates'
  | 'odd-spaces'
  | 'names-are-data';

/** Something about a field that costs its owner something. */
export interface FieldWarning {
  code: WarningCode;
  /** What it is and what it costs, as a sentence. */
  detail: string;
  /** How many records it concerns. */
  records: number;
  /** A field rule that would mend it. */
  repair?: { as: Reading; separator?: string };
  /** Some of the values meant. */
  examples: string[];
}

/** What a field would be good for, and why. Null = not. */
export interface FieldProposal {
  search: { weight: number; reason: string } | null;
  facet: { kind: FacetKind; reason: string; separator?: string; labelField?: string } | null;
  sort: { reason: string } | null;
  signal: { shape: 'linear' | 'log' | 'recency'; reason: string } | null;
  show: { reason: string; shown: boolean };
  snippet: { reason: string } | null;
  html: boolean;
  geo: { reason: string } | null;
}

/** What stands in one field, over all records. */
export interface FieldProfile {
  /** Dotted; lists are entered, so `suppliers.name` holds the name of every supplier. */
  path: string;
  /** How many values of each type there are. Values inside lists count one by one. */
  types: Partial<Record<JsonType, number>>;
  /** Records that hold the field, and records that do not (or only null or an empty text). */
  records: number;
  missing: number;
  /** Records that hold a list there, and the most values in one record. */
  lists: number;
  most: number;
  distinct: number;
  /** Up to 10,000 the count is exact; above, an estimate within about 2%. */
  distinctExact: boolean;
  /** Of the numbers, when there are any. */
  numbers: { min: number; max: number; mean: number } | null;
  /** Of the texts: characters. */
  length: { min: number; max: number; mean: number; words: number } | null;
  /** The first and last of ISO dates written as text. */
  dates: { from: string; to: string } | null;
  samples: (string | number | boolean)[];
  /** The commonest values with the number of values each; empty where nearly every value is another. */
  top: { value: string; count: number }[];
  /** Numbers or dates (in years, months or days since 1970) by bins of one width, exact. */
  spread: { from: number; width: number; counts: number[]; unit: 'number' | 'day' } | null;
  warnings: FieldWarning[];
  proposal: FieldProposal;
}

export interface Profile {
  records: number;
  fields: FieldProfile[];
  /** Field paths beyond the limit, not profiled. */
  fieldsLeftOut: number;
  warnings: FieldWarning[];
  tookMs: number;
}
