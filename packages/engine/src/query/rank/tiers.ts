import { DocSet } from '../../sets/doc-set.ts';
import { SetCounts } from '../../sets/set-counts.ts';
import { anywhere, type WordMatch } from '../match/word-match.ts';

/** Typos of one query stay below this: 32 words of two each. */
const TYPOS_PER_TIER = 128;

/** Words lacking and typos spent as one number, smaller first: words come before typos. */
const tierOf = (lacking: number, typos: number): number => lacking * TYPOS_PER_TIER + typos;

/** Whether every word of the query is held in a tier. */
export const holdsAllWords = (tier: number): boolean => tier < TYPOS_PER_TIER;

/** How many words a document of a tier matched, and the typos it spent. */
export function readTier(tier: number, words: number): { words: number; typos: number } {
  return { words: words - Math.floor(tier / TYPOS_PER_TIER), typos: tier % TYPOS_PER_TIER };
}

/** Documents of one tier. */
export interface Tier {
  tier: number;
  set: DocSet;
}

/**
 * Parts documents by the words they lack and the typos they spend, best first, by sets alone. Made as they are asked
 * for: what holds every word as it was typed usually fills the page, and it is the one tier that needs no counting.
 */
export function* tiersOf(results: DocSet, words: readonly WordMatch[]): Generator<Tier> {
  const best = results.copy().andAll(words.map(({ within }) => within[0]!));
  if (!best.isEmpty()) yield { tier: 0, set: best };
  const left = results.copy().minus(best);
  if (left.isEmpty()) return;
  // A word costs a typo for each allowance that is too small for the document.
  const allowances = words.flatMap(({ within }) =>
    within.slice(0, -1).map((fewer) => ({ all: within[within.length - 1]!, fewer })),
  );
  let spent: SetCounts | null = null;
  const byTypos = function* (lacking: number, alike: DocSet): Generator<Tier> {
    left.minus(alike);
    if (alike.count() <= FEW) return yield* tiersOfFew(alike, words);
    spent ??= new SetCounts(
      left.docs,
      allowances.map(({ all, fewer }) => all.without(fewer)),
    );
    while (!alike.isEmpty()) {
      const { count, set } = spent.fewest(alike);
      alike.minus(set);
      yield { tier: tierOf(lacking, count), set };
    }
  };
  yield* byTypos(0, left.copy().andAll(words.map(anywhere)));
  if (left.isEmpty()) return;
  const held = new SetCounts(left.docs, words.map(anywhere));
  while (!left.isEmpty()) {
    const { count, set } = held.most(left);
    yield* byTypos(words.length - count, set);
  }
}

/** So few documents are parted one by one. */
const FEW = 256;

function* tiersOfFew(few: DocSet, words: readonly WordMatch[]): Generator<Tier> {
  const list = few.list();
  const numbers = tierNumbers(list, words);
  for (const tier of [...new Set(numbers)].sort((a, b) => a - b)) {
    yield {
      tier,
      set: DocSet.of(
        few.docs,
        list.filter((_, i) => numbers[i] === tier),
      ),
    };
  }
}

/** The tiers of a few documents, one by one: for a list of them that is quicker than sets. */
export function tierNumbers(list: Uint32Array, words: readonly WordMatch[]): Uint16Array {
  const tiers = new Uint16Array(list.length);
  for (const word of words) {
    const { within } = word;
    const all = anywhere(word).bits;
    for (let i = 0; i < list.length; i++) {
      const doc = list[i]!;
      const [at, bit] = [doc >>> 5, 1 << (doc & 31)];
      if ((all[at]! & bit) === 0) {
        tiers[i]! += tierOf(1, 0);
        continue;
      }
      for (let typos = 0; typos < within.length - 1; typos++) if ((within[typos]!.bits[at]! & bit) === 0) tiers[i]!++;
    }
  }
  return tiers;
}

/** Tiers are below this. */
export const tierCount = (words: number): number => tierOf(words + 1, 0);
