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
  let least = 0;
  if (all.length > size) {
    const counts = new Uint32Array(all.length);
    for (let i = 0; i < all.length; i++) counts[i] = all[i]!.count;
    least = counts.sort()[all.length - size]!;
  }
  return all
    .filter(({ count, selected }) => count >= least || selected)
    .sort((a, b) => b.count - a.count || byLabel(a, b))
    .filter(({ selected }, rank) => rank < size || selected);
}
