import type { Tuning } from '@yucca/contract';
import type { Segment } from '../../segment/segment.ts';

/** What each indexed field of a segment counts, under one tuning. */
export interface FieldWeights {
  /** By field number: the heaviest searched field 1, a field that is not searched 0. */
  weights: Float64Array;
  /** By field number: 1 = never matches with a typo. */
  exact: Uint8Array;
  /** Whether every indexed field is searched: then a posting always counts. */
  all: boolean;
  anyExact: boolean;
  /** Tells apart what can match, for caches. */
  key: string;
}

export function fieldWeights({ meta }: Segment, { search: fields, typos }: Tuning): FieldWeights {
  const heaviest = fields.reduce((most, { weight }) => Math.max(most, weight), 0);
  const byField = new Map(fields.map(({ field, weight }) => [field, weight / heaviest]));
  const weights = Float64Array.from(meta.searchFields, (field) =>
    fields.length === 0 ? Number(meta.stringFields.includes(field)) : (byField.get(field) ?? 0),
  );
  const exact = Uint8Array.from(meta.searchFields, (field) => (typos.exactFields.includes(field) ? 1 : 0));
  return {
    weights,
    exact,
    all: weights.every((weight) => weight > 0),
    anyExact: exact.includes(1),
    key: `${weights.map((weight) => (weight > 0 ? 1 : 0)).join('')}/${exact.join('')}`,
  };
}
