/** One result in the running: where it is and the numbers that order it. */
export interface Candidate {
  segment: number;
  doc: number;
  typos: number;
  score: number;
  /** Place in record order; unique, so the order is total. */
  order: number;
}

/** Negative when `a` stands above `b`: fewer typos, then the higher score, then record order. */
export function compareCandidates(a: Candidate, b: Candidate): number {
  return a.typos - b.typos || b.score - a.score || a.order - b.order;
}

/**
 * Keeps the best `size` of the candidates offered. A heap with the worst kept one on top: once full, a candidate that
 * does not beat it costs one comparison and no memory.
 */
export class Top {
  readonly #heap: Candidate[] = [];
  readonly #size: number;

  constructor(size: number) {
    this.#size = size;
  }

  offer(segment: number, doc: number, typos: number, score: number, order: number): void {
    if (this.#size === 0) return;
    const heap = this.#heap;
    if (heap.length < this.#size) {
      heap.push({ segment, doc, typos, score, order });
      this.#up(heap.length - 1);
      return;
    }
    const worst = heap[0]!;
    const beats =
      typos !== worst.typos ? typos < worst.typos : score !== worst.score ? score > worst.score : order < worst.order;
    if (!beats) return;
    heap[0] = { segment, doc, typos, score, order };
    this.#down();
  }

  /** The kept ones, best first. */
  sorted(): Candidate[] {
    return [...this.#heap].sort(compareCandidates);
  }

  #up(from: number): void {
    const heap = this.#heap;
    let at = from;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      if (compareCandidates(heap[at]!, heap[parent]!) <= 0) return;
      [heap[at], heap[parent]] = [heap[parent]!, heap[at]!];
      at = parent;
    }
  }

  #down(): void {
    const heap = this.#heap;
    let at = 0;
    for (;;) {
      let worst = at;
      for (const child of [2 * at + 1, 2 * at + 2]) {
        if (child < heap.length && compareCandidates(heap[child]!, heap[worst]!) > 0) worst = child;
      }
      if (worst === at) return;
      [heap[at], heap[worst]] = [heap[worst]!, heap[at]!];
      at = worst;
    }
  }
}
