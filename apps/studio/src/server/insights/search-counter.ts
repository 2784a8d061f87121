/** Writes searches down, settles them, and counts what visitors did with what was found. On the writer's connection. */
import { masked, settle, type Settled, type VisitSearch } from '@yucca/engine/visitors';
import { foldWords } from '@yucca/engine';
import type { PastSearch } from '@yucca/contract';
import { and, asc, desc, eq, gt, lte, ne, sql } from 'drizzle-orm';
import { insightState, searchLog, settledAnswers, settledSearches } from '../db/insights-schema';
import type { Db } from '../db/open';
import { visitorEvents } from '../db/schema';
import { Counts, type CountLimits, type SettledRow } from './count';
import { hashedId } from './hashed-id';
import type { LogBatch } from './search-log';

type LogRow = typeof searchLog.$inferSelect;
type EventRow = typeof visitorEvents.$inferSelect;

/** The same words again in a visit are the same search, up to so long after. */
const SAME_SEARCH_MS = 30 * 60_000;
/** What is asked for so soon after is asked for because nothing here was right. */
const REFINED_MS = 60_000;
/** More searches than this in ten minutes are no person's. */
const MACHINE = { searches: 400, withinMs: 600_000 };
const EVENTS = 'events';
/** Events looked at in one go: other writes come between. */
const EVENTS_AT_ONCE = 5_000;

/** What is asked for with every search, prepared once. */
function statements(db: Db) {
  const value = (name: string) => sql.placeholder(name);
  const { id, session, collectionId } = settledSearches;
  return {
    lastOfVisit: db
      .select()
      .from(settledSearches)
      .where(and(eq(session, value('session')), eq(collectionId, value('collectionId'))))
      .orderBy(desc(id))
      .limit(1)
      .prepare(),
    byAnswer: db
      .select({ search: settledSearches })
      .from(settledAnswers)
      .innerJoin(settledSearches, eq(id, settledAnswers.searchId))
      .where(eq(settledAnswers.queryId, value('queryId')))
      .prepare(),
    eventsOf: db
      .select()
      .from(visitorEvents)
      .where(and(eq(visitorEvents.queryId, value('queryId')), lte(visitorEvents.id, value('upTo'))))
      .orderBy(asc(visitorEvents.id))
      .prepare(),
    actedUpon: db
      .selectDistinct({ queryId: visitorEvents.queryId })
      .from(visitorEvents)
      .innerJoin(searchLog, eq(searchLog.queryId, visitorEvents.queryId))
      .where(and(ne(visitorEvents.type, 'view'), lte(visitorEvents.id, value('upTo'))))
      .prepare(),
    settle: db
      .insert(settledSearches)
      .values({
        at: value('at'),
        lastAt: value('lastAt'),
        collectionId: value('collectionId'),
        session: value('session'),
        visitor: value('visitor'),
        text: value('text'),
        words: value('words'),
        total: value('total'),
        ms: value('ms'),
        tags: value('tags'),
        chosen: value('chosen'),
        weight: value('weight'),
      })
      .returning()
      .prepare(),
    // Whatever may change of a settled search, in one.
    change: db
      .update(settledSearches)
      .set({
        lastAt: sql`${value('lastAt')}`,
        choices: sql`${value('choices')}`,
        clicks: sql`${value('clicks')}`,
        firstPlace: sql`${value('firstPlace')}`,
        conversions: sql`${value('conversions')}`,
        refinedTo: sql`${value('refinedTo')}`,
      })
      .where(eq(id, value('id')))
      .prepare(),
    answered: db
      .insert(settledAnswers)
      .values({ queryId: value('queryId'), searchId: value('searchId') })
      .onConflictDoNothing()
      .prepare(),
    openTrails: db.select().from(searchLog).orderBy(asc(searchLog.session), asc(searchLog.id)).prepare(),
    settled: db
      .delete(searchLog)
      .where(eq(searchLog.id, value('id')))
      .prepare(),
  };
}

export class SearchCounter {
  readonly #db: Db;
  readonly #secret: string;
  readonly #counts: Counts;
  readonly #ask: ReturnType<typeof statements>;
  readonly #paces = new Map<string, { since: number; searches: number }>();
  /** The number of the last event that was taken in. */
  #seenEvent: number;

  /** `secret`: what visits and viewers are hashed with before anything is kept. */
  constructor(db: Db, secret: string, limits?: CountLimits) {
    this.#db = db;
    this.#secret = secret;
    this.#counts = new Counts(db.$client, limits);
    this.#ask = statements(db);
    this.#seenEvent = db.select().from(insightState).where(eq(insightState.name, EVENTS)).get()?.value ?? 0;
  }

  /**
   * Takes in searches and the events up to a number, and counts what has settled by `now`. Events are those of searches
   * of this batch or of earlier ones.
   */
  take({ searches, weight }: LogBatch, lastEvent: number, now: number): void {
    this.#inOne(() => {
      const rows = searches
        .filter(({ session, at }) => !this.#isMachine(session, at))
        .map(({ session, viewer, q, select, tags, ...rest }) => ({
          ...rest,
          session: this.hashed(session),
          visitor: this.hashed(viewer ?? session),
          q: masked(q),
          choices: select && Object.keys(select).length > 0 ? JSON.stringify(select) : null,
          tags: JSON.stringify(tags),
          weight,
        }));
      for (let at = 0; at < rows.length; at += 500) this.#db.insert(searchLog).values(rows.slice(at, at + 500)).run(); // prettier-ignore
      this.#takeEvents(lastEvent);
      this.#settle(now);
    });
  }

  /** Counts searches that were meant, of another time or another system. */
  import(collectionId: number, searches: readonly PastSearch[]): void {
    this.#inOne(() => {
      for (const { at, q, session, viewer, total, ms = 0, tags = [], select, chosen = false, ...did } of searches) {
        const text = masked(q);
        const words = foldWords(text);
        if (words === '') continue;
        const when = Date.parse(at);
        const choices = select && Object.keys(select).length > 0 ? JSON.stringify(select) : null;
        const ids = { session: this.hashed(session), visitor: this.hashed(viewer ?? session) };
        const facts = { ...ids, text, words, total, ms, choices, tags: JSON.stringify(tags), chosen, weight: 1 };
        const row = this.#add({ at: when, lastAt: when, collectionId, ...facts });
        (did.shown ?? []).forEach((id, i) => this.#counts.record(row, id, 'shown', i + 1));
        for (const { recordId, position } of did.clicks ?? []) this.#click(row, recordId, position);
        for (let n = did.conversions ?? 0; n > 0; n--) this.#convert(row);
      }
    });
  }

  /** Erases what is kept of a visit, a viewer or a query, and takes it out of the sums; returns how many searches. */
  erase(collectionId: number, what: { session?: string; viewer?: string; query?: string }): number {
    const { session, viewer, query } = what;
    const of = [
      eq(settledSearches.collectionId, collectionId),
      ...(session === undefined ? [] : [eq(settledSearches.session, this.hashed(session))]),
      ...(viewer === undefined ? [] : [eq(settledSearches.visitor, this.hashed(viewer))]),
      ...(query === undefined ? [] : [eq(settledSearches.words, foldWords(query))]),
    ];
    return this.#inOne(() => {
      const rows = this.#db.select().from(settledSearches).where(and(...of)).all(); // prettier-ignore
      for (const row of rows) this.#forget(row);
      this.#counts.write();
      this.#forgetTrials(collectionId, new Set(rows.map((row) => row.session)), query);
      if (query !== undefined)
        for (const table of ['insight_queries', 'insight_refined', 'insight_ranks'])
          this.#db.$client
            .prepare(`delete from ${table} where collection_id = ? and words = ?`)
            .run(collectionId, foldWords(query));
      if (query !== undefined)
        this.#db.$client
          .prepare('delete from insight_refined where collection_id = ? and next = ?')
          .run(collectionId, foldWords(query));
      const logged = [
        eq(searchLog.collectionId, collectionId),
        ...(session === undefined ? [] : [eq(searchLog.session, this.hashed(session))]),
        ...(viewer === undefined ? [] : [eq(searchLog.visitor, this.hashed(viewer))]),
      ];
      if (query === undefined) this.#db.delete(searchLog).where(and(...logged)).run(); // prettier-ignore
      return rows.length;
    });
  }

  /** What stands for an id that a page made. */
  hashed(id: string): string {
    return hashedId(this.#secret, id);
  }

  #inOne<T>(run: () => T): T {
    const counts = this.#counts;
    try {
      return this.#db.$client
        .transaction(() => {
          const result = run();
          counts.write();
          return result;
        })
        .immediate();
    } finally {
      counts.drop();
    }
  }

  #isMachine(session: string, at: number): boolean {
    const pace = this.#paces.get(session);
    if (pace === undefined || at - pace.since > MACHINE.withinMs) {
      if (this.#paces.size > 50_000) this.#paces.clear();
      this.#paces.set(session, { since: at, searches: 1 });
      return false;
    }
    return ++pace.searches > MACHINE.searches;
  }

  /** Events of queries that are settled; those of open trails are looked for when these settle. */
  #takeEvents(upTo: number): void {
    if (upTo <= this.#seenEvent) return;
    const rows = this.#db
      .select()
      .from(visitorEvents)
      .where(and(gt(visitorEvents.id, this.#seenEvent), lte(visitorEvents.id, upTo)))
      .orderBy(asc(visitorEvents.id))
      .limit(EVENTS_AT_ONCE)
      .all();
    for (const event of rows) {
      const found = this.#ask.byAnswer.get({ queryId: event.queryId });
      if (found) this.#did(found.search, event);
    }
    const value = rows.length < EVENTS_AT_ONCE ? upTo : rows.at(-1)!.id;
    this.#db
      .insert(insightState)
      .values({ name: EVENTS, value })
      .onConflictDoUpdate({ target: insightState.name, set: { value } })
      .run();
    this.#seenEvent = value;
  }

  #settle(now: number): void {
    const rows = this.#ask.openTrails.all();
    if (rows.length === 0) return;
    const acted = new Set(this.#ask.actedUpon.all({ upTo: this.#seenEvent }).map(({ queryId }) => queryId));
    for (let at = 0; at < rows.length;) {
      const { session, collectionId } = rows[at]!;
      let end = at;
      while (end < rows.length && rows[end]!.session === session && rows[end]!.collectionId === collectionId) end++;
      this.#settleVisit(rows.slice(at, end), acted, now);
      at = end;
    }
  }

  #settleVisit(rows: readonly LogRow[], acted: ReadonlySet<string>, now: number): void {
    const visit = rows.map((row): VisitSearch & { row: LogRow } => ({
      at: row.at,
      q: row.q,
      chosen: row.chosen,
      acted: acted.has(row.queryId),
      row,
    }));
    const { settled, open } = settle(visit, now);
    if (open.length === rows.length) return;
    for (const one of settled) this.#count(one);
    const isOpen = new Set(open.map(({ row }) => row.id));
    for (const { id } of rows) if (!isOpen.has(id)) this.#ask.settled.run({ id });
  }

  #count({ search, words, trail }: Settled<VisitSearch & { row: LogRow }>): void {
    const { at, collectionId, session, visitor, q: text, choices, ms, tags, chosen, weight } = search.row;
    const facts = { at, collectionId, session, visitor, choices, ms, tags, chosen, weight };
    const same = trail.filter(({ row }) => foldWords(row.q) === words).map(({ row }) => row);
    // What is found for the words alone, whatever is chosen afterwards.
    const { total } = same.find(({ choices }) => choices === null) ?? search.row;
    const row = this.#add({ ...facts, total, text, words, lastAt: search.at });
    for (const { row: logged } of trail) {
      if (logged.choices !== null && logged.choices !== row.choices) this.#chose(row, logged.choices);
      this.#ask.answered.run({ queryId: logged.queryId, searchId: row.id });
      for (const event of this.#ask.eventsOf.all({ queryId: logged.queryId, upTo: this.#seenEvent }))
        this.#did(row, event);
    }
  }

  /** A settled search, or the one of this visit that it is again. */
  #add(facts: Omit<SettledRow, 'id' | 'clicks' | 'firstPlace' | 'conversions' | 'refinedTo'>): SettledRow {
    const before = this.#ask.lastOfVisit.get({ session: facts.session, collectionId: facts.collectionId });
    const since = before ? facts.at - before.lastAt : Infinity;
    if (before && before.words === facts.words && since < SAME_SEARCH_MS) {
      before.lastAt = facts.at;
      this.#ask.change.run({ ...before });
      if (facts.choices !== null && facts.choices !== before.choices) this.#chose(before, facts.choices);
      return before;
    }
    const { choices, ...plain } = facts;
    const row = this.#ask.settle.get({ ...plain });
    this.#counts.search(row);
    if (choices !== null) this.#chose(row, choices);
    if (before && before.clicks === 0 && before.refinedTo === null && since < REFINED_MS) {
      before.refinedTo = row.id;
      this.#ask.change.run({ ...before });
      this.#counts.refined(before, row);
    }
    return row;
  }

  /** Choices made with the words of a search: each value counts once in it. */
  #chose(row: SettledRow, choices: string): void {
    const known = valuesOf(row.choices);
    const has = new Set(known.map(String));
    const more = valuesOf(choices).filter((one) => !has.has(String(one)));
    if (more.length === 0) return;
    this.#counts.choices(row, more);
    row.choices = JSON.stringify(asSelect([...known, ...more]));
    this.#ask.change.run({ ...row });
  }

  #did(row: SettledRow, { type, recordId, position }: EventRow): void {
    if (type === 'view') this.#counts.record(row, recordId, 'shown', position);
    if (type === 'click') this.#click(row, recordId, position);
    if (type === 'convert') this.#convert(row);
  }

  #click(row: SettledRow, recordId: string, position: number | null): void {
    this.#counts.record(row, recordId, 'clicked', position);
    if (row.clicks === 0) {
      row.firstPlace = position ?? 1;
      this.#counts.acted(row, { clicked: 1, place: row.firstPlace });
    }
    row.clicks++;
    this.#ask.change.run({ ...row });
  }

  #convert(row: SettledRow): void {
    row.conversions++;
    this.#counts.acted(row, { conversions: 1 });
    this.#ask.change.run({ ...row });
  }

  /** What was opened in a trial: of some visits, or of a query. */
  #forgetTrials(collectionId: number, visits: ReadonlySet<string>, query: string | undefined): void {
    const ofTrials = 'trial_id in (select id from visitor_trials where collection_id = ?)';
    const client = this.#db.$client;
    if (query !== undefined)
      client
        .prepare(`delete from visitor_trial_clicks where ${ofTrials} and words = ?`)
        .run(collectionId, foldWords(query));
    else
      for (const visit of visits)
        client.prepare(`delete from visitor_trial_clicks where ${ofTrials} and visit = ?`).run(collectionId, visit);
  }

  #forget(row: SettledRow): void {
    this.#counts.search(row, -1);
    this.#counts.choices(row, valuesOf(row.choices), -1);
    const clicked = row.clicks > 0 ? 1 : 0;
    this.#counts.acted(row, { clicked, place: row.firstPlace ?? 0, conversions: row.conversions }, -1);
    const next =
      row.refinedTo === null
        ? undefined
        : this.#db.select().from(settledSearches).where(eq(settledSearches.id, row.refinedTo)).get();
    if (next) this.#counts.refined(row, next, -1);
    const answers = this.#db.select().from(settledAnswers).where(eq(settledAnswers.searchId, row.id)).all();
    for (const { queryId } of answers) this.#db.delete(visitorEvents).where(eq(visitorEvents.queryId, queryId)).run();
    this.#db.delete(settledAnswers).where(eq(settledAnswers.searchId, row.id)).run();
    this.#db.delete(settledSearches).where(eq(settledSearches.id, row.id)).run();
  }
}

/** Values of choices, each with its facet; a range counts as a choice without a value. */
function valuesOf(choices: string | null): [facet: string, value: string][] {
  if (choices === null) return [];
  return Object.entries(JSON.parse(choices) as Record<string, unknown>).flatMap(([facet, chosen]) =>
    Array.isArray(chosen) ? chosen.map((value): [string, string] => [facet, String(value)]) : [[facet, '']],
  );
}

function asSelect(values: readonly (readonly [facet: string, value: string])[]): Record<string, string[]> {
  const select = new Map<string, string[]>();
  for (const [facet, value] of values) select.set(facet, [...(select.get(facet) ?? []), value]);
  return Object.fromEntries(select);
}
