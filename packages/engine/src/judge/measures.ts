import type { Scores } from '@yucca/contract';

/** Ranks that count for the gain and for the first good one, and for precision. */
const DEPTH = 10;
const PRECISION_DEPTH = 5;
/** From this grade on a record is a good answer. */
const GOOD = 2;

/** What a grade is worth: the best is worth more than twice a good one. */
const gainOf = (grade: number): number => 2 ** grade - 1;

/** The gain of a ranking, each rank worth less than the one before. */
function discountedGain(grades: readonly number[]): number {
  return grades.slice(0, DEPTH).reduce((sum, grade, i) => sum + gainOf(grade) / Math.log2(i + 2), 0);
}

/**
 * Normalised discounted cumulative gain of the first ten: the gain of a ranking as a share of what the best possible
 * one would have (Järvelin, Kekäläinen 2002; with the exponential gain of Burges and others 2005). Records without a
 * grade count as wrong. 1 when there is nothing to gain.
 */
export function ndcg(ranking: readonly string[], grades: Readonly<Record<string, number>>): number {
  const ideal = discountedGain(Object.values(grades).sort((a, b) => b - a));
  return ideal === 0 ? 1 : discountedGain(gradesOf(ranking, grades)) / ideal;
}

/** Share of the first five ranks that hold a good answer; of fewer good records than ranks, of those there are. */
export function precision(ranking: readonly string[], grades: Readonly<Record<string, number>>): number {
  const good = Object.values(grades).filter((grade) => grade >= GOOD).length;
  const ranks = Math.min(PRECISION_DEPTH, good);
  if (ranks === 0) return 1;
  const hits = gradesOf(ranking, grades)
    .slice(0, PRECISION_DEPTH)
    .filter((grade) => grade >= GOOD).length;
  return Math.min(1, hits / ranks);
}

/** 1 divided by the rank of the first good answer; 0 when none is among the first ten (Voorhees 1999). */
export function reciprocalRank(ranking: readonly string[], grades: Readonly<Record<string, number>>): number {
  const at = gradesOf(ranking, grades)
    .slice(0, DEPTH)
    .findIndex((grade) => grade >= GOOD);
  return at === -1 ? 0 : 1 / (at + 1);
}

const gradesOf = (ranking: readonly string[], grades: Readonly<Record<string, number>>): number[] =>
  ranking.map((id) => (Object.hasOwn(grades, id) ? grades[id]! : 0));

/** All measures of one answer. */
export function scoresOf(ranking: readonly string[], grades: Readonly<Record<string, number>>): Scores {
  return {
    ndcg: ndcg(ranking, grades),
    precision: precision(ranking, grades),
    reciprocalRank: reciprocalRank(ranking, grades),
    found: ranking.length > 0 ? 1 : 0,
  };
}

/** The mean of some scores, measure by measure; zeros of none. */
export function meanScores(all: readonly Scores[]): Scores {
  const mean = (name: keyof Scores): number =>
    all.reduce((sum, scores) => sum + scores[name], 0) / Math.max(1, all.length);
  return {
    ndcg: mean('ndcg'),
    precision: mean('precision'),
    reciprocalRank: mean('reciprocalRank'),
    found: mean('found'),
  };
}

/** Differences below this are the noise of the last digit. */
const SAME = 0.0005;

/** Whether a draft does better (1), worse (-1) or the same (0) for a query, by its gain. */
export function verdict({ live, draft }: { live: Scores; draft: Scores }): -1 | 0 | 1 {
  const change = draft.ndcg - live.ndcg;
  return Math.abs(change) < SAME ? 0 : change > 0 ? 1 : -1;
}
