/**
 * Keeps the best `size` of the items offered. A heap with the worst kept one on top: once full, an item that does not
 * beat it costs one comparison and no memory.
 */
export class Top<T> {
  readonly #heap: T[] = [];
  readonly #size: number;
  readonly #compare: (a: T, b: T) => number;

  /** `compare` is negative when `a` stands above `b`; it must never be 0 for two different items. */
  constructor(size: number, compare: (a: T, b: T) => number) {
    this.#size = size;
    this.#compare = compare;
  }

  /** The item to beat; null while there is room for any. */
  get worst(): T | null {
    return this.#heap.length < this.#size ? null : (this.#heap[0] ?? null);
  }

  offer(item: T): void {
    if (this.#size === 0) return;
    const heap = this.#heap;
    if (heap.length < this.#size) {
      heap.push(item);
      this.#up(heap.length - 1);
    } else if (this.#compare(item, heap[0]!) < 0) {
      heap[0] = item;
      this.#down();
    }
  }

  /** The kept ones, best first. */
  sorted(): T[] {
    return [...this.#heap].sort(this.#compare);
  }

  #up(from: number): void {
    const heap = this.#heap;
    let at = from;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      if (this.#compare(heap[at]!, heap[parent]!) <= 0) return;
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
        if (child < heap.length && this.#compare(heap[child]!, heap[worst]!) > 0) worst = child;
      }
      if (worst === at) return;
      [heap[at], heap[worst]] = [heap[worst]!, heap[at]!];
      at = worst;
    }
  }
}
