import type { FacetValue } from '@yucca/contract';

// Natural order, so that "10 cm" follows "9 cm"; code units break ties, so that the order is total.
const collator = new Intl.Collator('en', { numeric: true });

function byLabel(a: FacetValue, b: FacetValue): number {
  return collator.compare(a.label, b.label) || (a.value < b.value ? -1 : a.value > b.value ? 1 : 0);
}

/** The first values of a list by count or by name; selected ones stay, wherever they would stand. */
export function listed(all: readonly FacetValue[], order: 'count' | 'value', size: number): FacetValue[] {
  // Who wants every value puts them in an order of their own; comparing tens of thousands of names here takes long.
  if (size === Infinity) return [...all];
  return order === 'value' ? firstByName(all, size) : mostCounted(all, size);
}

function firstByName(all: readonly FacetValue[], size: number): FacetValue[] {
  return [...all].sort(byLabel).filter(({ selected }, rank) => rank < size || selected);
}

/**
 * Comparing texts by language is slow, so only values that may be listed are compared: those that count no less than
 * the last one that fits.
 */
function mostCounted(all: readonly FacetValue[], size: number): FacetValue[] {
  const counts = new Uint32Array(all.length);
  for (let i = 0; i < all.length; i++) counts[i] = all[i]!.count;
  const least = leastListed(counts, size);
  return all
    .filter(({ count, selected }) => count >= least || selected)
    .sort((a, b) => b.count - a.count || byLabel(a, b))
    .filter(({ selected }, rank) => rank < size || selected);
}

/**
 * The count of the last value that fits into a list of the most common; 0 when all fit. One pass with a heap of as many
 * as are listed (Knuth, TAOCP 3, 5.2.3): whatever else there is costs a comparison each.
 */
export function leastListed(counts: Uint32Array, size: number): number {
  if (counts.length <= size || size === 0) return 0;
  // The least stands at the root, each above the two at 2i + 1 and 2i + 2.
  const heap = new Uint32Array(size);
  for (let i = 0; i < counts.length; i++) {
    const count = counts[i]!;
    if (count <= heap[0]!) continue;
    let at = 0;
    for (let below = 1; below < size; below = 2 * at + 1) {
      if (below + 1 < size && heap[below + 1]! < heap[below]!) below++;
      if (heap[below]! >= count) break;
      heap[at] = heap[below]!;
      at = below;
    }
    heap[at] = count;
  }
  return heap[0]!;
}
