import type { VisitorEvent } from '@yucca/contract';
import type { Logger } from 'pino';
import type { Db } from '../db/open';
import type { AnsweredQueries, AnsweredQuery } from '../past-queries/answered-queries';
import type { PastQueries } from '../past-queries/past-queries';
import { visitorEvents } from '../db/schema';

/** A clock that is wrong by more than this is not believed: what it tells of happened when it arrived. */
const MOST_AGE_MS = 24 * 60 * 60 * 1000;

export interface VisitorEventsParts {
  db: Db;
  answered: Pick<AnsweredQueries, 'take'>;
  pastQueries: Pick<PastQueries, 'count'>;
  isWorthOffering: (query: AnsweredQuery) => Promise<boolean>;
  log: Pick<Logger, 'warn'>;
}

/** What visitors did with answers, as their pages tell it. */
export class VisitorEvents {
  readonly #parts: VisitorEventsParts;
  #counting: Promise<void> = Promise.resolve();

  constructor(parts: VisitorEventsParts) {
    this.#parts = parts;
  }

  /** Takes events in; returns how many. All of them or none. */
  take(events: readonly VisitorEvent[], now = Date.now()): number {
    const rows = events.map(({ type, queryId, recordId, position = null, session = null, at }) => {
      const told = at === undefined ? now : Date.parse(at);
      const believed = told <= now && now - told <= MOST_AGE_MS ? told : now;
      return { type, queryId, recordId, position, session, at: new Date(believed).toISOString() };
    });
    this.#parts.db.insert(visitorEvents).values(rows).run();
    for (const { type, queryId, session, at } of rows) {
      // Results come into sight with every letter; only who opens one has found something.
      const query = type === 'view' ? null : this.#parts.answered.take(queryId);
      if (query !== null) this.#counting = this.#counting.then(() => this.#count(query, session, at));
    }
    return rows.length;
  }

  /** Settles when all that was taken in is counted. */
  counted(): Promise<void> {
    return this.#counting;
  }

  /** The visit becomes part of the past queries, once a searcher has said that this is one to offer to others. */
  async #count(query: AnsweredQuery, session: string | null, at: string): Promise<void> {
    try {
      if (await this.#parts.isWorthOffering(query)) this.#parts.pastQueries.count(query, session, at);
    } catch (error) {
      // The event itself is kept. Its collection may have gone, or be without an index just now.
      this.#parts.log.warn({ error: (error as Error).message }, 'a visit was not counted for completions');
    }
  }
}
