/** A word that many of some texts hold and few of some others. */
export interface CommonWord {
  word: string;
  /** Texts that hold it. */
  count: number;
}

const LEAST_LETTERS = 4;
const WORD = /[\p{L}\p{N}]+/gu;

const wordsOf = (text: string): Set<string> => new Set(text.toLowerCase().match(WORD) ?? []);

/**
 * Words that at least half of the wanted texts hold, none of the others does and the query does not: what to lead the
 * query to. The commonest first; of equals the longer one, which says more.
 */
export function commonWords(wanted: readonly string[], others: readonly string[], query: string): CommonWord[] {
  const leftOut = new Set([...others.flatMap((text) => [...wordsOf(text)]), ...wordsOf(query)]);
  const counts = new Map<string, number>();
  for (const text of wanted) {
    for (const word of wordsOf(text))
      if (word.length >= LEAST_LETTERS && !leftOut.has(word)) counts.set(word, (counts.get(word) ?? 0) + 1);
  }
  return [...counts]
    .map(([word, count]) => ({ word, count }))
    .filter(({ count }) => count > 1 && count * 2 >= wanted.length)
    .sort((a, b) => b.count - a.count || b.word.length - a.word.length || (a.word < b.word ? -1 : 1));
}
