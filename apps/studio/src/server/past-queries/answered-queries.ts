import { LRUCache } from 'lru-cache';

/** A query that was answered, and whom for: under a forced filter it is nobody else's. */
export interface AnsweredQuery {
  collection: string;
  collectionId: number;
  /** The forced filter it was asked under; '' without one. */
  scope: string;
  q: string;
}

/** Answers a visitor may still act on: at a hundred a second, those of the last minutes. */
const MOST_KEPT = 10_000;

/** The queries behind the latest answers, by the answer's id: an event names the id alone. */
export class AnsweredQueries {
  readonly #queries = new LRUCache<string, AnsweredQuery>({ max: MOST_KEPT });

  keep(queryId: string, query: AnsweredQuery): void {
    this.#queries.set(queryId, query);
  }

  /** The query behind an answer, once: what a visitor does with one answer counts as one. */
  take(queryId: string): AnsweredQuery | null {
    const query = this.#queries.get(queryId) ?? null;
    this.#queries.delete(queryId);
    return query;
  }
}
