import { completeTuning, type SearchRequest, type TuningDocument, type VisitorTrial } from '@yucca/contract';
import { foldWords } from '@yucca/engine';
import { verdictOf, type Team } from '@yucca/engine/visitors';
import { and, desc, eq, isNull, sql, type SQL } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { createHash, randomBytes } from 'node:crypto';
import type { Collections } from '../collections/collections';
import type { Db } from '../db/open';
import { visitorTrialClicks, visitorTrials } from '../db/visitor-trials-schema';
import { Failure } from '../failure';
import type { IndexManager } from '../index/index-manager';
import type { Tunings } from '../tuning/tuning';

type Row = typeof visitorTrials.$inferSelect;
type Ending = NonNullable<Row['ended']>;

interface Parts {
  db: Db;
  collections: Pick<Collections, 'row' | 'liveVersionOf'>;
  indexManager: Pick<IndexManager, 'canAnswer' | 'facts'>;
  tunings: Pick<Tunings, 'get' | 'building'>;
  /** What stands for the id of a visit in the database. */
  hashed: (id: string) => string;
}

/** How a search takes part: what is tried, and the seed of its coins. */
export interface TrialOrder {
  trialId: number;
  /** The tuning on trial, as JSON. */
  tuning: string;
  seed: string;
  /** This visit's question whatever the page. */
  question: string;
}

interface Running extends Row {
  /** The state of the index that was last found able to answer it. */
  checked: number;
  /** Results opened so far; undefined until they were counted. */
  clicks: number | undefined;
}

/** An answer that was drafted from both sides, until its results are opened. */
interface Drafted {
  trialId: number;
  visit: string;
  words: string;
  teams: Readonly<Record<string, Team>>;
}

/** Answers that may still be acted upon, and questions whose first page was drafted. */
const MOST_KEPT = 20_000;
/** Results one visit may have counted: no person opens more. */
const MOST_OF_A_VISIT = 50;
const MOST_CLICKS = 200_000;

/**
 * Tries the draft on visitors: the results of live and of the draft are drafted into one list, and what visitors open
 * of it counts for the side that put it there (team-draft interleaving, see `interleaved` of the engine).
 *
 * Only searches that a page makes for a visit take part, ordered by relevance; a later page only when the first was
 * drafted too, so that no visitor sees a record twice.
 */
export class VisitorTrials {
  readonly #parts: Parts;
  /** By collection; null where none runs. */
  readonly #running = new Map<number, Running | null>();
  readonly #answers = new LRUCache<string, Drafted>({ max: MOST_KEPT });
  readonly #questions = new LRUCache<string, true>({ max: MOST_KEPT });

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /**
   * Begins a trial of the draft. Throws a Failure when one runs already, and when there is nothing to try or no way to
   * try it.
   */
  async start(name: string): Promise<VisitorTrial> {
    const { db, collections, indexManager, tunings } = this.#parts;
    await tunings.building(name);
    const { id, liveVersion } = collections.row(name);
    if (this.#runningOf(id)) throw new Failure('conflict', 'A trial is running already. Stop it first.');
    const [live, draft] = [tunings.get(name, 'live'), tunings.get(name, 'draft')];
    const tuning = JSON.stringify(draft);
    if (tuning === JSON.stringify(live)) throw new Failure('conflict', 'The draft is the same as live: there is nothing to try.'); // prettier-ignore
    if (JSON.stringify(completeTuning(live).group) !== JSON.stringify(completeTuning(draft).group))
      throw new Failure(
        'conflict',
        'Live and draft group results in different ways, so they cannot be mixed in one list. Publish the grouping by itself, then try the rest.',
      );
    if (!indexManager.canAnswer(id, [draft]))
      throw new Failure('unavailable', 'The index for this draft is not ready yet. Try again when it has been built.');
    const seed = randomBytes(12).toString('base64url');
    db.insert(visitorTrials)
      .values({ collectionId: id, startedAt: new Date().toISOString(), liveVersion, tuning, seed })
      .run();
    this.#running.delete(id);
    return this.read(name);
  }

  /** Ends the trial that runs. Throws a Failure when none does. */
  stop(name: string): VisitorTrial {
    const running = this.#runningOf(this.#parts.collections.row(name).id);
    if (!running) throw new Failure('conflict', 'No trial is running.');
    this.#end(running, 'stopped');
    return this.read(name);
  }

  /** The trial that runs, or the last one. */
  read(name: string): VisitorTrial {
    const { db, collections, tunings } = this.#parts;
    const { id } = collections.row(name);
    this.#standing(id);
    const row = db
      .select()
      .from(visitorTrials)
      .where(eq(visitorTrials.collectionId, id))
      .orderBy(desc(visitorTrials.id))
      .get();
    if (!row) return { state: 'none', visits: 0, wins: { live: 0, draft: 0 }, ties: 0, preferred: null, confidence: 0 };
    const { visits, winsOfLive, winsOfDraft, ties } = row.endedAt === null ? this.#count(row.id) : row;
    const { preferred, confidence } = verdictOf(winsOfLive, winsOfDraft);
    return {
      state: row.endedAt === null ? 'running' : 'ended',
      startedAt: row.startedAt,
      ...(row.endedAt !== null && { endedAt: row.endedAt }),
      ...(row.ended !== null && { ended: row.ended }),
      liveVersion: row.liveVersion,
      draftChanged: JSON.stringify(tunings.get(name, 'draft')) !== row.tuning,
      visits,
      wins: { live: winsOfLive, draft: winsOfDraft },
      ties,
      preferred: preferred === null ? null : preferred === 'a' ? 'live' : 'draft',
      confidence,
    };
  }

  /** The number of the trial a collection's visitors take part in: answers of one are not those of another. */
  state(collectionId: number): number {
    return this.#standing(collectionId)?.id ?? 0;
  }

  /** How a search takes part in a trial; null when it is answered by live alone. */
  orderFor(collectionId: number, request: SearchRequest): TrialOrder | null {
    const { q = '', version = 'live', record = true, session, sort = 'relevance', page = 1 } = request;
    if (version !== 'live' || !record || session === undefined || sort !== 'relevance' || q.trim() === '') return null;
    const trial = this.#standing(collectionId);
    if (trial === null) return null;
    const { select, filter, near, size } = request;
    const asked = JSON.stringify([trial.id, session, q, select, filter, near, size]);
    const question = createHash('sha256').update(asked).digest('base64url');
    if (page > 1 && !this.#questions.has(question)) return null;
    const seed = `${trial.seed} ${session} ${foldWords(q)}`;
    return { trialId: trial.id, tuning: trial.tuning, seed, question };
  }

  /** A search was answered from both sides: what is opened of it will count. */
  answered(queryId: string, order: TrialOrder, request: SearchRequest, teams: Readonly<Record<string, Team>>): void {
    this.#questions.set(order.question, true);
    if (Object.keys(teams).length === 0) return;
    const visit = this.#parts.hashed(request.session!);
    this.#answers.set(queryId, { trialId: order.trialId, visit, words: foldWords(request.q!), teams });
  }

  /** A result was opened. */
  opened(queryId: string, recordId: string): void {
    const drafted = this.#answers.get(queryId);
    const team = drafted?.teams[recordId];
    if (!drafted || team === undefined) return;
    const { trialId, visit, words } = drafted;
    const trial = this.#byId(trialId);
    if (trial === null) return;
    const { db } = this.#parts;
    const ofTrial = eq(visitorTrialClicks.trialId, trialId);
    if (count(db, and(ofTrial, eq(visitorTrialClicks.visit, visit))) >= MOST_OF_A_VISIT) return;
    db.insert(visitorTrialClicks)
      .values({ trialId, visit, words, recordId, side: team === 'a' ? 1 : -1 })
      .onConflictDoNothing()
      .run();
    trial.clicks ??= count(db, ofTrial);
    if (++trial.clicks >= MOST_CLICKS) this.#end(trial, 'full');
  }

  #byId(trialId: number): Running | null {
    return [...this.#running.values()].find((running) => running?.id === trialId) ?? null;
  }

  #runningOf(collectionId: number): Running | null {
    let running = this.#running.get(collectionId);
    if (running === undefined) {
      const row = this.#parts.db
        .select()
        .from(visitorTrials)
        .where(and(eq(visitorTrials.collectionId, collectionId), isNull(visitorTrials.endedAt)))
        .get();
      this.#running.set(collectionId, (running = row ? { ...row, checked: -1, clicks: undefined } : null));
    }
    return running;
  }

  /** The trial that runs, once it is sure that it still can. */
  #standing(collectionId: number): Running | null {
    const running = this.#runningOf(collectionId);
    if (running === null) return null;
    const { collections, indexManager } = this.#parts;
    if (collections.liveVersionOf(collectionId) !== running.liveVersion) {
      this.#end(running, 'published');
      return null;
    }
    const { generation } = indexManager.facts(collectionId);
    if (generation !== running.checked) {
      if (!indexManager.canAnswer(collectionId, [JSON.parse(running.tuning) as TuningDocument])) {
        this.#end(running, 'unanswerable');
        return null;
      }
      running.checked = generation;
    }
    return running;
  }

  #end({ id, collectionId }: Row, ended: Ending): void {
    const { db } = this.#parts;
    db.$client
      .transaction(() => {
        const sums = this.#count(id);
        db.update(visitorTrials)
          .set({ ...sums, ended, endedAt: new Date().toISOString() })
          .where(eq(visitorTrials.id, id))
          .run();
        db.delete(visitorTrialClicks).where(eq(visitorTrialClicks.trialId, id)).run();
      })
      .immediate();
    this.#running.set(collectionId, null);
  }

  /** What came out so far: one voice for each query of a visit. */
  #count(trialId: number): Pick<Row, 'visits' | 'winsOfLive' | 'winsOfDraft' | 'ties'> {
    const { db } = this.#parts;
    const voices = db
      .select({ visit: visitorTrialClicks.visit, lead: sql<number>`sum(${visitorTrialClicks.side})`.as('lead') })
      .from(visitorTrialClicks)
      .where(eq(visitorTrialClicks.trialId, trialId))
      .groupBy(visitorTrialClicks.visit, visitorTrialClicks.words)
      .as('voices');
    return db
      .select({
        visits: sql<number>`count(distinct ${voices.visit})`,
        winsOfLive: sql<number>`ifnull(sum(${voices.lead} > 0), 0)`,
        winsOfDraft: sql<number>`ifnull(sum(${voices.lead} < 0), 0)`,
        ties: sql<number>`ifnull(sum(${voices.lead} = 0), 0)`,
      })
      .from(voices)
      .get()!;
  }
}

const count = (db: Db, where: SQL | undefined): number =>
  db
    .select({ many: sql<number>`count(*)` })
    .from(visitorTrialClicks)
    .where(where)
    .get()!.many;
