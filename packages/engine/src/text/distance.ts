/**
 * Distance between two words, and the least distance of `query` to any beginning of `word`, in typos (optimal string
 * alignment: insertion, deletion, substitution, swap of neighbours). One table answers both: the last column of each
 * row is the distance of the query to one beginning of the word.
 */
export function typoDistances(query: string, word: string): { whole: number; prefix: number } {
  const width = query.length + 1;
  let twoAbove = new Uint8Array(width);
  let above = Uint8Array.from({ length: width }, (_, j) => j);
  let row = new Uint8Array(width);
  let prefix = query.length;
  for (let i = 1; i <= word.length; i++) {
    row[0] = i;
    for (let j = 1; j <= query.length; j++) {
      const same = query.charCodeAt(j - 1) === word.charCodeAt(i - 1);
      let value = Math.min(above[j - 1]! + (same ? 0 : 1), row[j - 1]! + 1, above[j]! + 1);
      const isSwap =
        i > 1 &&
        j > 1 &&
        query.charCodeAt(j - 1) === word.charCodeAt(i - 2) &&
        query.charCodeAt(j - 2) === word.charCodeAt(i - 1);
      if (isSwap) value = Math.min(value, twoAbove[j - 2]! + 1);
      row[j] = value;
    }
    prefix = Math.min(prefix, row[query.length]!);
    [twoAbove, above, row] = [above, row, twoAbove];
  }
  return { whole: above[query.length]!, prefix };
}
