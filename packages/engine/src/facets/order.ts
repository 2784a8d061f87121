import type { FacetValue } from '@yucca/contract';

/** Names in natural order, so that "10 cm" follows "9 cm". */
export const { compare: compareNames } = new Intl.Collator('en', { numeric: true });

/** Code units break ties, so that the order is total. */
const byLabel = (a: FacetValue, b: FacetValue): number =>
  compareNames(a.label, b.label) || (a.value < b.value ? -1 : a.value > b.value ? 1 : 0);

/** The first values of a list by count or by name; selected ones stay, wherever they would stand. */
export function listed(all: readonly FacetValue[], order: 'count' | 'value', size: number): FacetValue[] {
  // Who wants every value puts them in an order of their own.
  if (size === Infinity) return [...all];
  const compare = order === 'value' ? byLabel : byCount;
  const first = firstOf(order === 'value' ? all : atLeastListed(all, size), size, compare);
  const isFirst = new Set(first);
  return [...first, ...all.filter((value) => value.selected && !isFirst.has(value)).sort(compare)];
}

const byCount = (a: FacetValue, b: FacetValue): number => b.count - a.count || byLabel(a, b);

/** Those that count no less than the last one that fits. */
function atLeastListed(all: readonly FacetValue[], size: number): FacetValue[] {
  const counts = new Uint32Array(all.length);
  for (let i = 0; i < all.length; i++) counts[i] = all[i]!.count;
  const least = leastListed(counts, size);
  return all.filter(({ count }) => count >= least);
}

/**
 * The first `size` of a list in an order, by inserting (Knuth, TAOCP 3, 5.2.1): what is not among them costs one
 * comparison.
 */
export function firstOf<T>(all: readonly T[], size: number, compare: (a: T, b: T) => number): T[] {
  const first: T[] = [];
  for (const one of all) {
    if (first.length >= size && (size === 0 || compare(one, first[size - 1]!) >= 0)) continue;
    let [low, high] = [0, first.length];
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (compare(first[middle]!, one) <= 0) low = middle + 1;
      else high = middle;
    }
    first.splice(low, 0, one);
    if (first.length > size) first.pop();
  }
  return first;
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
