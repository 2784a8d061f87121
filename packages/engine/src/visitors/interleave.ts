/**
 * Two rankings tried out on the same visitors: each page of results is drafted from both, and what is opened counts for
 * the ranking it came from (team-draft interleaving: Radlinski, Kurup, Joachims, "How does clickthrough data reflect
 * retrieval quality?", CIKM 2008).
 */

export type Team = 'a' | 'b';

export interface Drafted {
  id: string;
  /** Whose it is; null where both had the same next, so that it says nothing of either. */
  team: Team | null;
}

/** What may stand in a drafted list besides what stands there already. */
export interface DraftRule {
  /** Whether a side may take one, at its turn. */
  fits: (id: string, team: Team) => boolean;
  /** Told of each that is taken. */
  take: (id: string) => void;
}

/**
 * Drafts one list from two. In each round both sides take their best record that is not taken yet, in an order that
 * `coin` decides (true: a first). No record comes twice; where both would take the same in the same round it stands for
 * neither, which also leaves records that both pin where they are. A rule may leave out what does not fit any more when
 * its turn comes.
 */
export function teamDraft(
  a: readonly string[],
  b: readonly string[],
  coin: () => boolean,
  rule?: DraftRule,
): Drafted[] {
  const taken = new Set<string>();
  const drafted: Drafted[] = [];
  const at = { a: 0, b: 0 };
  const lists = { a, b };
  const next = (team: Team): string | undefined => {
    const list = lists[team];
    while (at[team] < list.length && (taken.has(list[at[team]]!) || rule?.fits(list[at[team]]!, team) === false))
      at[team]++;
    return list[at[team]];
  };
  const take = (id: string, team: Team | null): void => {
    taken.add(id);
    rule?.take(id);
    drafted.push({ id, team });
  };
  for (;;) {
    const [nextA, nextB] = [next('a'), next('b')];
    if (nextA === undefined && nextB === undefined) return drafted;
    if (nextA === nextB) {
      take(nextA!, null);
      continue;
    }
    for (const team of coin() ? (['a', 'b'] as const) : (['b', 'a'] as const)) {
      const id = next(team);
      if (id !== undefined) take(id, team);
    }
  }
}

/** Whose results were opened more; null for a tie. */
export function winnerOf(drafted: readonly Drafted[], opened: Iterable<string>): Team | null {
  const teams = new Map(drafted.map(({ id, team }) => [id, team]));
  let lead = 0;
  for (const id of new Set(opened)) {
    const team = teams.get(id);
    if (team === 'a') lead++;
    else if (team === 'b') lead--;
  }
  return lead === 0 ? null : lead > 0 ? 'a' : 'b';
}

export interface Verdict {
  /** Which ranking visitors prefer so far; null while they are even. */
  preferred: Team | null;
  /**
   * How sure that is, 0 to 1. It may be looked at after every visitor: a trial of two equal rankings that is ended as
   * soon as this reaches 0.95 names a winner in 5 of 100 cases at the most.
   */
  confidence: number;
}

/**
 * What wins tell, ties left out. The evidence against "both are as good" is the likelihood of the wins under every
 * other share alike (a uniform mixture) over that under one half; by Ville's inequality it passes 1/α at any time with
 * a probability of α at the most (Robbins, "Statistical methods related to the law of the iterated logarithm", 1970).
 */
export function verdictOf(winsOfA: number, winsOfB: number): Verdict {
  const all = winsOfA + winsOfB;
  const evidence = all * Math.LN2 + logFactorial(winsOfA) + logFactorial(winsOfB) - logFactorial(all + 1);
  const preferred = winsOfA === winsOfB ? null : winsOfA > winsOfB ? 'a' : 'b';
  return { preferred, confidence: preferred === null ? 0 : Math.max(0, 1 - Math.exp(-evidence)) };
}

/** ln n!, exact for small n and by Stirling's series above. */
function logFactorial(n: number): number {
  if (n < 32) {
    let sum = 0;
    for (let i = 2; i <= n; i++) sum += Math.log(i);
    return sum;
  }
  return (n + 0.5) * Math.log(n) - n + 0.5 * Math.log(2 * Math.PI) + 1 / (12 * n) - 1 / (360 * n ** 3);
}
