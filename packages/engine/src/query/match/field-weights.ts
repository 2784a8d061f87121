import type { Tuning } from '@yucca/contract';
import { memoByObject } from '../../memo/by-object.ts';
import type { Generation } from '../../segment/generation.ts';
import type { Segment } from '../../segment/segment.ts';
import { languagesOf } from '../../text/languages.ts';
import { textLanguages, type TextLanguages } from './text-languages.ts';

/** What it means for a record that a value of a field is the very query; see rank/whole-values.ts. */
export const WholeField = { None: 0, Value: 1, Code: 2 } as const;

/** Share of the heaviest weight from which on a field's values name records rather than tell their kind. */
const NAMING_WEIGHT = 0.5;

/** What each indexed field of a segment counts, under one tuning. */
export interface FieldWeights {
  /** By field number: the heaviest searched field 1, a field that is not searched 0. */
  weights: Float64Array;
  /** By field number: 1 = never matches with a typo. */
  exact: Uint8Array;
  /** By field number: a WholeField. */
  whole: Uint8Array;
  /** Whether every indexed field is searched: then a posting always counts. */
  all: boolean;
  anyExact: boolean;
  /** In which language each text is; null when all are in one. */
  languages: TextLanguages | null;
  /** Tells apart what can match, for caches. */
  key: string;
}

/** Fields that hold the key of every record of a collection. */
const keyFieldsOf = memoByObject(({ segments }: Generation): ReadonlySet<string> => {
  const [first, ...rest] = segments.map(({ segment }) => segment).filter(({ docs }) => docs > 0);
  return new Set(first?.meta.keyFields.filter((path) => rest.every((segment) => segment.isKey(path))));
});

interface Kept {
  keyFields: ReadonlySet<string>;
  weights: FieldWeights;
}

const keptOf = memoByObject<Segment, (tuning: Tuning) => { last: Kept | null }>(() =>
  memoByObject(() => ({ last: null })),
);

/** The weights of a segment of a generation; worked out once for each state of the collection. */
export function fieldWeights(segment: Segment, tuning: Tuning, generation: Generation): FieldWeights {
  const keyFields = keyFieldsOf(generation);
  const kept = keptOf(segment)(tuning);
  if (kept.last?.keyFields !== keyFields) kept.last = { keyFields, weights: compute(segment, tuning, keyFields) };
  return kept.last.weights;
}

function compute(segment: Segment, tuning: Tuning, keyFields: ReadonlySet<string>): FieldWeights {
  const { meta } = segment;
  const { search: fields, typos } = tuning;
  const heaviest = fields.reduce((most, { weight }) => Math.max(most, weight), 0);
  const byField = new Map(fields.map(({ field, weight }) => [field, weight / heaviest]));
  const weights = Float64Array.from(meta.searchFields, (field) =>
    fields.length === 0 ? Number(meta.stringFields.includes(field)) : (byField.get(field) ?? 0),
  );
  const exact = Uint8Array.from(meta.searchFields, (field) => (typos.exactFields.includes(field) ? 1 : 0));
  const whole = Uint8Array.from(meta.searchFields, (field, i) => {
    if (weights[i] === 0) return WholeField.None;
    if (exact[i] === 1 || keyFields.has(field)) return WholeField.Code;
    return weights[i]! >= NAMING_WEIGHT ? WholeField.Value : WholeField.None;
  });
  const languages = textLanguages(segment, tuning);
  return {
    weights,
    exact,
    whole,
    all: weights.every((weight) => weight > 0),
    anyExact: exact.includes(1),
    languages,
    key: JSON.stringify([
      weights.map((weight) => (weight > 0 ? 1 : 0)).join(''),
      exact.join(''),
      ...(languages === null ? [] : [languagesOf(tuning), languages.ofField.join(' '), tuning.languageField]),
    ]),
  };
}
