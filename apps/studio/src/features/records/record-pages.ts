import type { Page, RecordJson } from '@yucca/contract';
import { Store } from '@yucca/kit';

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
export class RecordPages extends Store<RecordRows> {
  readonly #load: LoadPage;
  readonly #pages = new Map<number, RecordJson[]>();
  readonly #open = new Map<number, AbortController>();

  constructor(load: LoadPage, first: Page<RecordJson> | null) {
    super({ total: first?.total ?? 0, problem: null, at: (row) => this.#at(row) });
    this.#load = load;
    if (first) this.#pages.set(1, first.items);
  }

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
      this.set({ total, problem: null });
    } catch (error) {
      if (!abort.signal.aborted) this.set({ problem: (error as Error).message });
    } finally {
      if (this.#open.get(page) === abort) this.#open.delete(page);
    }
  }
}
