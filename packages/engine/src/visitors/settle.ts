import { typoDistances } from '../text/distance.ts';
import { foldWords } from '../text/words.ts';

/** One search of a visit, as it was answered. */
export interface VisitSearch {
  /** When, in milliseconds since 1970. */
  at: number;
  /** As typed. */
  q: string;
  /** Whether a completion was chosen for it. */
  chosen: boolean;
  /** Whether the visitor acted upon its answer: opened a record, or did what the page is for. */
  acted: boolean;
}

/** A query that a visitor meant. */
export interface Settled<S> {
  search: S;
  /** Its words, folded: what tells queries apart. */
  words: string;
  /** All searches that led to it, itself among them: the keystrokes before, and the same words again. */
  trail: S[];
}

/** The rules, in milliseconds; docs/insights.md says them in words. */
export const SETTLING = {
  /** A text that stood so long was meant, unless what followed in its trail goes on from it. */
  restedMs: 1_500,
  /** Whatever comes later than this is another trail. */
  trailMs: 4_000,
  /** Choosing a completion takes reading. */
  choosingMs: 30_000,
} as const;

/**
 * What a visitor meant by the searches of one visit, which are in the order of time.
 *
 * A trail is a run of searches, each the beginning of the next, what is left of the one before, or a correction of it,
 * less than 4 s apart; opening a result or emptying the field ends it. Of a trail those texts count that rested 1.5 s,
 * were acted upon, or stand at its end with nothing after them; of two where the later one goes on from the earlier,
 * the later one alone. What stands between two takings away of letters never counts.
 *
 * `open`: the searches of a trail that may still go on at `now`.
 */
export function settle<S extends VisitSearch>(
  searches: readonly S[],
  now: number,
): { settled: Settled<S>[]; open: S[] } {
  const settled: Settled<S>[] = [];
  let trail: Step<S>[] = [];
  const close = (nextAt: number): void => {
    settled.push(...meantIn(trail, nextAt));
    trail = [];
  };
  for (const search of searches) {
    const words = foldWords(search.q);
    const before = trail.at(-1);
    if (before && !goesOn(before, { search, words })) close(search.at);
    // An empty field means nothing, and ends what was in it.
    if (words !== '') trail.push({ search, words });
  }
  const last = trail.at(-1);
  if (last === undefined) return { settled, open: [] };
  if (!last.search.acted && now - last.search.at < SETTLING.trailMs)
    return { settled, open: trail.map(({ search }) => search) };
  close(Infinity);
  return { settled, open: [] };
}

/** Letters of two texts that are compared: nobody corrects more. */
const COMPARED = 100;

interface Step<S> {
  search: S;
  words: string;
}

function goesOn<S extends VisitSearch>(before: Step<S>, next: Step<S>): boolean {
  if (before.search.acted || next.words === '') return before.words === next.words;
  const gap = next.search.at - before.search.at;
  if (gap >= (next.search.chosen ? SETTLING.choosingMs : SETTLING.trailMs)) return false;
  return leadsTo(before.words, next.words);
}

/** Whether a text is the beginning of another, what is left of it, or the same corrected, perhaps with more behind. */
export function leadsTo(from: string, to: string): boolean {
  if (to.startsWith(from) || from.startsWith(to)) return true;
  const { whole, prefix } = typoDistances(from.slice(0, COMPARED), to.slice(0, COMPARED));
  return Math.min(whole, prefix) <= (from.length >= 4 ? 2 : 1);
}

const isShorter = (before?: Step<VisitSearch>, next?: Step<VisitSearch>): boolean =>
  before !== undefined && next !== undefined && next.words !== before.words && before.words.startsWith(next.words);

function meantIn<S extends VisitSearch>(trail: readonly Step<S>[], nextAt: number): Settled<S>[] {
  const candidates = trail.flatMap((step, i) => {
    const rested = (trail[i + 1]?.search.at ?? nextAt) - step.search.at >= SETTLING.restedMs;
    // Who takes letters away and then more of them means none of what stood between.
    if (isShorter(trail[i - 1], step) && isShorter(step, trail[i + 1])) return [];
    return rested || step.search.acted || step.search.chosen ? [i] : [];
  });
  const meant = candidates.filter(
    (i, n) =>
      trail[i]!.search.acted || !candidates.slice(n + 1).some((later) => leadsTo(trail[i]!.words, trail[later]!.words)),
  );
  let from = 0;
  return meant.map((i) => {
    const { search, words } = trail[i]!;
    const part = trail.slice(from, i + 1).map((step) => step.search);
    from = i + 1;
    return { search, words, trail: part };
  });
}
