import type { SearchRequest } from '@yucca/contract';
import { fnvOfText } from '@yucca/engine/fnv';

/** A search as it was answered, before anybody knows what was meant by it. */
export interface AnsweredSearch {
  /** In milliseconds since 1970. */
  at: number;
  collectionId: number;
  queryId: string;
  session: string;
  viewer: string | null;
  q: string;
  select: SearchRequest['select'] | null;
  total: number;
  ms: number;
  tags: readonly string[];
  chosen: boolean;
}

export interface LogBatch {
  searches: AnsweredSearch[];
  /** How many searches each stands for. */
  weight: number;
}

/** Searches kept between two writes; what comes above is thinned. */
const MOST_WAITING = 4_000;
/** Quiet writes after which everything is kept again. */
const QUIET_WRITES = 10;

/**
 * Searches on their way to the disk. Noting one costs the search nothing but a place in a list; they are written once a
 * second, and a crash takes the last second along.
 *
 * Under pressure whole visits are left out, chosen by their session, so that those that stay are complete: one in two,
 * in four, in eight, and each kept search counts for as many.
 */
export class SearchLog {
  readonly #most: number;
  #waiting: AnsweredSearch[] = [];
  #power = 0;
  #quiet = 0;

  constructor(most = MOST_WAITING) {
    this.#most = most;
  }

  note(search: AnsweredSearch): void {
    if (!this.#isKept(search.session)) return;
    this.#waiting.push(search);
    if (this.#waiting.length <= this.#most) return;
    this.#power++;
    this.#quiet = 0;
    this.#waiting = this.#waiting.filter(({ session }) => this.#isKept(session));
  }

  /** What waits, for whoever writes it. */
  take(): LogBatch {
    const batch = { searches: this.#waiting, weight: 2 ** this.#power };
    this.#waiting = [];
    if (this.#power > 0) {
      this.#quiet = batch.searches.length < this.#most / 4 ? this.#quiet + 1 : 0;
      if (this.#quiet >= QUIET_WRITES) {
        this.#power--;
        this.#quiet = 0;
      }
    }
    return batch;
  }

  /** Takes back what could not be written, as much as may wait. */
  giveBack({ searches }: LogBatch): void {
    this.#waiting = [...searches, ...this.#waiting].slice(-this.#most);
  }

  #isKept(session: string): boolean {
    return this.#power === 0 || shareOf(session) % 2 ** this.#power === 0;
  }
}

/** A number that is the same for a session, whenever it is asked (FNV-1a, then the last steps of MurmurHash3). */
function shareOf(session: string): number {
  let hash = fnvOfText(session);
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return (hash ^ (hash >>> 16)) >>> 0;
}
