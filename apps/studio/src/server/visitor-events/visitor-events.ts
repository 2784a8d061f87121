import type { VisitorEvent } from '@yucca/contract';
import { masked } from '@yucca/engine/visitors';
import type { Logger } from 'pino';
import { max } from 'drizzle-orm';
import type { Db } from '../db/open';
import { Failure } from '../failure';
import type { AnsweredSearches } from '../insights/answered-searches';
import type { AnsweredQueries, AnsweredQuery } from '../past-queries/answered-queries';
import type { PastQueries } from '../past-queries/past-queries';
import { visitorEvents } from '../db/schema';
import type { VisitorTrials } from '../visitor-trials/visitor-trials';

/** What a clock tells that is wrong by more than this is not counted. */
const MOST_AGE_MS = 24 * 60 * 60 * 1000;

export interface VisitorEventsParts {
  db: Db;
  answered: Pick<AnsweredQueries, 'take'>;
  pastQueries: Pick<PastQueries, 'count'>;
  noted: Pick<AnsweredSearches, 'claim'>;
  trials: Pick<VisitorTrials, 'opened'>;
  isWorthOffering: (query: AnsweredQuery) => Promise<boolean>;
  log: Pick<Logger, 'warn'>;
}

/** Of a search it has to be known whose it was, of all else which record it was done with. */
function requireComplete({ type, recordId, session }: VisitorEvent, i: number): void {
  const missing = type === 'search' ? session === undefined && 'session' : recordId === undefined && 'recordId';
  if (missing === false) return;
  const parts = [{ pointer: `/events/${i}/${missing}`, detail: 'is missing' }];
  throw new Failure('invalid', `Event ${i + 1} has no ${missing}, which events of the type ${type} need.`, parts);
}

/** What visitors did with answers, as their pages tell it. */
export class VisitorEvents {
  readonly #parts: VisitorEventsParts;
  #counting: Promise<void> = Promise.resolve();
  #last: number | undefined;

  constructor(parts: VisitorEventsParts) {
    this.#parts = parts;
  }

  /**
   * Takes events in; returns how many. All of them or none. Throws a Failure for one that lacks what its type needs.
   */
  take(events: readonly VisitorEvent[], now = Date.now()): number {
    events.forEach(requireComplete);
    const timely = events
      .map((event) => ({ ...event, told: event.at === undefined ? now : Date.parse(event.at) }))
      .filter(({ told }) => Math.abs(now - told) <= MOST_AGE_MS);
    for (const { type, queryId, session, viewer = null, tags = [] } of timely)
      if (type === 'search') this.#parts.noted.claim(queryId, session!, viewer, tags);
    const rows = timely.flatMap(({ type, queryId, recordId, position = null, session = null, id = null, told }) => {
      const at = new Date(Math.min(told, now)).toISOString();
      return recordId === undefined ? [] : [{ type, queryId, recordId, position, session, at, eventId: id }];
    });
    const taken = this.#store(rows);
    for (const { type, queryId, recordId, session, at } of taken) {
      if (type === 'click') this.#parts.trials.opened(queryId, recordId);
      // Results come into sight with every letter; only who opens one has found something.
      const query = type === 'view' ? null : this.#parts.answered.take(queryId);
      if (query !== null) this.#counting = this.#counting.then(() => this.#count(query, session, at));
    }
    return timely.length - (rows.length - taken.length);
  }

  /** The number of the last event that is stored. */
  get last(): number {
    this.#last ??=
      this.#parts.db
        .select({ id: max(visitorEvents.id) })
        .from(visitorEvents)
        .get()?.id ?? 0;
    return this.#last;
  }

  /** Stores events in one piece; returns those that had not come before. */
  #store(rows: (typeof visitorEvents.$inferInsert)[]): (typeof visitorEvents.$inferSelect)[] {
    if (rows.length === 0) return [];
    const stored = this.#parts.db.insert(visitorEvents).values(rows).onConflictDoNothing().returning().all();
    this.#last = Math.max(this.last, ...stored.map(({ id }) => id));
    return stored;
  }

  /** Settles when all that was taken in is counted. */
  counted(): Promise<void> {
    return this.#counting;
  }

  /** The visit becomes part of the past queries, once a searcher has said that this is one to offer to others. */
  async #count(query: AnsweredQuery, session: string | null, at: string): Promise<void> {
    // What may name a person is nobody else's.
    if (masked(query.q) !== query.q) return;
    try {
      if (await this.#parts.isWorthOffering(query)) this.#parts.pastQueries.count(query, session, at);
    } catch (error) {
      // The event itself is kept. Its collection may have gone, or be without an index just now.
      this.#parts.log.warn({ error: (error as Error).message }, 'a visit was not counted for completions');
    }
  }
}
