import { endsWord, endWord, firstWord, type Trie } from '../../segment/trie.ts';

/** A run of dictionary words that match a query word at one distance. */
export interface WordRun {
  /** Word numbers `[from, to)`. */
  from: number;
  to: number;
  typos: number;
  /** The whole word matches, not only its beginning. */
  whole: boolean;
}

/**
 * Finds every word of the dictionary within `maxTypos` of a query word, and with `prefix` also every word of which some
 * beginning is. Nothing within the distance is missed.
 *
 * A typo is one insertion, deletion, substitution or swap of neighbours, and no letter is edited twice (the "optimal
 * string alignment" distance; Wagner and Fischer 1974 with Damerau's swap). The walk goes once over the trie in
 * preorder and keeps one row of the distance table for each letter of the current path; words that share a beginning
 * share its rows. Row entry `j` is the distance between the path so far and the first `j` letters of the query. Once
 * every entry of a row is past the limit, no longer path can come back under it, and the subtree is skipped. (A swap
 * looks two rows back, but an entry below the limit there leaves one at most at the limit in the row between, so the
 * rule holds.)
 *
 * Only a band of `2 × maxTypos + 1` entries around the diagonal can be within the limit, so a node costs at most five.
 */
export function walkTypos(
  trie: Trie,
  query: string,
  { maxTypos, prefix, firstLetter }: { maxTypos: number; prefix: boolean; firstLetter: boolean },
  emit: (run: WordRun) => void,
): void {
  const length = query.length;
  const width = length + 1;
  const tooFar = maxTypos + 1;
  const deepest = length + maxTypos + 1;
  const letters = Uint16Array.from({ length }, (_, j) => query.charCodeAt(j));
  const rows = new Uint8Array((deepest + 1) * width).fill(tooFar);
  for (let j = 0; j <= Math.min(length, maxTypos); j++) rows[j] = j;
  /** Where the subtree of the path's node at each depth ends, and the best distance at which it is emitted already. */
  const ends = new Uint32Array(deepest + 1);
  const emitted = new Uint8Array(deepest + 1).fill(tooFar);
  const path = new Uint16Array(deepest + 1);
  const nodes = trie.labels.length;
  ends[0] = nodes;
  let depth = 0;
  let node = 1;
  while (node < nodes) {
    while (node >= ends[depth]!) depth--;
    const at = depth + 1;
    const label = trie.labels[node]!;
    const end = trie.ends[node]!;
    if (at > length + maxTypos || (at === 1 && !firstLetter && label !== letters[0])) {
      node = end;
      continue;
    }
    path[at] = label;
    const row = at * width;
    const above = row - width;
    let low = at - maxTypos;
    let best = tooFar;
    if (low <= 0) {
      low = 1;
      rows[row] = at;
      best = at;
    } else {
      rows[row + low - 1] = tooFar;
    }
    const high = Math.min(length, at + maxTypos);
    for (let j = low; j <= high; j++) {
      const same = letters[j - 1] === label;
      let value = rows[above + j - 1]! + (same ? 0 : 1);
      const left = rows[row + j - 1]! + 1;
      if (left < value) value = left;
      const up = j <= depth + maxTypos ? rows[above + j]! + 1 : tooFar;
      if (up < value) value = up;
      if (!same && j > 1 && at > 1 && letters[j - 2] === label && letters[j - 1] === path[at - 1]) {
        const swapped = rows[above - width + j - 2]! + 1;
        if (swapped < value) value = swapped;
      }
      if (value > tooFar) value = tooFar;
      rows[row + j] = value;
      if (value < best) best = value;
    }
    if (best > maxTypos) {
      node = end;
      continue;
    }
    const typos = high === length ? rows[row + length]! : tooFar;
    emitted[at] = emitted[depth]!;
    if (typos <= maxTypos) {
      const from = firstWord(trie, node);
      if (endsWord(trie, node)) emit({ from, to: from + 1, typos, whole: true });
      if (prefix && typos < emitted[at]!) {
        emitted[at] = typos;
        emit({ from, to: endWord(trie, node), typos, whole: false });
      }
    }
    ends[at] = end;
    depth = at;
    node++;
  }
}
