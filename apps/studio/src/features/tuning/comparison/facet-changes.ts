import { facetValues, type FacetAnswer } from '@yucca/contract';

/** A value of a facet with its counts under two versions. */
export interface FacetCounts {
  label: string;
  before: number;
  after: number;
}

/** One facet under two versions. */
export interface FacetChange {
  name: string;
  label: string;
  /** The values that change first, those that change most before the others; then the commonest. */
  values: FacetCounts[];
  /** Values whose counts differ. */
  changed: number;
  /** Of numbers: their ends, in words, when they differ or are all there is to say. */
  ends: { before: string; after: string } | null;
}

type Facets = Readonly<Record<string, FacetAnswer>>;

const endsOf = (facet: FacetAnswer | undefined): string =>
  facet?.kind !== 'numbers' || facet.min === null ? 'none' : `${facet.min} to ${facet.max}`;

/**
 * How the facets of two answers differ, in the order of the second. Values that are listed in one answer alone are left
 * out: whether the other has them is not known.
 */
export function facetChanges(before: Facets, after: Facets): FacetChange[] {
  return Object.keys({ ...after, ...before }).map((name) => {
    const [old, now] = [before[name], after[name]];
    const isNumbers = (now ?? old)?.kind === 'numbers';
    const counts = new Map(facetValues(old).map(({ value, count }) => [value, count]));
    const values = facetValues(now).flatMap(({ value, label, count }): FacetCounts[] => {
      const was = counts.get(value);
      return was === undefined ? [] : [{ label, before: was, after: count }];
    });
    const difference = (one: FacetCounts): number => Math.abs(one.after - one.before);
    return {
      name,
      label: (now ?? old)?.label ?? name,
      values: [...values].sort((a, b) => difference(b) - difference(a) || b.after - a.after),
      changed: values.filter((one) => difference(one) > 0).length,
      ends: isNumbers ? { before: endsOf(old), after: endsOf(now) } : null,
    };
  });
}
