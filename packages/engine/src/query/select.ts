/**
 * The `rank`-th smallest of some numbers, from 1. Puts them in another order. Quickselect (Hoare, Algorithm 65, 1961) with the middle
 * of three as what parts the rest: on average it looks at each number three times, however many there are.
 */
export function smallest(numbers: Float64Array, rank: number): number {
  let [low, high] = [0, numbers.length - 1];
  const wanted = rank - 1;
  while (low < high) {
    const [left, right] = part(numbers, low, high, middleOf(numbers, low, high));
    if (wanted <= right) high = right;
    else if (wanted >= left) low = left;
    else break;
  }
  return numbers[wanted]!;
}

/** Puts what is smaller than a number before what is greater; answers where the greater and where the smaller ones begin from. */
function part(numbers: Float64Array, low: number, high: number, pivot: number): [left: number, right: number] {
  while (low <= high) {
    while (numbers[low]! < pivot) low++;
    while (numbers[high]! > pivot) high--;
    if (low > high) break;
    const held = numbers[low]!;
    numbers[low++] = numbers[high]!;
    numbers[high--] = held;
  }
  return [low, high];
}

function middleOf(numbers: Float64Array, low: number, high: number): number {
  const [a, b, c] = [numbers[low]!, numbers[(low + high) >>> 1]!, numbers[high]!];
  return a < b ? (b < c ? b : Math.max(a, c)) : a < c ? a : Math.max(b, c);
}
