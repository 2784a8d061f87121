/**
 * What clicks say of results once it is taken into account that the first ranks are looked at most: the position-based
 * model (Craswell, Zoeter, Taylor, Ramsey, "An experimental comparison of click position-bias models", WSDM 2008), with
 * its parameters found by expectation-maximisation (Chuklin, Markov, de Rijke, "Click Models for Web Search", 2015,
 * chapters 3.3 and 4.2).
 */

/** How often a record was shown at a rank for a query, and how often it was opened there. */
export interface Shown {
  query: string;
  recordId: string;
  /** From 1. */
  rank: number;
  shown: number;
  opened: number;
}

export interface ClickModel {
  /** The share of visitors who look at a rank; that of rank 1 is 1. Index 0 is rank 1. */
  looked: number[];
  /** By query and record: the share of those who look that open it, and how often it was shown. */
  attraction: Map<string, Map<string, { share: number; shown: number }>>;
}

/** Ranks below are looked at as often as this one. */
const DEEPEST = 50;
const ROUNDS = 100;
/** Rounds that change no rank by more than this are the last. */
const SETTLED = 1e-4;
/** Before anything is known one of two who look opens it; that weighs as much as two visitors. */
const PRIOR = { opened: 1, shown: 2 };

/** Finds how much each rank is looked at, and how attractive each record is for each query. */
export function clickModelOf(rows: readonly Shown[]): ClickModel {
  const known = rows.filter(({ shown, rank }) => shown > 0 && rank >= 1);
  const rankOf = ({ rank }: Shown): number => Math.min(rank, DEEPEST) - 1;
  const deepest = known.reduce((most, row) => Math.max(most, rankOf(row)), 0);
  let looked = Array.from({ length: deepest + 1 }, (_, i) => 1 / (1 + i / 2));
  const pairs = new Map<string, { share: number; shown: number; query: string; recordId: string }>();
  const pairOf = known.map(({ query, recordId, shown }) => {
    const name = JSON.stringify([query, recordId]);
    const pair = pairs.get(name) ?? { share: 0.5, shown: 0, query, recordId };
    pair.shown += shown;
    pairs.set(name, pair);
    return pair;
  });
  for (let round = 0; round < ROUNDS; round++) {
    const attracted = new Map<object, number>();
    const looks = looked.map(() => ({ looked: 0, shown: 0 }));
    known.forEach((row, i) => {
      const pair = pairOf[i]!;
      const rank = rankOf(row);
      const passed = row.shown - row.opened;
      const neither = 1 - pair.share * looked[rank]!;
      // Of those who did not open it: who would have, had they looked; and who looked all the same.
      const wouldHave = neither > 0 ? (pair.share * (1 - looked[rank]!)) / neither : 0;
      const didLook = neither > 0 ? (looked[rank]! * (1 - pair.share)) / neither : 0;
      attracted.set(pair, (attracted.get(pair) ?? 0) + row.opened + passed * wouldHave);
      looks[rank]!.looked += row.opened + passed * didLook;
      looks[rank]!.shown += row.shown;
    });
    for (const [pair, sum] of attracted as Map<{ share: number; shown: number }, number>)
      pair.share = (sum + PRIOR.opened) / (pair.shown + PRIOR.shown);
    const raw = looks.map((one, rank) => (one.shown > 0 ? one.looked / one.shown : looked[rank]!));
    // Only the product of both is seen, so one of them has to be said: the first result is always looked at.
    const next = raw.map((share) => Math.min(1, share / raw[0]!));
    const change = Math.max(...next.map((share, rank) => Math.abs(share - looked[rank]!)));
    looked = next;
    if (change < SETTLED) break;
  }
  const attraction: ClickModel['attraction'] = new Map();
  for (const { query, recordId, share, shown } of pairs.values()) {
    const ofQuery = attraction.get(query) ?? new Map<string, { share: number; shown: number }>();
    ofQuery.set(recordId, { share, shown });
    attraction.set(query, ofQuery);
  }
  return { looked, attraction };
}

/** A record shown less often than this says nothing. */
const LEAST_SHOWN = 20;
/** The least share for each grade, from the best on. */
const GRADES: readonly (readonly [grade: number, least: number])[] = [
  [3, 0.5],
  [2, 0.25],
  [1, 0.1],
];

/** Grades of judgements, by query and record, of what was shown often enough. */
export function gradesFrom({ attraction }: ClickModel): Map<string, Map<string, number>> {
  const grades = new Map<string, Map<string, number>>();
  for (const [query, records] of attraction)
    for (const [recordId, { share, shown }] of records) {
      if (shown < LEAST_SHOWN) continue;
      const ofQuery = grades.get(query) ?? new Map<string, number>();
      ofQuery.set(recordId, GRADES.find(([, least]) => share >= least)?.[0] ?? 0);
      grades.set(query, ofQuery);
    }
  return grades;
}
