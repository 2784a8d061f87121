import type { VisitorEvent } from '@yucca/contract';
import type { Db } from '../db/open';
import { visitorEvents } from '../db/schema';

/** A clock that is wrong by more than this is not believed: what it tells of happened when it arrived. */
const MOST_AGE_MS = 24 * 60 * 60 * 1000;

/** What visitors did with answers, as their pages tell it. */
export class VisitorEvents {
  readonly #db: Db;

  constructor(db: Db) {
    this.#db = db;
  }

  /** Takes events in; answers how many. All of them or none. */
  take(events: readonly VisitorEvent[], now = Date.now()): number {
    const rows = events.map(({ type, queryId, recordId, position = null, session = null, at }) => {
      const told = at === undefined ? now : Date.parse(at);
      const believed = told <= now && now - told <= MOST_AGE_MS ? told : now;
      return { type, queryId, recordId, position, session, at: new Date(believed).toISOString() };
    });
    this.#db.insert(visitorEvents).values(rows).run();
    return rows.length;
  }
}
