import type { RecordJson } from '@yucca/contract';

export interface KeyGuess {
  /** The field that identifies a record; null when no field can. */
  field: string | null;
  /** Why, as a sentence for a person. */
  reason: string;
}

/** Names people give to identifiers, the likeliest first. */
const NAMES = [
  /^_?id$/i,
  /^(uuid|guid|key)$/i,
  /^(sku|isbn|ean|gtin|slug|code|number|no|handle)$/i,
  /[_-]?id$/i,
  /(code|key|number|slug)$/i,
];

/**
 * Guesses which field identifies a record, from a sample: it must be in every record, never repeat, and be short text or
 * a number; its name and its place among the fields decide between several.
 */
export function guessKey(sample: readonly RecordJson[]): KeyGuess {
  const first = sample[0];
  if (first === undefined) return { field: null, reason: 'There are no records to look at.' };
  const rows = sample.length.toLocaleString('en');
  const fields = Object.keys(first);
  const usable = fields.filter((field) => isKey(sample, field));
  const ranked = usable
    .map((field, place) => ({ field, rank: nameRank(field), place }))
    .sort((a, b) => a.rank - b.rank || a.place - b.place);
  const best = ranked[0];
  const repeated = fields.find((field) => nameRank(field) <= 1 && !usable.includes(field));
  if (best !== undefined && (best.rank < NAMES.length || best.field === fields[0])) {
    const also = repeated === undefined ? '' : ` (“${repeated}” is not: ${whyNot(sample, repeated)})`;
    return {
      field: best.field,
      reason: `“${best.field}” is in every one of the first ${rows} records and never repeats${also}.`,
    };
  }
  if (repeated !== undefined)
    return { field: null, reason: `“${repeated}” cannot tell records apart: ${whyNot(sample, repeated)}.` };
  return { field: null, reason: `No field is in every one of the first ${rows} records without repeating.` };
}

function nameRank(field: string): number {
  const rank = NAMES.findIndex((pattern) => pattern.test(field));
  return rank === -1 ? NAMES.length : rank;
}

function whyNot(sample: readonly RecordJson[], field: string): string {
  const seen = new Set<unknown>();
  for (const record of sample) {
    const value = record[field];
    if (value === undefined || value === null || value === '') return 'some records lack it';
    if (typeof value !== 'string' && typeof value !== 'number') return 'it holds more than a text or a number';
    if (seen.has(value)) return `${JSON.stringify(value)} stands in two records`;
    seen.add(value);
  }
  return 'its values are too long';
}

function isKey(sample: readonly RecordJson[], field: string): boolean {
  const seen = new Set<string>();
  for (const record of sample) {
    const value = Object.hasOwn(record, field) ? record[field] : undefined;
    if ((typeof value !== 'string' && typeof value !== 'number') || value === '') return false;
    if (typeof value === 'number' && !Number.isInteger(value)) return false;
    const text = String(value);
    if (text.length > 128 || seen.has(text)) return false;
    seen.add(text);
  }
  return true;
}
