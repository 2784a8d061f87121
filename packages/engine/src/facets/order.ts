import type { FacetValue } from '@yucca/contract';

// Natural order, so that "10 cm" follows "9 cm"; code units break ties, so that the order is total.
const collator = new Intl.Collator('en', { numeric: true });

function byLabel(a: FacetValue, b: FacetValue): number {
  return collator.compare(a.label, b.label) || (a.value < b.value ? -1 : a.value > b.value ? 1 : 0);
}

/** The first values of a list by count or by name; selected ones stay, wherever they would stand. */
export function listed(all: readonly FacetValue[], order: 'count' | 'value', size: number): FacetValue[] {
  return order === 'value' ? firstByName(all, size) : mostCounted(all, size);
}

function firstByName(all: readonly FacetValue[], size: number): FacetValue[] {
  return [...all].sort(byLabel).filter(({ selected }, rank) => rank < size || selected);
}

/**
 * Comparing texts by language is slow, so only values that may be listed are compared: those that count no less than the
 * last one that fits.
 */
function mostCounted(all: readonly FacetValue[], size: number): FacetValue[] {
  const least = leastListed(
    Uint32Array.from({ length: all.length }, (_, i) => all[i]!.count),
    size,
  );
  return all
    .filter(({ count, selected }) => count >= least || selected)
    .sort((a, b) => b.count - a.count || byLabel(a, b))
    .filter(({ selected }, rank) => rank < size || selected);
}

/** The count of the last value that fits into a list of the most common; 0 when all fit. Puts `counts` in order. */
export function leastListed(counts: Uint32Array, size: number): number {
  return counts.length <= size ? 0 : counts.sort()[counts.length - size]!;
}
