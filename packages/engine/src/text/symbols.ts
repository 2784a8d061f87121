/**
 * Signs that are searched as words: emoji, currency signs, `©`, `°`, arrows. One is a whole cluster (UTS #51): a flag
 * is two letters, a gardener a person and a sheaf. Variation selectors and the colours of skin are folded away.
 */
const DRESSED = '\\p{Extended_Pictographic}(?:[\\ufe0e\\ufe0f]|\\p{Emoji_Modifier})*';
const CLUSTER = new RegExp(
  `\\p{RI}{2}|${DRESSED}[\\u{e0020}-\\u{e007f}]*(?:\\u200d${DRESSED})*|.(?:\\p{Mn}|[\\ufe0e\\ufe0f])*`,
  'suy',
);
const FOLDED_AWAY = /\p{Mn}|(?<=.)\p{Emoji_Modifier}/gsu;

/** Where the cluster of signs that begins at `start` ends. */
export function symbolEnd(source: string, start: number): number {
  CLUSTER.lastIndex = start;
  return CLUSTER.test(source) ? CLUSTER.lastIndex : start + 1;
}

/** A cluster as it is compared: a wide yen is a yen, a hand of any colour a hand. */
export function foldSymbol(cluster: string): string {
  const plain = cluster.normalize('NFD').replace(FOLDED_AWAY, '');
  const narrow = plain.normalize('NFKC');
  return narrow.length === 1 ? narrow : plain;
}
