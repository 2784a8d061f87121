import type { SynonymGroup } from '@yucca/contract';
import { printSynonym } from '../levers';

/** Something about the groups of synonyms that does not do what it looks like. */
export interface Trouble {
  /** Places in the list of the groups it is about. */
  groups: number[];
  sentence: string;
  /** Puts one group in their place, where that is the way out. */
  merged: SynonymGroup | null;
}

const plain = (word: string): string => word.trim().toLowerCase().replace(/\s+/g, ' ');

/**
 * Groups that stand in each other's way. Synonyms go one step only, so a word in two groups does not tie these
 * together; two one-way groups that lead back and forth are a group of the same meaning; one that says what another
 * says is for nothing. The cost is that of the words, not of the pairs of groups.
 */
export function troublesIn(groups: readonly SynonymGroup[]): Trouble[] {
  return [...repeats(groups), ...loops(groups), ...chains(groups)];
}

function repeats(groups: readonly SynonymGroup[]): Trouble[] {
  const seen = new Map<string, number>();
  return groups.flatMap((group, at): Trouble[] => {
    const parts = group.kind === 'same' ? [group.words] : [group.from, group.to];
    const key = group.kind + parts.map((words) => words.map(plain).sort().join('=')).join('>');
    const first = seen.get(key);
    seen.set(key, first ?? at);
    if (first === undefined) return [];
    return [
      { groups: [first, at], sentence: `“${printSynonym(group)}” is in the list twice.`, merged: groups[first]! },
    ];
  });
}

/** `a > b` with `b > a`. */
function loops(groups: readonly SynonymGroup[]): Trouble[] {
  const leads = new Map<string, number>();
  const troubles: Trouble[] = [];
  groups.forEach((group, at) => {
    if (group.kind !== 'oneWay') return;
    for (const from of group.from.map(plain)) {
      for (const to of group.to.map(plain)) {
        const back = leads.get(`${to}>${from}`);
        if (from === to)
          troubles.push({ groups: [at], sentence: `“${from}” leads to itself, which does nothing.`, merged: null });
        else if (back !== undefined)
          troubles.push({
            groups: [back, at],
            sentence: `“${from}” leads to “${to}” and back: they mean the same.`,
            merged: isPair(groups[back]!) && isPair(group) ? { kind: 'same', words: [from, to] } : null,
          });
        leads.set(`${from}>${to}`, at);
      }
    }
  });
  return troubles;
}

const isPair = (group: SynonymGroup): boolean =>
  group.kind === 'oneWay' && group.from.length === 1 && group.to.length === 1;

/** A word in two groups of the same meaning. */
function chains(groups: readonly SynonymGroup[]): Trouble[] {
  const places = new Map<string, number[]>();
  groups.forEach((group, at) => {
    if (group.kind !== 'same') return;
    for (const word of new Set(group.words.map(plain))) {
      const known = places.get(word);
      if (known) known.push(at);
      else places.set(word, [at]);
    }
  });
  return [...places].flatMap(([word, at]): Trouble[] => {
    if (at.length < 2) return [];
    const words = at.flatMap((one) => (groups[one] as { words: string[] }).words);
    const distinct = [...new Map(words.map((one) => [plain(one), one])).values()];
    const [first, second] = at.map((one) => (groups[one] as { words: string[] }).words.find((w) => plain(w) !== word));
    // Two lists of the very same words are told as a repeat.
    if (distinct.length === 2) return [];
    return [
      {
        groups: at,
        sentence: `“${word}” is in ${at.length} groups: “${first}” does not find “${second}”, as synonyms go one step.`,
        merged: { kind: 'same', words: distinct },
      },
    ];
  });
}

/** The groups with one in the place of those of a trouble. */
export function withMerged(groups: readonly SynonymGroup[], { groups: places, merged }: Trouble): SynonymGroup[] {
  if (merged === null) return groups.filter((_, at) => !places.includes(at));
  const first = Math.min(...places);
  return groups.flatMap((group, at) => (at === first ? [merged] : places.includes(at) ? [] : [group]));
}
