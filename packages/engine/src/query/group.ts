import { firstValue } from '../columns/column.ts';
import type { Segment } from '../segment/segment.ts';
import type { Candidate } from './rank.ts';

interface Group {
  kept: Candidate[];
  count: number;
}

/** Keeps the best few of each family of results, and how many more there were. */
export class Grouping {
  readonly #keep: number;
  readonly #field: string;
  readonly #compare: (a: Candidate, b: Candidate) => number;
  readonly #groups = new Map<string, Group>();
  readonly #alone: Candidate[] = [];

  constructor({ field, keep }: { field: string; keep: number }, compare: (a: Candidate, b: Candidate) => number) {
    this.#field = field;
    this.#keep = keep;
    this.#compare = compare;
  }

  /** What takes in the candidates of one segment. Families are the same text in every segment. */
  offerTo(segment: Segment): (candidate: Candidate) => void {
    const column = segment.values(this.#field);
    return (candidate) => {
      const { doc } = candidate;
      const value = column === null ? -1 : firstValue(column, doc);
      // A record without a family is a family of its own.
      if (value === -1) this.#alone.push(candidate);
      else this.#offer(column!.text(value), candidate);
    };
  }

  #offer(family: string, candidate: Candidate): void {
    const group = this.#groups.get(family);
    if (group === undefined) {
      this.#groups.set(family, { kept: [candidate], count: 1 });
      return;
    }
    group.count++;
    const { kept } = group;
    if (kept.length === this.#keep && this.#compare(candidate, kept[kept.length - 1]!) > 0) return;
    kept.push(candidate);
    kept.sort(this.#compare);
    kept.length = Math.min(kept.length, this.#keep);
  }

  /** The results after grouping, best first, and how many more each one's family has. */
  finish(): { results: Candidate[]; others: Map<Candidate, number> } {
    const results = [...this.#alone];
    const others = new Map<Candidate, number>();
    for (const { kept, count } of this.#groups.values()) {
      results.push(...kept);
      others.set(kept[0]!, count - kept.length);
    }
    return { results: results.sort(this.#compare), others };
  }
}
