/** Page numbers to offer: the first, the last, and the ones around the current; 0 stands for a gap. */
export function pageNumbers(page: number, pages: number): number[] {
  const wanted = [1, page - 1, page, page + 1, pages].filter((n) => n >= 1 && n <= pages);
  const numbers: number[] = [];
  for (const n of [...new Set(wanted)].sort((a, b) => a - b)) {
    const last = numbers.at(-1);
    if (last !== undefined && n === last + 2) numbers.push(n - 1);
    else if (last !== undefined && n > last + 2) numbers.push(0);
    numbers.push(n);
  }
  return numbers;
}
