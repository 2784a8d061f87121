import { and, count, desc, eq, gt, gte, inArray, lt, sql } from 'drizzle-orm';
import { foldWords } from '@yucca/engine';
import type { Db } from '../db/open';
import { pastQueries } from '../db/schema';
import type { AnsweredQuery } from './answered-queries';

/**
 * A query is offered to others once this many visits led from it to a record: what a single visitor typed stays theirs.
 */
const LEAST_VISITS = 2;
/** Kept of one collection, the most visited ones; and the visits counted before it is looked whether there are more. */
const LIMITS = { kept: 10_000, lookAfter: 500 };
/** Above any letter, in SQLite's order of UTF-8 bytes. */
const LAST = '\u{10ffff}';

export interface PastQueriesParts {
  db: Db;
  limits?: typeof LIMITS;
}

/** What visitors asked for when they came to a record, for completions. */
export class PastQueries {
  readonly #db: Db;
  readonly #limits: typeof LIMITS;
  #counted = 0;

  constructor({ db, limits = LIMITS }: PastQueriesParts) {
    this.#db = db;
    this.#limits = limits;
  }

  /** Counts a visit that a query led to a record. One session counts once in a row. */
  count({ collectionId, scope, q }: AnsweredQuery, session: string | null, at: string): void {
    const text = q.trim().replace(/\s+/g, ' ');
    const isOther = sql`(${session} is null or ${pastQueries.lastSession} is not ${session})`;
    this.#db
      .insert(pastQueries)
      .values({ collectionId, scope, folded: foldWords(q), text, visits: 1, lastSession: session, lastAt: at })
      .onConflictDoUpdate({
        target: [pastQueries.collectionId, pastQueries.scope, pastQueries.folded],
        set: { visits: sql`${pastQueries.visits} + ${isOther}`, lastSession: session, lastAt: at },
      })
      .run();
    if (this.#counted++ % this.#limits.lookAfter === 0) this.#clear();
  }

  /** The most visited queries that begin like `typed`, public ones and those of one scope. */
  beginningWith(collectionId: number, scope: string, typed: string, limit: number): string[] {
    const begin = foldWords(typed);
    if (begin === '') return [];
    return this.#db
      .select({ text: pastQueries.text })
      .from(pastQueries)
      .where(
        and(
          eq(pastQueries.collectionId, collectionId),
          inArray(pastQueries.scope, ['', scope]),
          gte(pastQueries.folded, begin),
          lt(pastQueries.folded, begin + LAST),
          gte(pastQueries.visits, LEAST_VISITS),
        ),
      )
      .orderBy(desc(pastQueries.visits), desc(pastQueries.lastAt), pastQueries.folded)
      .limit(limit)
      .all()
      .map(({ text }) => text);
  }

  /** Gives up the least visited queries of collections that have too many. */
  #clear(): void {
    const crowded = this.#db
      .select({ id: pastQueries.collectionId, kept: count() })
      .from(pastQueries)
      .groupBy(pastQueries.collectionId)
      .having(gt(count(), this.#limits.kept))
      .all();
    for (const { id, kept } of crowded) {
      const least = this.#db
        .select({ rowid: sql`rowid` })
        .from(pastQueries)
        .where(eq(pastQueries.collectionId, id))
        .orderBy(pastQueries.visits, pastQueries.lastAt)
        .limit(kept - this.#limits.kept);
      this.#db
        .delete(pastQueries)
        .where(sql`rowid in ${least}`)
        .run();
    }
  }
}
