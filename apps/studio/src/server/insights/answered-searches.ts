import { LRUCache } from 'lru-cache';
import type { AnsweredSearch, SearchLog } from './search-log';

type WithoutVisit = Omit<AnsweredSearch, 'session'>;

/** Answers whose visit a page may still tell: at a hundred a second, those of the last minute and a half. */
const MOST_KEPT = 10_000;

/** Searches that were answered; those asked for without a session wait for a page to say whose they were. */
export class AnsweredSearches {
  readonly #log: Pick<SearchLog, 'note'>;
  readonly #unclaimed = new LRUCache<string, WithoutVisit>({ max: MOST_KEPT });

  constructor(log: Pick<SearchLog, 'note'>) {
    this.#log = log;
  }

  note(search: WithoutVisit, session: string | null): void {
    if (session === null) this.#unclaimed.set(search.queryId, search);
    else this.#log.note({ ...search, session });
  }

  /** A page says that an answer belongs to a visit; once. */
  claim(queryId: string, session: string, viewer: string | null, tags: readonly string[]): void {
    const search = this.#unclaimed.get(queryId);
    if (search === undefined) return;
    this.#unclaimed.delete(queryId);
    this.#log.note({ ...search, viewer, session, tags: [...new Set([...search.tags, ...tags])] });
  }
}
