import type { Judgement, JudgementChanges, JudgementScores, SearchRequest } from '@yucca/contract';
import { meanScores, scoresOf } from '@yucca/engine/judge';
import { and, asc, eq, inArray } from 'drizzle-orm';
import type { Collections } from '../collections/collections';
import type { Db } from '../db/open';
import { judgements } from '../db/schema';
import type { HangUp } from '../search/hang-up';
import type { SearchService } from '../search/search';

/** Results that are looked at. */
const DEPTH = 10;
/** Queries asked at once: the searchers have other callers too. */
const AT_ONCE = 4;

export interface JudgementsParts {
  db: Db;
  collections: Collections;
  search: SearchService;
}

/** Which records should come up for a query, and how well live and draft do at it. */
export class Judgements {
  readonly #db: Db;
  readonly #collections: Collections;
  readonly #search: SearchService;

  constructor({ db, collections, search }: JudgementsParts) {
    this.#db = db;
    this.#collections = collections;
    this.#search = search;
  }

  /** All of a collection, or some queries of it, in the order in which they were first judged. */
  list(name: string, only: readonly string[] | null = null): Judgement[] {
    const { id } = this.#collections.row(name);
    const rows = this.#db
      .select()
      .from(judgements)
      .where(and(eq(judgements.collectionId, id), only === null ? undefined : inArray(judgements.query, [...only])))
      .orderBy(asc(judgements.id))
      .all();
    const byQuery = new Map<string, [string, number][]>();
    for (const { query, recordKey, grade } of rows) {
      const grades = byQuery.get(query);
      if (grades) grades.push([recordKey, grade]);
      else byQuery.set(query, [[recordKey, grade]]);
    }
    // `fromEntries` makes own properties, whatever they are called.
    return [...byQuery].map(([query, grades]) => ({ query, grades: Object.fromEntries(grades) }));
  }

  /** In place of all there were; in one step. */
  replace(name: string, all: readonly Judgement[]): Judgement[] {
    const { id } = this.#collections.row(name);
    this.#db.$client
      .transaction(() => {
        this.#db.delete(judgements).where(eq(judgements.collectionId, id)).run();
        this.#write(id, all);
      })
      .immediate();
    return this.list(name);
  }

  /** Changes some grades and leaves the others; in one step. */
  change(name: string, changes: JudgementChanges['judgements']): Judgement[] {
    const { id } = this.#collections.row(name);
    this.#db.$client.transaction(() => this.#write(id, changes)).immediate();
    return this.list(name);
  }

  #write(collectionId: number, changes: Readonly<JudgementChanges['judgements']>): void {
    for (const { query, grades } of changes) {
      const ofQuery = and(eq(judgements.collectionId, collectionId), eq(judgements.query, query));
      if (grades === null) {
        this.#db.delete(judgements).where(ofQuery).run();
        continue;
      }
      for (const [recordKey, grade] of Object.entries(grades)) {
        if (grade === null)
          this.#db.delete(judgements).where(and(ofQuery, eq(judgements.recordKey, recordKey))).run(); // prettier-ignore
        else
          this.#db
            .insert(judgements)
            .values({ collectionId, query, recordKey, grade })
            .onConflictDoUpdate({
              target: [judgements.collectionId, judgements.query, judgements.recordKey],
              set: { grade },
            })
            .run();
      }
    }
  }

  /**
   * Asks live and draft for the judged queries, or for some of them, and scores both; `from`: other judgements than
   * those made by hand. Throws when `signal` fires.
   */
  async run(
    name: string,
    queries: readonly string[] | null,
    from: readonly Judgement[] | null = null,
    signal?: HangUp,
  ): Promise<JudgementScores> {
    const asked = from?.filter(({ query }) => queries?.includes(query) ?? true) ?? this.list(name, queries);
    const rank = async (q: string, version: 'live' | 'draft'): Promise<string[]> => {
      const request: SearchRequest = { q, version, size: DEPTH, fields: [], record: false };
      return (await this.#search.search(name, request, { signal })).results.map(({ id }) => id);
    };
    const scored: JudgementScores['queries'] = [];
    for (let at = 0; at < asked.length; at += AT_ONCE) {
      const some = asked.slice(at, at + AT_ONCE).map(async ({ query, grades }) => {
        const [live, draft] = await Promise.all([rank(query, 'live'), rank(query, 'draft')]);
        const judged = Object.keys(grades).length;
        return { query, judged, live: scoresOf(live, grades), draft: scoresOf(draft, grades) };
      });
      scored.push(...(await Promise.all(some)));
    }
    return {
      queries: scored,
      live: meanScores(scored.map(({ live }) => live)),
      draft: meanScores(scored.map(({ draft }) => draft)),
    };
  }
}
