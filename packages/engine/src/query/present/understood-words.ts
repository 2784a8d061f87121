import type { UnderstoodWord } from '@yucca/contract';
import { memoByObject } from '../../memo/by-object.ts';
import { wordAt } from '../../segment/trie.ts';
import type { Matching, SegmentMatch } from '../match/match-query.ts';
import { isCapped, type Expansion } from '../match/expansions.ts';
import { inOtherScripts } from '../match/other-scripts.ts';
import { walkTypos } from '../match/typo-walk.ts';
import { languageAt } from '../match/text-languages.ts';
import type { WordMatch } from '../match/word-match.ts';

const EXPANSIONS_SHOWN = 5;

/**
 * Which words of the data a typed word was taken for, the most common first. With `hidesRecords` only words of records
 * that may be found are told: a forced filter hides the words of what it hides.
 */
export function understandWord(
  { words, alternatives, segments }: Matching,
  index: number,
  hidesRecords: boolean,
): UnderstoodWord {
  let least = Infinity;
  for (const match of segments) {
    for (const expansion of match.words[index]!.expansions) {
      if (expansion.typos < least && countOf(match, expansion, hidesRecords) > 0) least = expansion.typos;
    }
  }
  const found = new Map<string, number>();
  for (const match of segments) {
    for (const { text, count } of commonWords(match, index, least, hidesRecords))
      found.set(text, (found.get(text) ?? 0) + count);
  }
  const as = [...found].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1)).slice(0, EXPANSIONS_SHOWN);
  const all = segments.map(({ segment }) => segment);
  const capped = !hidesRecords && isCapped(alternatives[index]!, all);
  return {
    text: words[index]!.typed,
    typo: least > 0 && Number.isFinite(least),
    as: as.map(([text]) => text),
    ...(capped ? { capped } : {}),
  };
}

/** Letters of a word whose nearest spelling is looked for: what is longer is no word that somebody has misspelt. */
const LONGEST = 24;
/** Nodes of a dictionary above which one typo less is looked through, so that a hostile query costs little. */
const LARGE = 300_000;

/** Typos looked through for the nearest spelling of a word that stands nowhere. */
const farthest = (letters: number, nodes: number): number =>
  (letters >= 6 ? 3 : letters >= 3 ? 2 : 1) - (nodes > LARGE ? 1 : 0);

/**
 * The word of the data that is one that was not found, in another script (`moskva`, `москва`), or else is spelt most
 * like it, further off than matching goes; of equals the most common. Null when none is near. Only words of records
 * that may be found are told. The walk costs more the further it looks, so it is made only when a search has found
 * nothing.
 */
export function nearestSpelling({ words, segments }: Matching, index: number, hidesRecords: boolean): string | null {
  const { text, phrase } = words[index]!;
  if (phrase !== null || text.length > LONGEST) return null;
  const otherwise = otherScript(segments, text, hidesRecords);
  if (otherwise !== null) return otherwise;
  const found: { text: string; typos: number; count: number }[] = [];
  for (const match of segments) {
    const { trie } = match.segment;
    let maxTypos = farthest(text.length, trie.labels.length);
    walkTypos(trie, text, { maxTypos, prefix: false, firstLetter: true }, ({ from, to, typos }) => {
      if (typos > maxTypos) return;
      const count = countOf(match, { from, to, together: null }, hidesRecords);
      if (count === 0) return;
      maxTypos = typos;
      found.push({ text: wordAt(trie, from), typos, count });
    });
  }
  found.sort((a, b) => a.typos - b.typos || b.count - a.count || (a.text < b.text ? -1 : 1));
  return found[0]?.text ?? null;
}

/** The most common of the words that are the same in another script. */
function otherScript(segments: readonly SegmentMatch[], text: string, hides: boolean): string | null {
  const counts = new Map<string, number>();
  for (const match of segments) {
    const { trie } = match.segment;
    for (const term of inOtherScripts(trie, text)) {
      const count = countOf(match, { from: term, to: term + 1, together: null }, hides);
      const word = wordAt(trie, term);
      if (count > 0) counts.set(word, (counts.get(word) ?? 0) + count);
    }
  }
  const [best] = [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1));
  return best?.[0] ?? null;
}

/** By typos, of a word as it matched a segment: the same beginning comes with every visitor who types on. */
const knownCommon = memoByObject<WordMatch, Map<number, CommonWord[]>>(() => new Map());

interface CommonWord {
  text: string;
  /** Records that hold it, by postings. */
  count: number;
}

/** The most common words of the expansions of a word with so many typos. */
function commonWords(match: SegmentMatch, index: number, typos: number, hides: boolean): CommonWord[] {
  const word = match.words[index]!;
  const compute = (): CommonWord[] =>
    mostCommon(
      match,
      word.expansions.filter((expansion) => expansion.typos === typos),
      hides,
    );
  // What is hidden differs from asker to asker.
  if (hides) return compute();
  const known = knownCommon(word);
  let common = known.get(typos);
  if (common === undefined) known.set(typos, (common = compute()));
  return common;
}

/** The few most common words of some expansions. Expansions may overlap: a word is told once. */
function mostCommon(match: SegmentMatch, expansions: readonly Expansion[], hides: boolean): CommonWord[] {
  const { segment } = match;
  const best: { term: number; text: string | null; count: number }[] = [];
  const offer = (term: number, text: string | null, count: number): void => {
    if (count === 0 || (best.length === EXPANSIONS_SHOWN && count <= best[EXPANSIONS_SHOWN - 1]!.count)) return;
    if (best.some((known) => known.term === term && known.text === text)) return;
    best.push({ term, text, count });
    best.sort((a, b) => b.count - a.count);
    best.length = Math.min(best.length, EXPANSIONS_SHOWN);
  };
  for (const expansion of expansions) {
    if (expansion.together !== null) offer(-1, expansion.text, countOf(match, expansion, hides));
    const { together, from, to, language } = expansion;
    for (let term = from; term < to && together === null; term++) {
      // Counted only where it could matter.
      const most = segment.postStart(term + 1) - segment.postStart(term);
      if (best.length === EXPANSIONS_SHOWN && most <= best[EXPANSIONS_SHOWN - 1]!.count) continue;
      offer(term, null, countOf(match, { together, from: term, to: term + 1, language }, hides));
    }
  }
  return best.map(({ term, text, count }) => ({ text: text ?? wordAt(segment.trie, term), count }));
}

/** What is counted of an expansion. */
type Counted = Pick<Expansion, 'together' | 'from' | 'to'> & { language?: number | undefined };

/**
 * Postings of an expansion in fields that are searched: an index may hold more, for another tuning. With `hides` only
 * those of records that may be found.
 */
function countOf(
  { segment, allowed, fields }: SegmentMatch,
  { together, from, to, language }: Counted,
  hides: boolean,
): number {
  const counted = (docs: ArrayLike<number> & Iterable<number>): number => {
    if (!hides) return docs.length;
    let count = 0;
    for (const doc of docs) if (allowed.has(doc)) count++;
    return count;
  };
  if (together) return counted(together.docs);
  const { groupStarts, groupFields, groupPosts, postDocs } = segment;
  const languages = language === undefined ? null : fields.languages;
  if (fields.all && languages === null)
    return counted(postDocs.subarray(segment.postStart(from), segment.postStart(to)));
  let count = 0;
  for (let group = groupStarts[from]!; group < groupStarts[to]!; group++) {
    const field = groupFields[group]!;
    if (fields.weights[field] === 0) continue;
    const docs = postDocs.subarray(groupPosts[group], groupPosts[group + 1]);
    count += counted(languages === null ? docs : docs.filter((doc) => languageAt(languages, doc, field) === language));
  }
  return count;
}

/**
 * Words of one query whose nearest spelling is looked for: whoever types more that stand nowhere means something else.
 */
const MOST_RESPELT = 2;

/**
 * What the words of a query were taken for; when nothing was found, also what those that stand nowhere may have been
 * meant to be.
 */
export function understoodWords(matching: Matching, hidesRecords: boolean, nothing: boolean): UnderstoodWord[] {
  let looked = 0;
  return matching.words.map((_, i) => {
    const word = understandWord(matching, i, hidesRecords);
    const isLost = nothing && word.as.length === 0 && looked++ < MOST_RESPELT;
    const nearest = isLost ? nearestSpelling(matching, i, hidesRecords) : null;
    return nearest === null ? word : { ...word, nearest };
  });
}
