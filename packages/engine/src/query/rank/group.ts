import type { Tuning } from '@yucca/contract';
import { memoByObject } from '../../memo/by-object.ts';
import { firstValue, type ValueColumn } from '../../columns/column.ts';
import { countIn } from '../../facets/known-counts.ts';
import { eachCandidate, rankAcross, type Candidate, type RankJob } from './rank.ts';

type GroupRule = NonNullable<Tuning['group']>;
type Compare = (a: Candidate, b: Candidate) => number;

/** Results after grouping: the best few of each family. */
export interface Grouped {
  /** The best ones. */
  best: Candidate[];
  total: number;
  /** How many more the family of a result has, told of one of each family: of its first pin, or else of its best. */
  others: Map<Found, number>;
}

/** A result, or a record that is pinned. */
export type Found = Pick<Candidate, 'segment' | 'doc'>;

/** How many times as many results as can be shown are ranked before all of them are. */
const REACHES = [4, 64];

/**
 * The best `size` results after grouping. A family is what shares the first value of a field, as text, across segments;
 * a record without one is a family of its own. What is pinned counts among those that its family may show. How many
 * results there are is known by counting, and the first of them are mostly found among the first of all; only where few
 * families hold the top is every match scored.
 */
export function rankGrouped(
  jobs: readonly RankJob[],
  rule: GroupRule,
  compare: Compare,
  size: number,
  pins: readonly Found[],
): Grouped {
  const families = new Families(jobs, rule, pins);
  const wanted = Math.min(size, families.total);
  const matches = jobs.reduce((sum, { results }) => sum + results.count, 0);
  for (const times of REACHES) {
    if (wanted * times >= matches) break;
    const best = bestOfEach(rankAcross(jobs, compare, wanted * times), families, wanted);
    if (best.length === wanted) return { best, total: families.total, others: othersOf([...pins, ...best], families) };
  }
  const kept = new Kept(compare, families);
  for (const job of jobs) eachCandidate(job, (candidate) => kept.offer(candidate));
  const best = kept.sorted().slice(0, size);
  return { best, total: families.total, others: othersOf([...pins, ...best], families) };
}

/** Goes down a ranking and takes what is not past the number its family may show. */
function bestOfEach(ranked: readonly Candidate[], families: Families, wanted: number): Candidate[] {
  const shown = new Map<string, number>();
  const best: Candidate[] = [];
  for (const candidate of ranked) {
    if (best.length === wanted) break;
    const family = families.of(candidate);
    if (family !== null) {
      const already = shown.get(family) ?? 0;
      if (already === families.slots(family)) continue;
      shown.set(family, already + 1);
    }
    best.push(candidate);
  }
  return best;
}

function othersOf(shown: readonly Found[], families: Families): Map<Found, number> {
  const seen = new Set<string>();
  const others = new Map<Found, number>();
  for (const candidate of shown) {
    const family = families.of(candidate);
    if (family === null || seen.has(family)) continue;
    seen.add(family);
    others.set(candidate, families.more(family));
  }
  return others;
}

/** The families of some results, and how many results each has besides what is pinned. */
class Families {
  readonly #columns: (ValueColumn | null)[];
  readonly #counts = new Map<string, number>();
  readonly #keep: number;
  readonly #pinned = new Map<string, number>();
  /** Results that are left when each family shows no more than it may. */
  readonly total: number;

  constructor(jobs: readonly RankJob[], { field, keep }: GroupRule, pins: readonly Found[]) {
    this.#keep = keep;
    this.#columns = jobs.map(({ match }) => match.segment.values(field));
    for (const pin of pins) {
      const family = this.of(pin);
      if (family !== null) this.#pinned.set(family, (this.#pinned.get(family) ?? 0) + 1);
    }
    let total = 0;
    jobs.forEach(({ results }, job) => {
      const column = this.#columns[job]!;
      if (column === null) {
        total += results.count;
        return;
      }
      const counts = countIn(results, keyOf(column), column.size + 1, (docs) => countFirst(column, docs));
      total += counts[0]!;
      for (let value = 0; value < column.size; value++) {
        const count = counts[value + 1]!;
        if (count === 0) continue;
        const family = column.text(value);
        const before = this.#counts.get(family) ?? 0;
        this.#counts.set(family, before + count);
        const slots = this.slots(family);
        total += Math.min(slots, before + count) - Math.min(slots, before);
      }
    });
    this.total = total;
  }

  /** The family of a result; null when it is one of its own. */
  of({ segment, doc }: Found): string | null {
    return familyIn(this.#columns[segment]!, doc);
  }

  /** How many a family may show besides what is pinned of it. */
  slots(family: string): number {
    return Math.max(0, this.#keep - (this.#pinned.get(family) ?? 0));
  }

  /** How many results of a family are not shown. */
  more(family: string): number {
    return Math.max(0, (this.#counts.get(family) ?? 0) - this.slots(family));
  }
}

/** The family of a document by the column of its segment; null when it is one of its own. */
export function familyIn(column: ValueColumn | null, doc: number): string | null {
  const value = column === null ? -1 : firstValue(column, doc);
  return value === -1 ? null : column!.text(value);
}

/** Documents by their first value, at 1 + its number; at 0 those without any. */
function countFirst(column: ValueColumn, docs: Uint32Array): Uint32Array {
  const counts = new Uint32Array(column.size + 1);
  for (let i = 0; i < docs.length; i++) counts[firstValue(column, docs[i]!) + 1]!++;
  return counts;
}

/** What stands for the first values of a column among counts that are remembered: facets count all values of it. */
const keyOf = memoByObject<ValueColumn, object>(() => ({}));

/** Keeps the best few of each family. */
class Kept {
  readonly #compare: Compare;
  readonly #families: Families;
  readonly #byFamily = new Map<string, Candidate[]>();
  readonly #alone: Candidate[] = [];

  constructor(compare: Compare, families: Families) {
    this.#compare = compare;
    this.#families = families;
  }

  offer(candidate: Candidate): void {
    const family = this.#families.of(candidate);
    if (family === null) {
      this.#alone.push(candidate);
      return;
    }
    const slots = this.#families.slots(family);
    if (slots === 0) return;
    const kept = this.#byFamily.get(family);
    if (kept === undefined) {
      this.#byFamily.set(family, [candidate]);
      return;
    }
    if (kept.length === slots && this.#compare(candidate, kept[kept.length - 1]!) > 0) return;
    kept.push(candidate);
    kept.sort(this.#compare);
    kept.length = Math.min(kept.length, slots);
  }

  /** All that is kept, best first. */
  sorted(): Candidate[] {
    return [...this.#alone, ...[...this.#byFamily.values()].flat()].sort(this.#compare);
  }
}
