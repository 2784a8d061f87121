import type { Why, WhyPart } from '@yucca/contract';
import { POSITION_BITS } from '../../segment/forward.ts';
import { wordAt } from '../../segment/trie.ts';
import type { Matching, SegmentMatch } from '../match/match-query.ts';
import type { Candidate } from '../rank/rank.ts';
import { readTier } from '../rank/tiers.ts';
import { FULL_POINTS, roundScore } from '../../score/text-score.ts';
import { Scorer, type BestExpansion } from '../rank/scorer.ts';
import { fieldOfWhole, Whole } from '../rank/whole-values.ts';

/** Why each of some results is where it is: scored once more, looking at which expansion wins. */
export function explainAll(matching: Matching, shown: readonly Candidate[]): Map<Candidate, Why> {
  const reasons = new Map<Candidate, Why>();
  matching.segments.forEach((match, index) => {
    const here = shown.filter((candidate) => candidate.segment === index);
    if (here.length === 0) return;
    const scorer = new Scorer(match, matching.idfs);
    for (const candidate of here) reasons.set(candidate, explainOne(matching, match, scorer, candidate));
  });
  return reasons;
}

function explainOne({ query, words, idfs }: Matching, match: SegmentMatch, scorer: Scorer, candidate: Candidate): Why {
  const { doc, tier, signals, score } = candidate;
  const matched = { ...readTier(tier, words.length), ...wholeFieldOf(match, query, candidate) };
  if (words.length === 0) return { ...matched, text: 0, signals, score, parts: [] };
  const { text, closeness, expansions } = scorer.explain(doc);
  const total = idfs.reduce((sum, weight) => sum + weight, 0);
  const parts = expansions.flatMap((best, i): WhyPart[] => {
    if (best === null) return [];
    const points = (100 * closeness * idfs[i]! * best.points) / (total * FULL_POINTS);
    return [describe(match, words[i]!.typed, best, roundScore(points))];
  });
  evenOut(parts, text);
  return { ...matched, text, signals, score, parts };
}

/** The field that holds the very query, where there is one. */
function wholeFieldOf(
  { segment, fields }: SegmentMatch,
  query: Matching['query'],
  { doc, whole }: Candidate,
): Pick<Why, 'whole'> {
  if (whole === Whole.Rest) return {};
  const field = fieldOfWhole(segment, query, fields, doc, whole);
  return { whole: { field: segment.meta.searchFields[field]!, isCode: whole === Whole.Code } };
}

function describe({ segment }: SegmentMatch, word: string, best: BestExpansion, points: number): WhyPart {
  const { how, typos, text } = best.expansion;
  return {
    word,
    matched: best.term === -1 ? text! : wordAt(segment.trie, best.term),
    how,
    ...(typos > 0 ? { typos } : {}),
    field: segment.meta.searchFields[best.location >>> POSITION_BITS]!,
    points,
  };
}

/** Lets the rounded parts add up to the rounded whole: the largest takes the difference. */
function evenOut(parts: WhyPart[], text: number): void {
  if (parts.length === 0) return;
  const sum = parts.reduce((total, { points }) => total + points, 0);
  const largest = parts.reduce((best, part) => (part.points > best.points ? part : best));
  largest.points = roundScore(largest.points + text - sum);
}
