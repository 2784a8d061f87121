import type { SynonymGroup } from '@yucca/contract';

/** What was read of a file of synonyms. */
export interface ParsedSynonyms {
  groups: SynonymGroup[];
  /** What was left out, in sentences. */
  ignored: string[];
}

/** Words of one group, each once, as far as they are words. */
export function cleanWords(words: readonly string[]): string[] {
  const byFold = new Map<string, string>();
  for (const word of words) {
    const text = word.trim().replace(/\s+/g, ' ');
    const fold = text.toLowerCase();
    if (text !== '' && !byFold.has(fold)) byFold.set(fold, text);
  }
  return [...byFold.values()];
}

export function sameGroup(words: readonly string[]): SynonymGroup | null {
  const clean = cleanWords(words);
  return clean.length < 2 ? null : { kind: 'same', words: clean };
}

export function oneWayGroup(from: readonly string[], to: readonly string[]): SynonymGroup | null {
  const [typed, found] = [cleanWords(from), cleanWords(to)];
  return typed.length === 0 || found.length === 0 ? null : { kind: 'oneWay', from: typed, to: found };
}
