import type { Tuning } from '@yucca/contract';
import { memoByObject } from '../../memo/by-object.ts';
import type { Segment } from '../../segment/segment.ts';
import { DocSet } from '../../sets/doc-set.ts';
import { languagesOf } from '../../text/languages.ts';
import type { FieldWeights } from './field-weights.ts';
import { languageOfField } from './text-languages.ts';
import type { QueryWord } from '../parse/parse-query.ts';
import { alternativeExpansions, ownExpansions, type Alternative, type Expansion } from './expansions.ts';
import { RecentMatches } from './recent-matches.ts';

/** How one query word matches one segment: its expansions, and the documents they reach. */
export interface WordMatch {
  /** By typos ascending. */
  expansions: readonly Expansion[];
  /** `within[t]`: documents that match with at most `t` typos. */
  within: readonly DocSet[];
  /** Documents that hold the word as written; what tells how common it is. */
  asWritten: number;
}

/** All documents that match, whatever the typos. */
export function anywhere({ within }: WordMatch): DocSet {
  return within[within.length - 1]!;
}

/** Matches one word of the query. `alternatives` are its expansions that hang on its neighbours or on synonyms. */
export function matchWord(
  segment: Segment,
  word: QueryWord,
  alternatives: readonly Alternative[],
  fields: FieldWeights,
  tuning: Tuning,
): WordMatch {
  const recent = recentOf(segment);
  const key = JSON.stringify([
    word.text,
    word.phrase !== null,
    word.prefix,
    word.typos,
    tuning.typos.firstLetter,
    tuning.stems && languagesOf(tuning),
    fields.key,
  ]);
  const own = recent.get(key, () => computeOwn(segment, word, fields, tuning));
  if (alternatives.length === 0) return own;
  return recent.get(`${key}${JSON.stringify(alternatives)}`, () =>
    withAlternatives(own, segment, alternatives, fields),
  );
}

const recentOf = memoByObject((segment: Segment) => new RecentMatches(segment.bytes));

function withAlternatives(
  own: WordMatch,
  segment: Segment,
  alternatives: readonly Alternative[],
  fields: FieldWeights,
): WordMatch {
  const others = alternatives.flatMap((alternative) => alternativeExpansions(segment, alternative, fields));
  if (others.length === 0) return own;
  const added = new DocSet(segment.docs);
  for (const expansion of others) addDocs(segment, expansion, fields, added);
  return {
    expansions: [...others, ...own.expansions].sort((a, b) => a.typos - b.typos),
    within: own.within.map((set) => added.union(set)),
    asWritten: own.asWritten,
  };
}

/** The same without all that needs a typo. */
export function withoutTypos({ expansions, within, asWritten }: WordMatch): WordMatch {
  return { expansions: expansions.filter(({ typos }) => typos === 0), within: [within[0]!], asWritten };
}

function computeOwn(segment: Segment, word: QueryWord, fields: FieldWeights, tuning: Tuning): WordMatch {
  const expansions = ownExpansions(segment, word, tuning, fields);
  const within: DocSet[] = [];
  let asWritten = 0;
  for (let typos = 0; typos <= word.typos; typos++) {
    const set = typos === 0 ? new DocSet(segment.docs) : within[typos - 1]!.copy();
    for (const expansion of expansions) {
      if (expansion.typos !== typos) continue;
      addDocs(segment, expansion, fields, set);
      // It comes first, so the set holds nothing else yet.
      if (expansion.how === 'exact' || expansion.how === 'phrase') asWritten = set.count();
    }
    within.push(set);
  }
  return { expansions, within, asWritten };
}

/** Adds the documents an expansion reaches, in fields that are searched. */
export function addDocs(segment: Segment, expansion: Expansion, fields: FieldWeights, set: DocSet): void {
  const { together, from, to, typos, language } = expansion;
  if (together !== null) {
    for (const doc of together.docs) set.add(doc);
    return;
  }
  const { languages } = fields;
  const isIn = language !== undefined && languages !== null;
  if (fields.all && !isIn && (typos === 0 || !fields.anyExact)) {
    addRun(segment, from, to, set);
    return;
  }
  const { groupStarts, groupFields, groupPosts, postDocs } = segment;
  const { weights, exact } = fields;
  for (let group = groupStarts[from]!; group < groupStarts[to]!; group++) {
    const field = groupFields[group]!;
    if (weights[field] === 0 || (typos > 0 && exact[field] === 1)) continue;
    const of = isIn ? languageOfField(languages, field) : language;
    if (of === language) addPostings(postDocs, groupPosts[group]!, groupPosts[group + 1]!, set);
    else if (of === null) {
      for (let at = groupPosts[group]!; at < groupPosts[group + 1]!; at++)
        if (languages!.ofDoc[postDocs[at]!] === language) set.add(postDocs[at]!);
    }
  }
}

/**
 * Adds the documents of a run of words. The few words that stand in a good part of all documents make up most of the
 * postings behind a first letter; they are kept as sets, which are added at once.
 */
function addRun(segment: Segment, from: number, to: number, set: DocSet): void {
  const { groupStarts, groupPosts, postDocs } = segment;
  const { groups, sets } = frequentGroups(segment);
  let at = groupPosts[groupStarts[from]!]!;
  const [first, end] = [groupStarts[from]!, groupStarts[to]!];
  for (let i = 0; i < groups.length; i++) {
    const group = groups[i]!;
    if (group < first) continue;
    if (group >= end) break;
    addPostings(postDocs, at, groupPosts[group]!, set);
    let frequent = sets[i];
    if (frequent === undefined) {
      frequent = sets[i] = new DocSet(segment.docs).keep();
      addPostings(postDocs, groupPosts[group]!, groupPosts[group + 1]!, frequent);
    }
    set.or(frequent);
    at = groupPosts[group + 1]!;
  }
  addPostings(postDocs, at, groupPosts[end]!, set);
}

/** A group with more than this share of all documents is kept as a set: a set costs one bit for each document. */
const FREQUENT = 1 / 24;

const frequentGroups = memoByObject((segment: Segment): { groups: number[]; sets: (DocSet | undefined)[] } => {
  const { partedGroups, groupPosts, docs } = segment;
  const groups = [...partedGroups].filter((group) => groupPosts[group + 1]! - groupPosts[group]! > docs * FREQUENT);
  return { groups, sets: [] };
});

function addPostings(docs: Uint32Array, from: number, to: number, { bits }: DocSet): void {
  for (let at = from; at < to; at++) {
    const doc = docs[at]!;
    bits[doc >>> 5]! |= 1 << (doc & 31);
  }
}
