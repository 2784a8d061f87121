import type { JudgedQuery, JudgementScores } from '@yucca/contract';
import { meanScores, verdict } from '@yucca/engine/judge';
import { api } from '@/ui/api';

/** Queries asked in one go: small enough that progress is seen and leaving stops the rest. */
const AT_ONCE = 40;

/**
 * Scores the queries in parts, by whose judgements is asked for; `onPart` hears what is there so far. Stops when
 * `signal` fires.
 */
export async function runJudgements(
  collection: string,
  queries: readonly string[],
  signal: AbortSignal,
  onPart: (part: readonly JudgedQuery[]) => void = () => {},
  by: 'hand' | 'visitors' = 'hand',
): Promise<JudgedQuery[]> {
  const scored: JudgedQuery[] = [];
  for (let at = 0; at < queries.length; at += AT_ONCE) {
    const { queries: part } = await api<JudgementScores>(`/collections/${collection}/judgements/run`, {
      method: 'POST',
      json: { queries: queries.slice(at, at + AT_ONCE), by },
      signal,
    });
    scored.push(...part);
    onPart(part);
  }
  return scored;
}

/** What a draft does to the judged queries, in short. */
export interface DraftEffect {
  judged: number;
  live: number;
  draft: number;
  better: JudgedQuery[];
  worse: JudgedQuery[];
}

/** The effect on all queries, those that change most first. */
export function effectOf(scored: readonly JudgedQuery[]): DraftEffect {
  const change = ({ live, draft }: JudgedQuery): number => Math.abs(draft.ndcg - live.ndcg);
  const sorted = [...scored].sort((a, b) => change(b) - change(a));
  return {
    judged: scored.length,
    live: meanScores(scored.map(({ live }) => live)).ndcg,
    draft: meanScores(scored.map(({ draft }) => draft)).ndcg,
    better: sorted.filter((one) => verdict(one) === 1),
    worse: sorted.filter((one) => verdict(one) === -1),
  };
}

/** What the draft does to all judged queries; null when none is judged. */
export async function draftEffect(collection: string, signal: AbortSignal): Promise<DraftEffect | null> {
  const init = { method: 'POST', json: {}, signal };
  const { queries } = await api<JudgementScores>(`/collections/${collection}/judgements/run`, init);
  return queries.length === 0 ? null : effectOf(queries);
}
