import type { Page, RecordJson } from '@yucca/contract';

export const PAGE = 100;

export interface RecordRows {
  total: number;
  /** Why the records cannot be listed: a condition that cannot be read, mostly. */
  problem: string | null;
  /** Record by its row, from 0; undefined while it is on its way. */
  at: (row: number) => RecordJson | undefined;
}

export type LoadPage = (page: number, signal: AbortSignal) => Promise<Page<RecordJson>>;

/** Pages kept: far more than fit a window, few enough to hold. */
const KEPT = 60;

/** The records behind a long table: whichever rows are looked at are fetched, page by page, and kept for a while. */
export class RecordPages {
  readonly #load: LoadPage;
  readonly #pages = new Map<number, RecordJson[]>();
  readonly #open = new Map<number, AbortController>();
  readonly #listeners = new Set<() => void>();
  #rows: RecordRows;

  constructor(load: LoadPage, first: Page<RecordJson> | null) {
    this.#load = load;
    if (first) this.#pages.set(1, first.items);
    this.#rows = { total: first?.total ?? 0, problem: null, at: (row) => this.#at(row) };
  }

  readonly snapshot = (): RecordRows => this.#rows;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  #at(row: number): RecordJson | undefined {
    return this.#pages.get(Math.floor(row / PAGE) + 1)?.[row % PAGE];
  }

  /** Says which rows are on screen. Fetches what is missing of them; what is no longer looked at is given up. */
  look(first: number, last: number): void {
    const from = Math.floor(first / PAGE) + 1;
    const to = Math.floor(Math.max(first, last) / PAGE) + 1;
    for (const [page, abort] of this.#open) {
      if (page >= from && page <= to) continue;
      abort.abort();
      this.#open.delete(page);
    }
    for (let page = from; page <= to; page++) {
      if (!this.#pages.has(page) && !this.#open.has(page)) void this.#fetch(page);
    }
  }

  /** Fetches anew what is on screen: the records have changed. */
  renew(): void {
    const pages = [...this.#pages.keys()];
    this.stop();
    this.#pages.clear();
    for (const page of pages.length > 3 ? pages.slice(-3) : pages.length > 0 ? pages : [1]) void this.#fetch(page);
  }

  stop(): void {
    for (const abort of this.#open.values()) abort.abort();
    this.#open.clear();
  }

  async #fetch(page: number): Promise<void> {
    const abort = new AbortController();
    this.#open.set(page, abort);
    try {
      const { items, total } = await this.#load(page, abort.signal);
      if (abort.signal.aborted) return;
      this.#pages.set(page, items);
      for (const old of this.#pages.keys()) {
        if (this.#pages.size <= KEPT) break;
        if (old !== page) this.#pages.delete(old);
      }
      this.#tell({ total, problem: null });
    } catch (error) {
      if (!abort.signal.aborted) this.#tell({ problem: (error as Error).message });
    } finally {
      if (this.#open.get(page) === abort) this.#open.delete(page);
    }
  }

  #tell(change: Partial<RecordRows>): void {
    this.#rows = { ...this.#rows, ...change };
    this.#listeners.forEach((listener) => listener());
  }
}
